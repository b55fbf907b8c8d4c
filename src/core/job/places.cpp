// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/places.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/base/parse.h"
#include "core/job/names.h"
#include "core/job/place_walk.h"
#include "core/job/tree.h"
#include "core/job/words.h"

namespace conductus::job {
namespace {

/// How a number of a field is typed: the unit shown, and how many of it are one of the field's own.
struct Typing {
    std::string_view unit;
    double per = 1;
    bool length = false;
};

Typing typing_of(std::string_view key, std::string_view wanted) {
    struct Known {
        std::string_view end, unit;
    };
    constexpr Known known[] = {
        {"_Ohm_per_m", "Ω/m"}, {"_degC", "°C"}, {"_Ohm", "Ω"}, {"_mAh", "mAh"}, {"_awg", "AWG"},
        {"_min", "min"},       {"_deg", "°"},   {"_mm", "mm"}, {"_s", "s"},     {"_A", "A"}};
    Typing t;
    for (const Known& k : known)
        if (key.ends_with(k.end)) {
            t.unit = k.unit;
            break;
        }
    t.length = t.unit == "mm";
    if (wanted == "%") t = {"%", 100};
    if (wanted == "mΩ" && t.unit == "Ω")
        t = {"mΩ", 1000};
    else if (!wanted.empty() && t.unit.empty())
        t.unit = wanted;
    return t;
}

/// The fewest digits that a person would write for it.
std::string digits(double value, double per) {
    std::string text = fmt::format("{:.10g}", value * per);
    if (std::stod(text) / per == value) return text;
    text = fmt::format("{:.15g}", value * per);
    return std::stod(text) / per == value ? text : fmt::format("{:.17g}", value * per);
}

Result<double> read_number(const std::string& typed, const Typing& how, limits::Range range) {
    Result<double> v = 0.0;
    if (how.length) {
        // Inches are no whole number of millimetres, and a millionth of one is nobody's reading.
        v = parse_length(typed).map(
            [](Millimetre mm) { return std::round(mm.value() * 1e6) / 1e6; });
    } else {
        v = parse_number(typed, how.unit);
        if (!v && how.unit == "Ω") v = parse_number(typed, "ohm");
        if (!v && how.unit == "°C") v = parse_number(typed, "°");
        if (v) *v /= how.per;
    }
    if (v && !range.holds(*v))
        return problem("", "this is out of range",
                       fmt::format("It lies between {:.10g} and {:.10g}{}{}", range.least * how.per,
                                   range.most * how.per,
                                   how.unit.empty() || how.unit == "°" ? "" : " ", how.unit));
    return v;
}

std::string trimmed(std::string_view text) {
    constexpr std::string_view space = " \t\r\n";
    const auto first = text.find_first_not_of(space);
    if (first == std::string_view::npos) return {};
    return std::string(text.substr(first, text.find_last_not_of(space) - first + 1));
}

double plain(double v) { return v; }
template <class Unit>
double plain(Quantity<Unit> v) {
    return v.value();
}

/// Writes the value as it is typed.
struct Shows {
    std::string_view unit;
    std::optional<std::string> out;

    void text(const std::string& v) { out = v; }
    void optional_text(const std::optional<std::string>& v) { out = v.value_or(""); }
    template <class T>
    void number(std::string_view key, const T& v, limits::Range) {
        out = digits(plain(v), typing_of(key, unit).per);
    }
    template <class T>
    void optional_number(std::string_view key, const std::optional<T>& v, limits::Range range) {
        out = "";
        if (v) number(key, *v, range);
    }
    void integer(std::string_view, int v, limits::Range) { out = fmt::format("{}", v); }
    void flag(bool v) { out = v ? "yes" : "no"; }
    template <class E>
    void word(const E& v) {
        out = std::string(job::word(v));
    }
    template <class T>
    void list(const T&) {}
};

/// Collects the words a value can be.
struct Offers : PassesOver {
    std::vector<std::string_view> out;

    void flag(bool) { out = {"yes", "no"}; }
    template <class E>
    void word(const E&) {
        for (const auto& [value, known] : Words<E>::table)
            out.push_back(known);
    }
};

/// Whether the word begins with what was typed, in any case.
bool begins(std::string_view word, std::string_view typed) {
    const auto lower = [](char c) { return std::tolower(static_cast<unsigned char>(c)); };
    return word.size() >= typed.size() &&
           std::equal(typed.begin(), typed.end(), word.begin(),
                      [&](char a, char b) { return lower(a) == lower(b); });
}

/// Reads what was typed into the value.
struct Takes {
    const std::string& typed;
    std::string_view unit;
    bool found = false;
    Result<void> done{};

