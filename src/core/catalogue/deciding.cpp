// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/catalogue/deciding.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <optional>
#include <utility>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"

namespace conductus::catalogue {
namespace {

using Decide = std::vector<Deciding>;

Deciding rating(Ampere a) { return {a.value(), "A", true}; }
Deciding ohms(Ohm r) { return {r.value(), "Ohm"}; }
/// `what` in the plural.
Deciding counted(int n, std::string what) {
    if (n == 1) what.pop_back();
    return {static_cast<double>(n), std::move(what)};
}

int pads(const PartType& type, char first) {
    return static_cast<int>(
        std::count_if(type.terminals.begin(), type.terminals.end(), [first](const std::string& t) {
            return t.size() > 1 && t[0] == first && std::isdigit(static_cast<unsigned char>(t[1]));
        }));
}

Decide of_led(const Led& led) {
    Decide all;
    if (led.dies.empty()) return all;
    all.push_back(counted(static_cast<int>(led.dies.size()), "dies"));
    all.push_back({led.dies.front().stated.value(), "A"});
    all.push_back({led.dies.front().forward.value(), "V"});
    return all;
}

std::string lower(std::string_view s) {
    std::string all(s);
    for (char& c : all)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return all;
}

std::vector<std::string> words_in(std::string_view text) {
    std::vector<std::string> all;
    std::string word;
    for (const char c : lower(text) + " ") {
        if (c == ' ' || c == ',' || c == ';' || c == '(' || c == ')') {
            if (!word.empty()) all.push_back(std::exchange(word, {}));
        } else {
            word += c;
        }
    }
    return all;
}

std::optional<double> number_in(std::string_view word) {
    double value = 0;
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
    if (error != std::errc() || end == word.data()) return std::nullopt;
    return value;
}

/// "15a" as 15 and "a"; "5" as 5 and nothing.
std::pair<std::optional<double>, std::string> split(const std::string& word) {
    std::size_t end = 0;
    while (end < word.size() &&
           (std::isdigit(static_cast<unsigned char>(word[end])) || word[end] == '.'))
        ++end;
    return {number_in(std::string_view(word).substr(0, end)), word.substr(end)};
}

/// A unit as people type it, with what one of it is in the figure's own.
std::optional<double> in_unit(double value, const std::string& typed, const std::string& unit) {
    const std::string own = lower(unit);
    if (typed == own) return value;
    if (own == "ohm" && typed == "Ω") return value;
    if (own == "a" && typed == "ma") return value * 1e-3;
    if (own == "v" && typed == "mv") return value * 1e-3;
    if (own == "w" && typed == "mw") return value * 1e-3;
    if (own == "ohm" && (typed == "mohm" || typed == "mΩ")) return value * 1e-3;
    if (own == "mah" && typed == "ah") return value * 1e3;
    // The unit alone of what says more: "mm" for "mm wide".
    if (own.find(' ') != std::string::npos && typed == own.substr(0, own.find(' '))) return value;
    // "pin" for "pins", and the other way round.
    if (own.size() > 1 && (typed + "s" == own || typed == own + "s")) return value;
    return std::nullopt;
}

bool serves(const Deciding& figure, double wanted) {
    const double slack = 1e-3 * std::abs(wanted) + 1e-12;
    return std::abs(figure.value - wanted) <= slack ||
           (figure.at_least_will_do && figure.value >= wanted - slack);
}

} // namespace

std::string Deciding::text() const { return with_unit(value, unit); }

std::vector<Deciding> deciding_figures(const PartType& type) {
    const Body& body = type.body;
    Decide all = std::visit(
        EachKind{
            [](const Cell& c) {
                Decide f{
                    {c.capacity.value(), "mAh", true}, rating(c.continuous), ohms(c.resistance)};
                if (c.series > 1) f.push_back(counted(c.series, "cells"));
                return f;
            },
            [](const Protection& p) {
                return Decide{rating(p.trip), {p.cut_off.value(), "V"}, ohms(p.resistance)};
            },
            [](const Board& b) {
                return Decide{rating(b.total_rating),
                              counted(b.max_pixels, "pixels"),
                              {b.clean_min.value(), "V"}};
            },
            [](const Speaker& s) {
                return Decide{ohms(s.impedance), {s.power.value(), "W", true}};
            },
            [](const Kill& k) {
                return Decide{rating(k.rating), ohms(k.contact)};
            },
            [](const Button& b) { return of_led(b.light); },
            [](const Connector& c) {
                Decide f{counted(c.plus_pins + c.minus_pins + c.data_pins, "pins"),
                         rating(c.pin_rating), ohms(c.pin_resistance)};
                if (c.pixels > 0) f.push_back(counted(c.pixels, "pixels"));
                return f;
            },
            [](const Pixel& p) {
                double amps = 0;
                for (const Channel& channel : p.channels)
                    amps += channel.full.value();
                return Decide{counted(static_cast<int>(p.channels.size()), "colours"), {amps, "A"}};
            },
            [](const Strip& s) {
                return Decide{{s.density.value(), "per metre"}, {s.rail.value(), "Ohm/m"}};
            },
            [](const Spacer&) { return Decide{}; },
            [](const PixelGroup& g) { return Decide{counted(g.count, "pixels")}; },
            [](const Led& l) { return of_led(l); },
            [](const SegmentedString& s) { return Decide{counted(s.segments, "segments")}; },
            [](const Resistor& r) {
                return Decide{ohms(r.usual), {r.power.value(), "W", true}};
            },
            [](const Driver& d) { return Decide{rating(d.most)}; },
            [](const Regulator& r) {
                return Decide{{r.volts.value(), "V"}, rating(r.limit)};
            },
            [](const Fuse& f) {
                return Decide{rating(f.hold), {f.trip.value(), "A"}};
            },
            [](const Display& d) {
                return Decide{{d.lit.value(), "A"}};
            },
            [](const Shifter& s) {
                return Decide{{s.quiet.value(), "A"}};
            },
            [](const Port& p) { return Decide{rating(p.rating)}; },
            [](const Adapter&) { return Decide{}; },
            [](const Bay& b) {
                return Decide{rating(b.rating), ohms(b.contacts)};
            },
            [](const Charger& c) {
                return Decide{rating(c.current), counted(c.cells, "cells")};
            },
            [](const Jack& j) {
                return Decide{rating(j.rating), ohms(j.contact)};
            }},
        type.figures);
    if (std::holds_alternative<Board>(type.figures)) {
        all.push_back(counted(pads(type, 'l'), "pads"));
        all.push_back(counted(pads(type, 's'), "buttons"));
    }
    if (body.diameter > Millimetre(0))
        all.push_back({body.diameter.value(), "mm wide"});
    else if (body.width > Millimetre(0))
        all.push_back({body.width.value(), "mm wide"});
    return all;
}

std::string deciding_text(const PartType& type) {
    std::string all;
    for (const Deciding& figure : deciding_figures(type))
        all += (all.empty() ? "" : ", ") + figure.text();
    return all;
}

bool is_asked_for(const PartType& type, std::string_view words) {
    const Kind& kind = kind_of(type.figures);
    std::vector<std::string> own = words_in(type.name);
    for (const std::string& more :
         {lower(kind.word), lower(kind.words), lower(kind.key), lower(type.id)})
        for (std::string& word : words_in(more))
            own.push_back(std::move(word));
    const auto figures = deciding_figures(type);
    const auto begins = [&](const std::string& word) {
        return std::any_of(own.begin(), own.end(),
                           [&](const std::string& w) { return w.starts_with(word); }) ||
               lower(type.id).find("." + word) != std::string::npos;
    };
    const auto asked = words_in(words);
    for (std::size_t i = 0; i < asked.size(); ++i) {
        auto [number, unit] = split(asked[i]);
        std::size_t used = i;
        if (number && unit.empty() && i + 1 < asked.size()) unit = asked[++used];
        const bool figure = number && !unit.empty() &&
                            std::any_of(figures.begin(), figures.end(), [&](const Deciding& f) {
                                const auto wanted = in_unit(*number, unit, f.unit);
                                return wanted && serves(f, *wanted);
                            });
        if (figure) {
            i = used;
            continue;
        }
        if (!begins(asked[i])) return false;
    }
    return true;
}

} // namespace conductus::catalogue
