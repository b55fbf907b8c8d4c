// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/part_form.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

#include "core/catalogue/kinds.h"
#include "core/job/part_type_fields.h"
#include "core/job/place_values.h"

namespace conductus::job {

using catalogue::Body;
using catalogue::Catalogue;
using catalogue::PartType;
using limits::Range;

namespace {

/// Words for the keys whose own letters do not say it.
std::string field_name(std::string_view key) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 64> table{{
        {"id", "id"},
        {"price", "typical price, EUR"},
        {"thermal_K_per_W", "warms its surroundings by"},
        {"from_mm", "begins behind the body's start by"},
        {"up_mm", "its middle lies above the part's by"},
        {"side_mm", "its middle lies to the side by"},
        {"continuous_A", "continuous current"},
        {"resistance_Ohm", "resistance"},
        {"series", "cells or LEDs one behind the other"},
        {"parallel", "rows side by side"},
        {"charge_A", "may be charged with"},
        {"trip_A", "trips at"},
        {"trip_after_s", "trips after"},
        {"cut_off_V", "cuts off at"},
        {"adds_mm", "lengthens the cell by"},
        {"takes", "size that goes in"},
        {"bay", "size of the bay it fills"},
        {"contacts_Ohm", "contacts, both ends together"},
        {"in_hilt", "stays in the hilt"},
        {"cells", "cells one behind the other"},
        {"balances", "looks after each cell"},
        {"gives_up_s", "safety timer"},
        {"active_A", "lit, without sound"},
        {"idle_A", "idle"},
        {"sleep_A", "asleep"},
        {"pad_resistance_Ohm", "transistor of a pad"},
        {"pad_rating_A", "a pad carries"},
        {"total_rating_A", "all pads together carry"},
        {"max_pixels", "pixels on one data line"},
        {"clean_min_V", "sound is clean from"},
        {"boosted_rail", "its sound rail is boosted"},
        {"headroom_V", "amplifier stays below its rail by"},
        {"amplifier_efficiency", "efficiency of its amplifier"},
        {"reset_V", "resets at"},
        {"most_V", "supply it stands"},
        {"logic_V", "high level of its data lines"},
        {"max_lights", "lights of their own"},
        {"capacitor_F", "capacitor across its supply"},
        {"card_edge", "its card is drawn at"},
        {"port_edge", "its data port is plugged at"},
        {"contact_Ohm", "contact"},
        {"forward_V", "forward voltage"},
        {"stated_A", "stated current"},
        {"most_A", "current it stands"},
        {"slope_V", "slope of its exponential"},
        {"series_Ohm", "resistance behind it"},
        {"luminous", "light (plain 5050, all colours: 1)"},
        {"built_in_Ohm", "resistor inside, of each die"},
        {"junction_K_per_W", "from a die to its back"},
        {"hottest_die_degC", "hottest a die may be"},
        {"light_share", "share of its power that leaves as light"},
        {"usual_Ohm", "value where none is chosen"},
        {"full_A", "full current"},
        {"on_V", "lights from"},
        {"knee_V", "knee"},
        {"quiet_A", "quiet current"},
        {"segment_Ohm", "copper from pixel to pixel, both rails"},
        {"rail_Ohm_per_m", "copper of each rail"},
        {"charge", "at a charge of"},
        {"times", "times its resistance"},
        {"quick_share", "quick lag, share of its resistance"},
        {"slow_share", "slow lag, share of its resistance"},
        {"quick_s", "time constant of the quick lag"},
        {"slow_s", "time constant of the slow lag"},
    }};
    for (const auto& [k, words] : table)
        if (k == key) return std::string(words);
    std::string_view stem = key;
    for (const std::string_view end :
         {"_per_m", "_K_per_W", "_degC", "_Ohm", "_mAh", "_mm", "_s", "_A", "_V", "_W", "_F", "_g"})
        if (stem.ends_with(end)) {
            stem.remove_suffix(end.size());
            break;
        }
    std::string words(stem);
    std::replace(words.begin(), words.end(), '_', ' ');
    return words;
}

/// One of a list: "/led/dies" has dies.
std::string_view one_of(std::string_view list) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 5> table{
        {{"terminals", "terminal"},
         {"dies", "die"},
         {"channels", "channel"},
         {"pieces", "piece"},
         {"by_charge", "point by charge"}}};
    for (const auto& [many, one] : table)
        if (list.ends_with(many)) return one;
    return list;
}

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

