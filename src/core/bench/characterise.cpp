// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/bench/characterise.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <fmt/format.h>

#include "core/bench/specimens.h"
#include "core/catalogue/kinds.h"
#include "core/power/cell_model.h"

namespace conductus::bench {
namespace {

using catalogue::Catalogue;
using catalogue::PartType;

struct SpecimenWord {
    std::string_view word;
    Specimen specimen;
};
constexpr SpecimenWord specimen_names[] = {
    {"strip", Specimen::strip},       {"pixel", Specimen::pixel},
    {"cell", Specimen::cell},         {"contact", Specimen::contact},
    {"switch", Specimen::contact},    {"wire", Specimen::contact},
    {"spring", Specimen::contact},    {"led", Specimen::led},
    {"board", Specimen::board},       {"kill", Specimen::contact},
    {"fuse", Specimen::contact},      {"resistor", Specimen::contact},
    {"connector", Specimen::contact}, {"jack", Specimen::contact},
    {"protection", Specimen::contact}};

Result<void> has(const Reading& r, std::size_t number, bool volts, bool amps) {
    if ((!volts || r.volts) && (!amps || r.amps)) return {};
    return problem(where_read(r, number).english(),
                   volts && !r.volts ? Message("the volts are missing")
                                     : Message("the amps are missing"),
                   "Each reading has both, or leave the line out");
}

Result<Characterised> of_contact(const Readings& readings, Ohm like) {
    Asked asked;
    asked.unknowns = {{{.start = std::max(like.value(), 1e-4),
                        .scale = std::max(like.value(), 1e-4),
                        .least = -1e6,
                        .most = 1e6,
                        .widest = 1e9},
                       "resistance",
                       "Ohm"}};
    double most = 0;
    for (std::size_t i = 0; i < readings.rows.size(); ++i) {
        const Reading& r = readings.rows[i];
        if (auto ok = has(r, i, true, true); !ok) return tl::unexpected(ok.error());
        most = std::max(most, std::abs(*r.amps));
        asked.sigma.push_back(volts_sigma(*r.volts));
        asked.millivolts.push_back(1e3);
        asked.whole.push_back(*r.volts);
        asked.line.push_back(i);
        asked.group.push_back(0);
    }
    if (most < 1e-6)
        return problem("", "no reading was taken under load", "Read the drop at a current");
    asked.residuals = [&](const std::vector<double>& v, std::vector<double>& out) {
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = *readings.rows[i].volts - v[0] * *readings.rows[i].amps;
    };
    std::vector<double> values;
    auto found = solved(Specimen::contact, asked, values);
    if (!found) return found;
    Found& r = found->parameters.front();
    if (r.value <= 0)
        return problem("",
                       "the readings contradict each other: the drop falls as the current rises",
                       "Read the drop again, with the probes the same way round");
    if (readings.metres && *readings.metres > 0) {
        Found per = r;
        per.name = "resistance per metre", per.unit = "Ohm/m";
        per.value /= *readings.metres, per.low /= *readings.metres, per.high /= *readings.metres;
        found->parameters.push_back(per);
    }
    found->overlay = {"amps", "drop, V", {{"drop", {}, {{0, 0}, {most, values[0] * most}}}}};
    for (const Reading& row : readings.rows)
        found->overlay.series[0].measured.push_back({*row.amps, *row.volts});
    return found;
}

Result<Characterised> of_led(const Readings& readings, const catalogue::Die& like) {
    if (readings.rows.size() < 2)
        return problem("", "an LED takes two points at least, and there are fewer",
                       "Read its volts at a small and at a large current");
    Asked asked;
    asked.unknowns = {
        {{.start = like.forward.value(), .scale = 1, .least = 0.3, .most = 60, .widest = 0.5},
         "forward voltage",
         "V"},
        {{.start = like.series.value(),
          .scale = std::max(like.series.value(), 0.2 / std::max(like.stated.value(), 1e-3)),
          .least = -1e3,
          .most = 1e5,
          .widest = 1},
         "series resistance",
         "Ohm"},
        {{.start = like.slope.value(),
          .scale = like.slope.value(),
          .least = 0.005,
          .most = 2,
          .widest = 0.5},
         "slope",
         "V"}};
    double least = INFINITY, most = 0;
    for (std::size_t i = 0; i < readings.rows.size(); ++i) {
        const Reading& r = readings.rows[i];
        if (auto ok = has(r, i, true, true); !ok) return tl::unexpected(ok.error());
        if (*r.amps <= 0)
            return problem(where_read(r, i).english(), "an LED is read while it is lit",
                           "Leave the line out");
        least = std::min(least, *r.amps), most = std::max(most, *r.amps);
        asked.sigma.push_back(volts_sigma(*r.volts));
        asked.millivolts.push_back(1e3);
        asked.whole.push_back(*r.volts);
        asked.line.push_back(i);
        asked.group.push_back(0);
    }
    if (most < 1.2 * least)
        return problem("", "the two points are at the same current",
                       "Read one at a third of the current, or less");
    const double stated = like.stated.value();
    const auto volts = [stated](const std::vector<double>& v, double amps) {
        return v[0] + v[2] * std::log(amps / stated) + v[1] * (amps - stated);
    };
    asked.residuals = [&](const std::vector<double>& v, std::vector<double>& out) {
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = *readings.rows[i].volts - volts(v, *readings.rows[i].amps);
    };
    // Two points say two things: the slope of the class stays.
    asked.unknowns[2].unknown.fixed = readings.rows.size() < 3;
    std::vector<double> values;
    auto found = solved(Specimen::led, asked, values);
    if (!found) return found;
    if (values[1] < 0 && found->parameters[1].high < 0)
        return problem("",
                       "the readings contradict each other: the volts fall as the current rises",
                       "Read them again while the LED is cool");
    found->overlay = {"amps", "volts", {{"LED", {}, {}}}};
    for (const Reading& row : readings.rows)
        found->overlay.series[0].measured.push_back({*row.amps, *row.volts});
    for (int i = 0; i <= 60; ++i) {
        const double amps = least * std::pow(most / least, i / 60.0);
        found->overlay.series[0].model.push_back({amps, volts(values, amps)});
    }
    return found;
}

Result<Characterised> of_board(const Readings& readings, const catalogue::Board& like) {
    struct State {
        const char* word;
        const char* name;
        double amps;
    };
    const State states[] = {{"active", "active current", like.active.value()},
                            {"idle", "idle current", like.idle.value()},
                            {"asleep", "asleep current", like.sleep.value()}};
    Asked asked;
    std::vector<std::size_t> of;
    for (const State& s : states) {
        const bool read = std::any_of(readings.rows.begin(), readings.rows.end(),
                                      [&](const Reading& r) { return r.condition == s.word; });
        asked.unknowns.push_back({{.start = s.amps,
                                   .scale = std::max(s.amps, 1e-6),
                                   .least = -1,
                                   .most = 50,
                                   .fixed = !read,
                                   .widest = 1e6},
                                  s.name,
                                  "A"});
    }
    for (std::size_t i = 0; i < readings.rows.size(); ++i) {
        const Reading& r = readings.rows[i];
        if (auto ok = has(r, i, false, true); !ok) return tl::unexpected(ok.error());
        const auto* s = std::find_if(std::begin(states), std::end(states),
                                     [&](const State& one) { return one.word == r.condition; });
        if (s == std::end(states))
            return problem(where_read(r, i).english(),
                           say("'{}' is no state of a board", shown(r.condition, 40)),
                           "Write active, idle or asleep");
        of.push_back(static_cast<std::size_t>(s - states));
        asked.sigma.push_back(5e-7 + 0.005 * std::abs(*r.amps));
        asked.millivolts.push_back(1e3 * r.volts.value_or(1) / std::max(std::abs(*r.amps), 1e-9));
        asked.whole.push_back(*r.amps);
        asked.line.push_back(i);
        asked.group.push_back(static_cast<int>(of.back()));
    }
    asked.residuals = [&](const std::vector<double>& v, std::vector<double>& out) {
        for (std::size_t i = 0; i < out.size(); ++i) {
            const Reading& r = readings.rows[i];
            out[i] = *r.amps - v[of[i]] * (r.volts ? 1 - std::exp(-*r.volts) : 1);
        }
    };
    std::vector<double> values;
    auto found = solved(Specimen::board, asked, values);
    if (!found) return found;
    for (std::size_t s = 0; s < 3; ++s)
        if (values[s] < 0)
            return problem("", say("the {} came out below nothing", Message(states[s].name)),
                           "Turn the meter's leads round and read it again");
    found->overlay = {"volts", "amps", {}};
    for (std::size_t s = 0; s < 3; ++s) {
        Series line{states[s].word, {}, {}};
        for (std::size_t i = 0; i < of.size(); ++i)
            if (of[i] == s)
                line.measured.push_back(
                    {readings.rows[i].volts.value_or(0), *readings.rows[i].amps});
        if (line.measured.empty()) continue;
        for (int i = 0; i <= 40; ++i)
            line.model.push_back({i * 0.125, values[s] * (1 - std::exp(-i * 0.125))});
        found->overlay.series.push_back(std::move(line));
    }
    return found;
}

/// What a contact of that class has, as its figure says.
Ohm contact_of(const PartType& like) {
    return std::visit(
        catalogue::EachKind{[](const catalogue::Kill& k) { return k.contact; },
                            [](const catalogue::Connector& c) { return c.pin_resistance; },
                            [](const catalogue::Fuse& f) { return f.resistance; },
                            [](const catalogue::Resistor& r) { return r.usual; },
                            [](const catalogue::Jack& j) { return j.contact; },
                            [](const catalogue::Protection& p) { return p.resistance; },
                            [](const catalogue::Adapter& a) { return a.contacts; },
                            [](const catalogue::Bay& b) { return b.contacts; },
                            [](const auto&) { return Ohm(0.03); }},
        like.figures);
}

const catalogue::Die* die_of(const PartType& like) {
    const catalogue::Led* led = catalogue::led_in(like.figures);
    return led && !led->dies.empty() ? &led->dies.front() : nullptr;
}

} // namespace

std::optional<Specimen> specimen_named(std::string_view name) {
    for (const SpecimenWord& s : specimen_names)
        if (s.word == name) return s.specimen;
    return std::nullopt;
}

std::optional<Specimen> specimen_of(const catalogue::PartType& type) {
    return specimen_named(catalogue::kind_of(type.figures).key);
}

std::vector<std::string> specimen_words() {
    std::vector<std::string> all;
    for (const SpecimenWord& s : specimen_names)
        all.emplace_back(s.word);
    return all;
}

std::string_view word(Specimen specimen) {
    for (const SpecimenWord& s : specimen_names)
        if (s.specimen == specimen) return s.word;
    return {};
}

Message where_read(const Reading& reading, std::size_t number) {
    return reading.line > 0 ? say("line {}", reading.line) : say("reading {}", number + 1);
}

const Found* Characterised::find(std::string_view name) const {
    const auto it = std::find_if(parameters.begin(), parameters.end(),
                                 [&](const Found& f) { return f.name == name; });
    return it == parameters.end() ? nullptr : &*it;
}

std::string usual_like(Specimen specimen, const Readings& readings, const Catalogue& parts) {
    double most_amps = 0, most_volts = 0;
    for (const Reading& r : readings.rows) {
        most_amps = std::max(most_amps, std::abs(r.amps.value_or(0)));
        most_volts = std::max(most_volts, r.volts.value_or(0));
    }
    switch (specimen) {
    case Specimen::strip:
        return "strip.rgb-144-wide";
    case Specimen::pixel:
        return "pixel.rgb-5050";
    case Specimen::cell:
        return most_volts > 5 ? "pack.2s-1300" : "cell.18650-power";
    case Specimen::contact:
        return "kill.slide-5a";
    case Specimen::board:
        return "board.standard";
    case Specimen::led: {
        std::string best;
        double least = INFINITY;
        for (const PartType* type : parts.all<catalogue::Led>()) {
            const catalogue::Die* die = die_of(*type);
            if (!die || std::get<catalogue::Led>(type->figures).dies.size() != 1) continue;
            const double off = std::abs(std::log(most_amps / die->stated.value())) +
                               2 * std::abs(most_volts - die->forward.value());
            if (off < least) least = off, best = type->id;
        }
        return best;
    }
    }
    return {};
}

Result<Characterised> characterise(Specimen specimen, const Readings& readings,
                                   const Catalogue& parts, const std::string& like) {
    if (readings.rows.empty())
        return problem("", "there are no readings", "Write one a line under the columns' names");
    const std::string id = like.empty() ? usual_like(specimen, readings, parts) : like;
    const PartType* type = parts.find(id);
    if (!type) {
        const std::string near = parts.nearest(id);
        return problem("", say("no part is called '{}'", shown(id, 60)),
                       near.empty() ? Message("Name one of the catalogue")
                                    : say("Did you mean '{}'?", near));
    }
    const auto of_another_kind = [&]() -> Result<Characterised> {
        return problem("", say("'{}' is no {}", id, std::string(word(specimen))),
                       "Name a part of that kind");
    };
    switch (specimen) {
    case Specimen::strip:
        if (!parts.find_as<catalogue::Strip>(id)) return of_another_kind();
        return of_strip(specimen, readings, *type, parts);
    case Specimen::pixel:
        if (!parts.find_as<catalogue::Pixel>(id)) return of_another_kind();
        return of_strip(specimen, readings, *type, parts);
    case Specimen::cell: {
        const auto* cell = parts.find_as<catalogue::Cell>(id);
        if (!cell) return of_another_kind();
        return of_cell(readings, *cell);
    }
    case Specimen::led: {
        const catalogue::Die* die = die_of(*type);
        if (!die) return of_another_kind();
        return of_led(readings, *die);
    }
    case Specimen::board: {
        const auto* board = parts.find_as<catalogue::Board>(id);
        if (!board) return of_another_kind();
        return of_board(readings, *board);
    }
    case Specimen::contact:
        return of_contact(readings, contact_of(*type));
    }
    return of_another_kind();
}

namespace {

/// What was measured at charges of its own, as so many times the resistance: above 30 % that is
/// one, and where nothing was measured the class's curve goes on.
void by_charge(const Characterised& found, catalogue::Cell& cell) {
    constexpr std::string_view stem = "resistance at ";
    std::vector<catalogue::ByCharge> points;
    for (const Found& f : found.parameters)
        if (f.determined && f.name.starts_with(stem))
            points.push_back({std::strtod(f.name.c_str() + stem.size(), nullptr) / 100,
                              f.value / cell.resistance.value()});
    if (points.empty()) return;
    const auto near = [&](double charge) {
        return std::any_of(points.begin(), points.end(), [&](const catalogue::ByCharge& p) {
            return std::abs(p.charge - charge) < 0.02;
        });
    };
    power::CellFigures was;
    was.by_charge = cell.by_charge;
    std::vector<double> usual{0, 0.1, 0.3};
    for (const catalogue::ByCharge& p : cell.by_charge)
        usual.push_back(p.charge);
    for (const double charge : usual)
        if (!near(charge)) points.push_back({charge, was.by(charge)});
    std::sort(points.begin(), points.end(),
              [](const auto& a, const auto& b) { return a.charge < b.charge; });
    cell.by_charge = std::move(points);
}

} // namespace

std::vector<PartType> with_found(const PartType& like, const Characterised& found,
                                 const Catalogue& parts) {
    PartType type = like;
    std::vector<PartType> all;
    const auto value = [&](std::string_view name, auto& into) {
        if (const Found* f = found.find(name); f && f->determined)
            into = std::remove_reference_t<decltype(into)>(f->value);
    };
    const auto pixel = [&](catalogue::Pixel& p) {
        for (catalogue::Channel& c : p.channels) {
            value(fmt::format("full current, {}", colour_word(c.colour)), c.full);
            value(fmt::format("threshold, {}", colour_word(c.colour)), c.on);
        }
        value("knee", p.knee);
        value("quiet current", p.quiet);
    };
    std::visit(catalogue::EachKind{
                   [&](catalogue::Strip& s) {
                       value("copper", s.rail);
                       PartType own = *parts.find(s.pixel);
                       pixel(std::get<catalogue::Pixel>(own.figures));
                       all.push_back(std::move(own));
                   },
                   [&](catalogue::Pixel& p) { pixel(p); },
                   [&](catalogue::Cell& c) {
                       value("capacity", c.capacity);
                       value("resistance", c.resistance);
                       value("quick lag, share of the resistance", c.lag.quick_share);
                       value("slow lag, share of the resistance", c.lag.slow_share);
                       value("quick time constant", c.lag.quick);
                       value("slow time constant", c.lag.slow);
                       by_charge(found, c);
                   },
                   [&](catalogue::Board& b) {
                       value("active current", b.active);
                       value("idle current", b.idle);
                       value("asleep current", b.sleep);
                   },
                   [&](catalogue::Led& l) {
                       if (l.dies.empty()) return;
                       value("forward voltage", l.dies.front().forward);
                       value("series resistance", l.dies.front().series);
                       value("slope", l.dies.front().slope);
                   },
                   [&](catalogue::Kill& k) { value("resistance", k.contact); },
                   [&](catalogue::Connector& c) { value("resistance", c.pin_resistance); },
                   [&](catalogue::Fuse& f) { value("resistance", f.resistance); },
                   [&](catalogue::Resistor& r) { value("resistance", r.usual); },
                   [&](catalogue::Jack& j) { value("resistance", j.contact); },
                   [&](catalogue::Protection& p) { value("resistance", p.resistance); },
                   [&](catalogue::Adapter& a) { value("resistance", a.contacts); },
                   [&](catalogue::Bay& b) { value("resistance", b.contacts); }, [](auto&) {}},
               type.figures);
    all.push_back(std::move(type));
    return all;
}

std::string_view colour_word(char channel) {
    switch (channel) {
    case 'R':
        return "red";
    case 'G':
        return "green";
    case 'B':
        return "blue";
    default:
        return "white die";
    }
}

} // namespace conductus::bench
