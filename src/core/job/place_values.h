// SPDX-License-Identifier: GPL-3.0-or-later
// One value of a document as a person types it: shown, offered and taken. What core/job/places.cpp
// and part_form.cpp have in common, for the Walk of place_walk.h.
#pragma once

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/parse.h"
#include "core/job/place_walk.h"
#include "core/job/words.h"

namespace conductus::job {

/// How a number of a field is typed: the unit shown, and how many of it are one of the field's own.
struct Typing {
    std::string_view unit;
    double per = 1;
    bool length = false;
};

/// How many of `wanted` are one of `unit`: 1000 of mΩ in Ω; 1: it is not the same with a prefix.
inline double prefix_of(std::string_view wanted, std::string_view unit) {
    constexpr std::string_view with_prefixes[] = {"Ω", "A", "V", "W", "F"};
    if (std::find(std::begin(with_prefixes), std::end(with_prefixes), unit) ==
        std::end(with_prefixes))
        return 1;
    constexpr std::string_view milli = "m", micro = "µ", mu = "μ", u = "u";
    if (wanted.size() > unit.size() && wanted.ends_with(unit)) {
        const std::string_view prefix = wanted.substr(0, wanted.size() - unit.size());
        if (prefix == milli) return 1e3;
        if (prefix == micro || prefix == mu || prefix == u) return 1e6;
    }
    return 1;
}

/// The unit that was typed behind a number; empty: none.
inline std::string_view unit_typed(std::string_view typed) {
    const auto last = typed.find_last_not_of(" \t");
    if (last == std::string_view::npos) return {};
    typed = typed.substr(0, last + 1);
    const auto digit = typed.find_last_of("0123456789.,");
    if (digit == std::string_view::npos) return {};
    const auto unit = typed.find_first_not_of(" \t", digit + 1);
    return unit == std::string_view::npos ? std::string_view() : typed.substr(unit);
}

inline Typing typing_of(std::string_view key, std::string_view wanted) {
    struct Known {
        std::string_view end, unit;
    };
    constexpr Known known[] = {
        {"_Ohm_per_m", "Ω/m"}, {"_K_per_W", "K/W"}, {"_per_m", "per m"}, {"_degC", "°C"},
        {"_Ohm", "Ω"},         {"_mAh", "mAh"},     {"_awg", "AWG"},     {"_min", "min"},
        {"_deg", "°"},         {"_mm", "mm"},       {"_s", "s"},         {"_A", "A"},
        {"_V", "V"},           {"_W", "W"},         {"_F", "F"},         {"_g", "g"}};
    Typing t;
    for (const Known& k : known)
        if (key.ends_with(k.end)) {
            t.unit = k.unit;
            break;
        }
    t.length = t.unit == "mm";
    if (wanted == "%") t = {"%", 100};
    if (const double per = prefix_of(wanted, t.unit); per != 1)
        t = {wanted, per};
    else if (!wanted.empty() && t.unit.empty())
        t.unit = wanted;
    return t;
}

/// The fewest digits that a person would write for it.
inline std::string digits(double value, double per) {
    std::string text = fmt::format("{:.10g}", value * per);
    if (std::stod(text) / per == value) return text;
    text = fmt::format("{:.15g}", value * per);
    return std::stod(text) / per == value ? text : fmt::format("{:.17g}", value * per);
}

inline Result<double> read_number(const std::string& typed, const Typing& how,
                                  limits::Range range) {
    Result<double> v = 0.0;
    if (how.length) {
        // Inches are no whole number of millimetres, and a millionth of one is nobody's reading.
        v = parse_length(typed).map(
            [](Millimetre mm) { return std::round(mm.value() * 1e6) / 1e6; });
    } else {
        v = parse_number(typed, how.unit);
        // In another prefix than the one that stands there: "58 mΩ" where ohms do, "2 A" where mA.
        constexpr std::string_view bases[] = {"Ω", "A", "V", "W", "F"};
        const std::string_view said = unit_typed(typed);
        for (const std::string_view base : bases)
            if (!v && how.unit.ends_with(base) && (said == base || prefix_of(said, base) != 1))
                v = parse_number(typed, said).map([&](double value) {
                    return value / prefix_of(said, base) * prefix_of(how.unit, base);
                });
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

inline std::string trimmed(std::string_view text) {
    constexpr std::string_view space = " \t\r\n";
    const auto first = text.find_first_not_of(space);
    if (first == std::string_view::npos) return {};
    return std::string(text.substr(first, text.find_last_not_of(space) - first + 1));
}

inline double plain(double v) { return v; }
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
inline bool begins(std::string_view word, std::string_view typed) {
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
        if (!typed.empty() && begins("yes", typed))
            v = true;
        else if (begins("no", typed)) // nothing typed as well
            v = false;
        else
            done = problem("", say("'{}' is not known here", shown(typed, 60)), "Write yes or no");
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

} // namespace conductus::job