/// A visitor of describe() that finds what a catalogue file may not say.
class Judges {
public:
    explicit Judges(std::optional<Problem>& first, std::string at = {})
        : first_(first), at_(std::move(at)) {}

    void text(const char* key, const std::string& v) {
        if (v.empty()) refuse(key, "nothing is written here", "Write a word");
        usual_text(key, v);
    }
    void usual_text(const char* key, const std::string& v) {
        if (v.size() > limits::text_length)
            refuse(key, fmt::format("the text has {} letters", v.size()),
                   fmt::format("Keep it under {}", limits::text_length));
    }
    template <class N>
    void number(const char* key, const N& v, Range range) {
        if (!range.holds(plain(v)))
            refuse(key, fmt::format("{} is out of range", plain(v)),
                   fmt::format("It lies between {} and {}", range.least, range.most));
    }
    template <class N>
    void usual_number(const char* key, const N& v, Range range) {
        number(key, v, range);
    }
    void integer(const char* key, int v, Range range) { number(key, double(v), range); }
    void usual_integer(const char* key, int v, Range range) { number(key, double(v), range); }
    void flag(const char*, bool) {}
    template <class E>
    void word(const char*, E) {}
    template <class E>
    void usual_word(const char*, E) {}
    template <class T>
    void object(const char* key, const T& v) {
        Judges inner(first_, at_ + "/" + key);
        describe(inner, v);
    }
    template <class T>
    void optional_object(const char* key, const T& v) {
        if (v != T{}) object(key, v);
    }
    template <class T>
    void list(const char* key, const std::vector<T>& values) {
        for (std::size_t i = 0; i < values.size(); ++i) {
            const std::string here = fmt::format("{}/{}/{}", at_, key, i);
            if constexpr (!std::is_same_v<T, std::string>) {
                Judges inner(first_, here);
                describe(inner, values[i]);
            }
        }
    }
    template <class T>
    void optional_list(const char* key, const std::vector<T>& values) {
        list(key, values);
    }
    template <class What, class Mend>
    void invalid(const char* key, const What& what, const Mend& mend) {
        refuse(key, what, mend);
    }

private:
    void refuse(const char* key, Message what, Message mend) {
        if (!first_) first_ = Problem{at_ + "/" + key, std::move(what), std::move(mend)};
    }
    std::optional<Problem>& first_;
    std::string at_;
};

/// Nothing typed is what a part begins with: the usual value of that place.
std::optional<std::string> usual_at(const PartType& type, std::string_view at) {
    PartType usual;
    const std::size_t kind = type.figures.index();
    usual = usual_type(kind);
    // Elements of lists have the usual values of their own kind.
    std::string place;
    for (std::string_view rest = at; !rest.empty();) {
        const auto [name, deeper] = first_name(rest);
        place += "/" + std::string(index_of(name) ? "0" : name);
        rest = deeper;
    }
    Shows shows{{}, {}};
    Walk<Shows> walk(place, shows);
    describe(walk, std::as_const(usual));
    return shows.out;
}

