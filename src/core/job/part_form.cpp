// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/part_form.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/catalogue/kinds.h"
#include "core/job/limits_visitor.h"
#include "core/job/part_type_fields.h"
#include "core/job/part_words.h"
#include "core/job/place_values.h"
#include "core/job/usual_parts.h"

namespace conductus::job {

using catalogue::Catalogue;
using catalogue::PartType;
using limits::Range;

namespace {

/// The unit a value reads best in: hundredths of an ampere are milliamperes.
std::string unit_for(std::string_view unit, double value) {
    if (unit.empty() || unit == "mm" || value == 0) return std::string(unit);
    const std::string milli = fmt::format("m{}", unit), micro = fmt::format("µ{}", unit);
    if (prefix_of(milli, unit) == 1) return std::string(unit);
    const double size = std::abs(value);
    return size < 1e-3 ? micro : size < 1 ? milli : std::string(unit);
}

std::string range_words(Range range, double per) {
    constexpr double open = 1e5;
    if (range.most >= open)
        return range.least <= 0     ? "0 or more"
               : range.least < 1e-6 ? "more than 0"
                                    : fmt::format("from {:.10g}", range.least * per);
    return fmt::format("{:.10g} to {:.10g}", range.least * per, range.most * per);
}

/// A visitor of describe() that lists what there is.
class Lists {
public:
    Lists(Form& form, std::string at, std::string group)
        : form_(form), at_(std::move(at)), group_(std::move(group)) {}

    void text(const char* key, const std::string& v) { add(key).typed = v; }
    void usual_text(const char* key, const std::string& v) {
        text(key, v);
        form_.fields.back().usual = true;
    }
    template <class N>
    void number(const char* key, const N& v, Range range) {
        FormField& field = add(key);
        const double value = plain(v);
        field.unit = unit_for(typing_of(key, {}).unit, value);
        const double per = typing_of(key, field.unit).per;
        field.typed = digits(value, per);
        field.may_be = range_words(range, per);
    }
    template <class N>
    void usual_number(const char* key, const N& v, Range range) {
        number(key, v, range);
        form_.fields.back().usual = true;
    }
    void integer(const char* key, int v, Range range) { number(key, double(v), range); }
    void usual_integer(const char* key, int v, Range range) { usual_number(key, double(v), range); }
    void flag(const char* key, bool v) {
        FormField& field = add(key);
        field.typed = v ? "yes" : "no";
        field.choices = {"yes", "no"};
    }
    void usual_flag(const char* key, bool v) {
        flag(key, v);
        form_.fields.back().usual = true;
    }
    template <class E>
    void word(const char* key, E v) {
        FormField& field = add(key);
        field.typed = job::word(v);
        for (const auto& [value, known] : Words<E>::table)
            field.choices.emplace_back(known);
    }
    template <class E>
    void usual_word(const char* key, E v) {
        word(key, v);
        form_.fields.back().usual = true;
    }
    template <class T>
    void object(const char* key, const T& v) {
        // The figures of its kind are the part's own.
        const bool own = catalogue::kind_named(key) != nullptr;
        Lists inner(form_, at_ + "/" + key, own ? group_ : joined(field_name(key)));
        describe(inner, v);
    }
    template <class T>
    void optional_object(const char* key, const T& v) {
        FormField& field = add(key);
        const bool there = v != T{};
        field.typed = there ? "yes" : "no";
        field.choices = {"yes", "no"};
        if (there) object(key, v);
    }
    template <class T>
    void list(const char* key, const std::vector<T>& values) {
        const std::string at = at_ + "/" + key;
        const std::string one(one_of(at));
        form_.lists.push_back({at, one, values.size()});
        for (std::size_t i = 0; i < values.size(); ++i) {
            const std::string here = fmt::format("{}/{}", at, i);
            const std::string called = fmt::format("{} {}", one, i + 1);
            if constexpr (std::is_same_v<T, std::string>) {
                form_.fields.push_back({here, group_, called, "", values[i], "", {}, false});
            } else {
                Lists inner(form_, here, joined(called));
                describe(inner, values[i]);
            }
        }
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        list(key, values);
    }
    template <class What, class Mend>
    void invalid(const char*, const What&, const Mend&) {}

private:
    FormField& add(const char* key) {
        return form_.fields.emplace_back(
            FormField{at_ + "/" + key, group_, field_name(key), {}, {}, {}, {}, false});
    }
    [[nodiscard]] std::string joined(const std::string& inner) const {
        return group_.empty() ? inner : group_ + ", " + inner;
    }
    Form& form_;
    std::string at_, group_;
};

/// Nothing typed is what a part begins with: the usual value of that place.
std::optional<std::string> usual_at(const PartType& type, std::string_view at) {
    const PartType usual = usual_type(type.figures.index());
    // Elements of lists have the usual values of their own kind.
    std::string place;
    for (std::string_view rest = at; !rest.empty();) {
        const auto [name, deeper] = first_name(rest);
        place += "/" + std::string(index_of(name) ? "0" : name);
        rest = deeper;
    }
    Shows shows{{}, {}};
    Walk<Shows> walk(place, shows);
    describe(walk, usual);
    return shows.out;
}

/// Adds one more to the list it is led to.
struct Adds : PassesOver {
    Result<void> done = nowhere("");