    void text(std::string& v) {
        found = true;
        v = typed;
    }
    void optional_text(std::optional<std::string>& v) {
        found = true;
        v = typed.empty() ? std::nullopt : std::optional(typed);
    }
    template <class T>
    void number(std::string_view key, T& v, limits::Range range) {
        found = true;
        // Nothing typed is nothing of it, where nothing is possible.
        if (typed.empty() && range.holds(0)) {
            v = T(0);
            return;
        }
        const auto read = read_number(typed, typing_of(key, unit), range);
        read ? void(v = T(*read)) : void(done = tl::unexpected(read.error()));
    }
    template <class T>
    void optional_number(std::string_view key, std::optional<T>& v, limits::Range range) {
        found = true;
        if (typed.empty()) return v.reset();
        const auto read = read_number(typed, typing_of(key, unit), range);
        read ? void(v = T(*read)) : void(done = tl::unexpected(read.error()));
    }
    void integer(std::string_view key, int& v, limits::Range range) {
        found = true;
        if (typed.empty() && range.holds(0)) {
            v = 0;
            return;
        }
        const auto read = read_number(typed, typing_of(key, unit), range);
        if (!read)
            done = tl::unexpected(read.error());
        else if (*read != std::floor(*read))
            done = problem("", "this is no whole number", "Write a number without a decimal point");
        else
            v = static_cast<int>(*read);
    }
    void flag(bool& v) {
        found = true;
        v = typed == "yes";
    }
    template <class E>
    void word(E& v) {
        found = true;
        if (typed.empty()) {
            v = E{};
            return;
        }
        if (const auto exactly = from_word<E>(typed)) {
            v = *exactly;
            return;
        }
        std::vector<std::string_view> all;
        for (const auto& [value, known] : Words<E>::table) {
            if (begins(known, typed)) {
                v = value;
                return;
            }
            all.push_back(known);
        }
        done = problem("", say("'{}' is not known here", shown(typed, 60)),
                       say("Write one of: {}", conductus::joined(all, ", ")));
    }
    template <class T>
    void list(T&) {}
};

/// Whether the place is the reference or the name of an element of that list.
bool names(std::string_view at, std::string_view list, std::string_view key) {
    if (!at.starts_with(list) || !at.ends_with(key)) return false;
    const std::string_view between = at.substr(list.size(), at.size() - list.size() - key.size());
    return between.size() > 2 && between.front() == '/' && between.back() == '/' &&
           index_of(between.substr(1, between.size() - 2)).has_value();
}

/// Renames with everything that names the thing, where the place is such a name.
bool renamed(Job& job, std::string_view at, const std::string& was, const std::string& now) {
    const bool is_ref =
        at.ends_with("/ref") && !at.starts_with("/built/") && !at.starts_with("/variants/");
    if (is_ref)
        rename_ref(job, was, now);
    else if (names(at, "/looks", "name"))
        rename_look(job, was, now);
    else if (names(at, "/stretches", "name"))
        rename_stretch(job, was, now);
    else if (names(at, "/hilt/joints", "name"))
        rename_joint(job, was, now);
    else
        return false;
    return true;
}

/// The same of the boundaries between sections of the survey.
bool moved(Job& job, std::string_view at, const std::string& typed, Result<void>& done) {
    const bool from = names(at, "/hilt/sections", "from_mm");
    if (!from && !names(at, "/hilt/sections", "to_mm")) return false;
    const std::string_view inner = at.substr(std::string_view("/hilt/sections/").size());
    const auto index = index_of(inner.substr(0, inner.find('/')));
    if (!index || *index >= job.hilt.sections.size()) return false;
    const auto to = read_number(typed, {"mm", 1, true}, limits::place_mm);
    if (!to)
        done = tl::unexpected(to.error());
    else if (from && *index == 0)
        done = problem("", "the first section starts at 0", "Survey from the pommel end");
    else
        move_boundary(job.hilt, from ? *index - 1 : *index, Millimetre(*to));
    return true;
}

} // namespace

std::optional<std::string> typed_at(const Job& job, std::string_view at, std::string_view unit) {
    Shows shows{unit, {}};
    Walk<Shows> walk(at, shows);
    describe(walk, job);
    return shows.out;
}

std::vector<std::string_view> words_at(const Job& job, std::string_view at) {
    Offers offers;
    Walk<Offers> walk(at, offers);
    describe(walk, job);
    return offers.out;
}

Edit write_at(std::string at, std::string typed, std::string unit) {
    return [at = std::move(at), typed = trimmed(typed),
            unit = std::move(unit)](Job& job) -> Result<void> {
        const auto was = typed_at(job, at, unit);
        if (!was) return nowhere(at);
        if (*was == typed || renamed(job, at, *was, typed)) return {};
        Result<void> done;
        if (moved(job, at, typed, done)) return done;
        const auto take = [&](Job& into) {
            Takes takes{typed, unit};
            Walk<Takes> walk(at, takes);
            describe(walk, into);
            return takes.done;
        };
        // What is found on an item may be a figure its part is planned with.
        const auto [items, rest] = first_name(at);
        if (const auto index = index_of(first_name(rest).first); items == "inspection" && index) {
            Job found = job;
            if (auto ok = take(found); !ok) return ok;
            return inspect(*index, found.inspection.at(*index))(job);
        }
        return take(job);
    };
}

Result<double> number_typed(const std::string& typed, std::string_view unit, limits::Range range) {
    return read_number(typed, {unit, 1, unit == "mm"}, range);
}

Edit tick_at(std::string at, bool on) { return write_at(std::move(at), on ? "yes" : "no"); }

std::string said_place(const Job& job, std::string_view at) {
    const Node root = tree_of(job, {});
    const Node* node = &root;
    std::string said;
    std::string_view rest = at;
    while (!rest.empty()) {
        const auto [name, deeper] = first_name(rest);
        const Node* next = nullptr;
        if (node->kind == Node::Kind::list) {
            if (const auto index = index_of(name); index && *index < node->children.size())
                next = &node->children[*index];
        } else {
            for (const Node& child : node->children)
                if (child.key == name) next = &child;
        }
        if (!next) break;
        // A list says nothing beside its element.
        if (next->kind != Node::Kind::list || deeper.empty())
            said += (said.empty() ? "" : ", ") + next->title;
        node = next;
        rest = deeper;
    }
    return said.empty() ? std::string(at) : said;
}

} // namespace conductus::job