/// Usual values for the fields that a word brought: lengths that are none are as the others.
void complete(PartType& type) {
    const auto body = [](auto& b) {
        const Millimetre some = b.diameter > Millimetre(0) ? b.diameter
                                : b.width > Millimetre(0)  ? b.width
                                                           : Millimetre(5);
        if (!(b.diameter > Millimetre(0))) b.diameter = some;
        if (!(b.width > Millimetre(0))) b.width = some;
        if (!(b.height > Millimetre(0))) b.height = some;
    };
    body(type.body);
    if (type.body.shape == Body::Shape::compound && type.body.pieces.empty()) {
        catalogue::BodyPiece piece;
        piece.length = type.body.length;
        type.body.pieces.push_back(piece);
    }
    for (auto& piece : type.body.pieces)
        body(piece);
    const auto usual = usual_type(type.figures.index());
    const auto fill = [](auto& value, const auto& from) {
        if (!(value.value() > 0)) value = from;
    };
    if (auto* driver = std::get_if<catalogue::Driver>(&type.figures)) {
        const auto& from = std::get<catalogue::Driver>(usual.figures);
        fill(driver->dropout, from.dropout);
        if (!(driver->pass.value() > 0)) driver->efficiency = from.efficiency;
        fill(driver->pass, from.pass);
    }
    if (auto* regulator = std::get_if<catalogue::Regulator>(&type.figures))
        fill(regulator->pass, std::get<catalogue::Regulator>(usual.figures).pass);
    if (auto* string = std::get_if<catalogue::SegmentedString>(&type.figures))
        if (!(string->flash.forward > Volt(0))) string->flash = string->die;
    if (auto* connector = std::get_if<catalogue::Connector>(&type.figures)) {
        if (connector->pixel.empty()) connector->pixels = 0;
        if (!connector->pixel.empty() && connector->pixels == 0) connector->pixels = 1;
    }
}

/// What has no field is not there: a file could not say it.
void tidy(PartType& type) {
    const auto body = [](auto& b) {
        if (b.shape != Body::Shape::cylinder) b.diameter = {};
        if (b.shape != Body::Shape::box) b.width = b.height = {};
    };
    body(type.body);
    if (type.body.shape != Body::Shape::compound) type.body.pieces.clear();
    for (auto& piece : type.body.pieces)
        body(piece);
    if (auto* driver = std::get_if<catalogue::Driver>(&type.figures)) {
        const catalogue::Driver none;
        if (driver->method == catalogue::Driver::Method::linear) {
            driver->pass = none.pass, driver->efficiency = none.efficiency;
            driver->quiet = none.quiet, driver->least = none.least;
        } else {
            driver->dropout = none.dropout;
        }
    }
    if (auto* regulator = std::get_if<catalogue::Regulator>(&type.figures)) {
        const catalogue::Regulator none;
        if (regulator->method == catalogue::Regulator::Method::low_drop)
            regulator->efficiency = none.efficiency, regulator->least = none.least;
        else
            regulator->pass = none.pass;
    }
    if (auto* string = std::get_if<catalogue::SegmentedString>(&type.figures))
        if (!string->has_flash) {
            const catalogue::SegmentedString none;
            string->flash_series = none.flash_series, string->flash_parallel = none.flash_parallel;
            string->flash = none.flash, string->flash_resistor = none.flash_resistor;
        }
}