    void list(std::vector<std::string>& v) {
        for (std::size_t n = v.size() + 1;; ++n) {
            std::string name = fmt::format("t{}", n);
            if (std::find(v.begin(), v.end(), name) != v.end()) continue;
            v.push_back(std::move(name));
            break;
        }
        done = {};
    }
    void list(std::vector<catalogue::Die>& v) { add(v, usual_die()); }
    void list(std::vector<catalogue::Channel>& v) {
        catalogue::Channel channel;
        channel.full = Ampere(0.012);
        channel.on = Volt(2);
        add(v, channel);
    }
    void list(std::vector<catalogue::ByCharge>& v) {
        const double last = v.empty() ? -0.1 : v.back().charge;
        if (last >= 1) {
            done = problem("", "there is a point at full charge", "Take one out first");
            return;
        }
        v.push_back({std::min(1.0, last + 0.1), v.empty() ? 2.5 : 1.0});
        done = {};
    }
    void list(std::vector<catalogue::OrderDriven>& v) { add(v, {}); }
    void list(std::vector<catalogue::SoundKind>& v) { add(v, {}); }
    void list(std::vector<catalogue::BodyPiece>& v) {
        catalogue::BodyPiece piece;
        piece.length = piece.width = piece.height = piece.diameter = Millimetre(5);
        add(v, piece);
    }

private:
    template <class T>
    void add(std::vector<T>& v, T usual) {
        if constexpr (!std::is_same_v<T, catalogue::BodyPiece> &&
                      !std::is_same_v<T, catalogue::SoundKind>)
            if (v.size() >= 4) {
                done = problem("", "there may be four at most", "Take one out first");
                return;
            }
        if (!v.empty()) usual = v.back();
        v.push_back(std::move(usual));
        done = {};
    }
};

/// Takes an element out of the list it is led to.
struct TakesOut : PassesOver {
    std::size_t index = 0;
    bool done = false;
    template <class T>
    void list(std::vector<T>& v) {
        if (index >= v.size()) return;
        v.erase(v.begin() + static_cast<std::ptrdiff_t>(index));
        done = true;
    }
};

/// A light inside a button or port, by its place "/button/light".
catalogue::Led* light_at(PartType& type, std::string_view at) {
    if (auto* button = std::get_if<catalogue::Button>(&type.figures); at == "/button/light")
        return button ? &button->light : nullptr;
    if (auto* port = std::get_if<catalogue::Port>(&type.figures); at == "/port/light")
        return port ? &port->light : nullptr;
    return nullptr;
}

Result<PartType> judged(PartType type) {
    tidy(type);
    if (auto ok = check_type(type); !ok) return tl::unexpected(ok.error());
    return type;
}

} // namespace

const FormField* Form::find(std::string_view at) const {
    for (const FormField& field : fields)
        if (field.at == at) return &field;
    return nullptr;
}

Form form_of(const PartType& type, const Catalogue& parts) {
    Form form;
    Lists lists(form, {}, {});
    describe(lists, type);
    const std::string kind(catalogue::kind_of(type.figures).key);
    std::erase_if(form.fields, [](const FormField& f) { return f.at == "/kind"; });
    // What makes it the part it is comes first, its terminals last.
    const auto place = [&](const FormField& f) {
        return f.at == "/id" || f.at == "/name"     ? 0
               : f.at.starts_with("/" + kind + "/") ? 1
               : f.at.starts_with("/terminals/")    ? 3
                                                    : 2;
    };
    std::stable_sort(form.fields.begin(), form.fields.end(),
                     [&](const FormField& a, const FormField& b) { return place(a) < place(b); });
    for (FormField& field : form.fields) {
        const bool names_pixel = field.at == fmt::format("/{}/pixel", kind);
        if (!names_pixel) continue;
        for (const auto* pixel : parts.all<catalogue::Pixel>())
            field.choices.push_back(pixel->id);
        if (field.usual) field.choices.emplace_back();
    }
    return form;
}

std::string exact_at(const PartType& type, std::string_view at) {
    PartType with = type;
    if (const auto* light = light_at(with, at)) return light->dies.empty() ? "no" : "yes";
    Shows shows{{}, {}};
    Walk<Shows> walk(at, shows);
    describe(walk, type);
    return shows.out.value_or("");
}

Result<PartType> with_typed(const PartType& type, std::string_view at, const std::string& given,
                            std::string_view unit) {
    PartType with = type;
    const std::string typed = trimmed(given);
    if (auto* light = light_at(with, at)) {
        if (!begins("yes", typed) && !begins("no", typed))
            return problem("", "this is yes or no", "Write one of them");
        if (typed.empty() || begins("no", typed)) {
            *light = {};
        } else if (light->dies.empty()) {
            light->dies = {usual_die()};
            for (const char* terminal : {"led_plus", "led_minus"})
                if (std::find(with.terminals.begin(), with.terminals.end(), terminal) ==
                    with.terminals.end())
                    with.terminals.emplace_back(terminal);
        }
        if (light->dies.empty())
            std::erase_if(with.terminals,
                          [](const std::string& t) { return t.starts_with("led_"); });
        return judged(std::move(with));
    }
    std::string meant = typed;
    if (at.ends_with("/colour") && typed.size() == 1)
        meant =
            std::string(1, static_cast<char>(std::toupper(static_cast<unsigned char>(typed[0]))));
    if (typed.empty()) {
        const Form form = form_of(type, {});
        const FormField* field = form.find(at);
        if (field && field->usual && field->choices.empty() && !field->may_be.empty()) {
            meant = usual_at(type, at).value_or("0");
            unit = {};
        }
    }
    Takes takes{meant, unit};
    Walk<Takes> walk(at, takes);
    describe(walk, with);
    if (!takes.found) return nowhere(at);
    if (!takes.done) return tl::unexpected(takes.done.error());
    complete(with);
    return judged(std::move(with));
}

Result<PartType> with_one_more(const PartType& type, std::string_view list) {
    PartType with = type;
    Adds adds;
    Walk<Adds> walk(list, adds);
    describe(walk, with);
    if (!adds.done) return tl::unexpected(adds.done.error());
    return judged(std::move(with));
}

Result<PartType> without(const PartType& type, std::string_view element) {
    const auto [list, index] = split_element(element);
    if (!index) return nowhere(element);
    PartType with = type;
    TakesOut takes;
    takes.index = *index;
    Walk<TakesOut> walk(list, takes);
    describe(walk, with);
    if (!takes.done) return nowhere(element);
    return judged(std::move(with));
}

Result<void> check_type(const PartType& type) {
    std::optional<Problem> first;
    LimitsVisitor visitor(first);
    describe(visitor, type);
    for (const auto& [at, text] : {std::pair{"/id", &type.id}, {"/name", &type.name}})
        if (!first && text->empty()) first = Problem{at, "nothing is written here", "Write a word"};
    if (first) return tl::unexpected(*first);
    return {};
}

std::vector<Message> differences(const PartType& was, const PartType& now) {
    const Form before = form_of(was, {}), after = form_of(now, {});
    const auto called = [](const FormField& f) {
        return f.group.empty() ? f.name : f.group + ", " + f.name;
    };
    const auto shown = [](const FormField& f) {
        return f.unit.empty() ? f.typed : fmt::format("{}\u202f{}", f.typed, f.unit);
    };
    std::vector<Message> all;
    for (const FormField& f : after.fields) {
        const FormField* old = before.find(f.at);
        if (!old)
            all.push_back(say("{}: {}, was not there", called(f), shown(f)));
        else if (shown(*old) != shown(f))
            all.push_back(say("{}: {}, was {}", called(f), shown(f), shown(*old)));
    }
    for (const FormField& f : before.fields)
        if (!after.find(f.at))
            all.push_back(say("{}: no longer there, was {}", called(f), shown(f)));
    return all;
}

std::string purpose_of(const PartType& type, std::string_view terminal) {
    const catalogue::Takes takes = catalogue::takes(type.figures, terminal);
    std::string all;
    const auto add = [&](bool is, const char* word) {
        if (is) all += (all.empty() ? "" : ", ") + std::string(word);
    };
    add(takes.supply, "supply");
    add(takes.back, "return");
    add(takes.data, "data");
    add(takes.button, "button");
    add(takes.sound, "sound");
    return all;
}

} // namespace conductus::job