/// A die that can be.
catalogue::Die usual_die() {
    catalogue::Die die;
    die.colour = 'R';
    die.forward = Volt(2);
    die.stated = Ampere(0.02);
    die.most = Ampere(0.03);
    die.luminous = 0.28;
    return die;
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
    void list(std::vector<catalogue::BodyPiece>& v) {
        catalogue::BodyPiece piece;
        piece.length = piece.width = piece.height = piece.diameter = Millimetre(5);
        add(v, piece);
    }

private:
    template <class T>
    void add(std::vector<T>& v, T usual) {
        if constexpr (!std::is_same_v<T, catalogue::BodyPiece>)
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
    // A colour is a letter of its own, read and written by itself.
    const bool colour = at.ends_with("/colour");
    std::string meant = typed;
    if (colour && typed.size() == 1)
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
    Judges judges(first);
    describe(judges, type);
    if (first) return tl::unexpected(*first);
    return {};
}

PartType usual_type(std::size_t kind) {
    PartType type;
    type.id = "usual";
    type.name = fmt::format("{} of one's own", catalogue::kinds().at(kind).word);
    type.body = {Body::Shape::box, Millimetre(10), Millimetre(10),
                 Millimetre(10),   Millimetre(10), {}};
    type.mass = Gram(1);
    type.thermal = KelvinPerWatt(50);
    const auto make = [&]<std::size_t... I>(std::index_sequence<I...>) {
        ((I == kind ? void(type.figures.emplace<I>()) : void()), ...);
    };
    make(std::make_index_sequence<std::variant_size_v<catalogue::Figures>>());
    std::visit(
        catalogue::EachKind{
            [](catalogue::Cell& c) {
                c.size = "18650";
                c.capacity = MilliAmpereHour(3000);
                c.continuous = Ampere(10);
                c.resistance = Ohm(0.03);
            },
            [](catalogue::Protection& p) {
                p.resistance = Ohm(0.02);
                p.trip = Ampere(10);
                p.cut_off = Volt(2.5);
                p.adds = Millimetre(3);
            },
            [](catalogue::Board& b) {
                b.active = Ampere(0.06), b.idle = Ampere(0.03), b.sleep = Ampere(6e-5);
                b.pad_resistance = Ohm(0.008), b.pad_rating = Ampere(6);
                b.total_rating = Ampere(10), b.max_pixels = 400;
                b.clean_min = Volt(3), b.headroom = Volt(0.3), b.reset = Volt(2.7);
                b.cut_off = Volt(2.85);
            },
            [](catalogue::Speaker& s) { s.impedance = Ohm(8), s.power = Watt(2); },
            [](catalogue::Kill& k) { k.contact = Ohm(0.02), k.rating = Ampere(5); },
            [](catalogue::Button&) {},
            [](catalogue::Connector& c) { c.pin_resistance = Ohm(0.03), c.pin_rating = Ampere(3); },
            [](catalogue::Pixel& p) {
                p.channels.resize(3);
                for (std::size_t i = 0; i < 3; ++i) {
                    p.channels[i].colour = "RGB"[i];
                    p.channels[i].full = Ampere(0.012);
                    p.channels[i].on = Volt(i == 0 ? 1.95 : 2.9);
                }
                p.knee = Volt(0.45), p.quiet = Ampere(0.0008);
            },
            [](catalogue::Strip& s) {
                s.pixel = "pixel.rgb-5050", s.density = PerMetre(144);
                s.rail = OhmPerMetre(0.33), s.width = Millimetre(10);
            },
            [](catalogue::Spacer&) {},
            [](catalogue::PixelGroup& g) { g.pixel = "pixel.rgb-5050"; },
            [](catalogue::Led& l) { l.dies = {usual_die()}; },
            [](catalogue::SegmentedString& s) { s.die = s.flash = usual_die(); },
            [](catalogue::Resistor& r) { r.usual = Ohm(100), r.power = Watt(0.25); },
            [](catalogue::Driver& d) {
                d.current = Ampere(1), d.most = Ampere(1.5), d.dropout = Volt(0.15);
                d.pass = Ohm(0.1), d.efficiency = 0.9;
            },
            [](catalogue::Regulator& r) {
                r.volts = Volt(3.3), r.output = Ohm(0.02), r.pass = Ohm(0.3);
                r.limit = Ampere(1), r.efficiency = 0.9;
            },
            [](catalogue::Fuse& f) {
                f.resistance = Ohm(0.01), f.hold = Ampere(7.5), f.trip = Ampere(10);
            },
            [](catalogue::Display&) {},
            [](catalogue::Shifter&) {},
            [](catalogue::Port& p) { p.rating = Ampere(2); },
            [](catalogue::Adapter& a) { a.takes = "18350", a.bay = "18650"; },
            [](catalogue::Charger& c) { c.current = Ampere(1); },
            [](catalogue::Jack& j) { j.rating = Ampere(2); },
        },
        type.figures);
    return type;
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
