// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of loads: pads, LEDs and their resistors, fuses, converters, volts.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/held.h"
#include "core/job/lookup.h"
#include "core/power/guards.h"

namespace conductus::findings {
namespace {

using circuit::Part;

/// A board's pads in one solved state.
struct Pads {
    double total = 0, most = 0;
    std::string name; ///< "l1"
};

Pads pads_of(const Solved& s, const std::string& board) {
    Pads pads;
    for (std::size_t i = 0; i < s.network.resistors.size(); ++i) {
        const auto& r = s.network.resistors[i];
        if (r.part != Part::board || r.ref != board) continue;
        const double amps = std::abs(s.point.resistor_amps[i]);
        pads.total += amps;
        if (amps > pads.most) pads.most = amps, pads.name = r.pin;
    }
    return pads;
}

/// A pad nothing is soldered to; empty where all are taken.
std::string free_pad(const Facts& f, const job::Part& board) {
    for (const std::string& terminal : f.parts->find(board.type)->terminals) {
        const std::string pad = board.ref + "." + terminal;
        if (terminal[0] == 'l' &&
            std::none_of(f.job->wires.begin(), f.job->wires.end(),
                         [&](const job::Wire& w) { return w.from == pad || w.to == pad; }))
            return pad;
    }
    return {};
}

/// Solders what ends on `pad` to another as well.
std::optional<Fix> share_pad(const Facts& f, const job::Part& board, const std::string& pad) {
    const std::string other = free_pad(f, board);
    if (other.empty()) return std::nullopt;
    return Fix{say("share it with {}", other), [pad, other](job::Job& job) {
                   std::vector<job::Wire> more;
                   for (const job::Wire& w : job.wires) {
                       if (w.from != pad && w.to != pad) continue;
                       job::Wire second = w;
                       (second.from == pad ? second.from : second.to) = other;
                       second.ref += "b";
                       while (job::find_ref(job.wires, second.ref))
                           second.ref += "b";
                       more.push_back(second);
                   }
                   job.wires.insert(job.wires.end(), more.begin(), more.end());
               }};
}

void pads_over(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto* board = f.parts->find_as<catalogue::Board>(part.type);
        if (!board) continue;
        const HeldCurrent pad =
            held(f, pad_time, [&](const Solved& s) { return pads_of(s, part.ref).most; });
        if (pad.over(board->pad_rating.value())) {
            const std::string name = pads_of(*pad.state, part.ref).name;
            const double amps = pad.told(board->pad_rating.value());
            Finding finding{
                .id = "pad.over-current",
                .severity = pad.severity(board->pad_rating.value()),
                .station = Station::lights,
                .where = {part.ref, pad.state->name},
                .text = say("Pad {} of {} sinks {} {}, rated {}", name, part.ref,
                            text(Ampere(amps)), pad.how_long(), text(board->pad_rating)),
                .detail = say("In {}: the transistor behind it fails first.", pad.state->name),
                .evidence = {{"sinks", amps, "A"}, {"rated", board->pad_rating.value(), "A"}},
                .fix = share_pad(f, part, part.ref + "." + name)};
            out.push_back(std::move(finding));
        }
        const HeldCurrent all =
            held(f, pad_time, [&](const Solved& s) { return pads_of(s, part.ref).total; });
        if (all.over(board->total_rating.value())) {
            const double amps = all.told(board->total_rating.value());
            Finding finding{
                .id = "board.over-current",
                .severity = all.severity(board->total_rating.value()),
                .station = Station::lights,
                .where = {part.ref, all.state->name},
                .text = say("{} sinks {} in all {}, rated {}", part.ref, text(Ampere(amps)),
                            all.how_long(), text(board->total_rating)),
                .detail = say("All pads together in {}. Cap it, or take a board that "
                              "bears it.",
                              all.state->name),
                .evidence = {{"sinks", amps, "A"}, {"rated", board->total_rating.value(), "A"}},
                .fix = {}};
            out.push_back(std::move(finding));
        }
    }
}

void led_over(const Facts& f, std::vector<Finding>& out) {
    for (const power::LedRun& led : f.leds) {
        if (led.amps <= led.most) continue;
        Finding finding{
            .id = "led.over-current",
            .severity = Severity::stop,
            .station = Station::lights,
            .where = {led.led},
            .text = say("{} of {} runs at {}, it stands {}", led.die, led.led, text(led.amps),
                        text(led.most)),
            .detail =
                led.e24 <= Ohm(0)
                    ? Message("No resistor suits it at these volts: a driver that keeps its "
                              "current, or another LED.")
                : led.resistor.empty()
                    ? say("Nothing limits it: {} in series suits.", text(led.e24))
                    : say("{} is {}; {} suits.", led.resistor, text(led.fitted), text(led.e24)),
            .evidence = {{"runs at", led.amps.value(), "A"}, {"stands", led.most.value(), "A"}},
            .fix = {}};
        if (!led.driver.empty()) finding.where.push_back(led.driver);
        if (!led.resistor.empty() && led.e24 > Ohm(0))
            finding.fix = Fix{say("make {} {}", led.resistor, text(led.e24)),
                              [ref = led.resistor, ohms = led.e24](job::Job& job) {
                                  if (auto* part = job::find_ref(job.parts, ref)) {
                                      part->chosen.resistance = ohms;
                                      part->measured.resistance.reset();
                                  }
                              }};
        out.push_back(std::move(finding));
    }
}

void resistor_hot(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> told;
    for (const power::LedRun& led : f.leds) {
        if (led.resistor.empty() || led.power <= led.rated || !told.insert(led.resistor).second)
            continue;
        Finding finding{
            .id = "resistor.over-power",
            .severity = Severity::warn,
            .station = Station::lights,
            .where = {led.resistor, led.led},
            .text = say("{} burns {}, rated {}", led.resistor, text(led.power), text(led.rated)),
            .detail = "It chars what it touches. Take one that bears half as much again.",
            .evidence = {{"burns", led.power.value(), "W"}, {"rated", led.rated.value(), "W"}},
            .fix = {}};
        for (const auto* type : f.parts->all<catalogue::Resistor>())
            if (std::get<catalogue::Resistor>(type->figures).power >= led.power * 1.5) {
                finding.fix = Fix{say("fit a {}", type->name),
                                  [ref = led.resistor, id = type->id](job::Job& job) {
                                      if (auto* part = job::find_ref(job.parts, ref))
                                          part->type = id;
                                  }};
                break;
            }
        out.push_back(std::move(finding));
    }
}

void over_volts(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> told;
    auto tell = [&](const std::string& ref, double volts, Volt most) {
        if (volts <= most.value() || !told.insert(ref).second) return;
        out.push_back({.id = "supply.over-volts",
                       .severity = Severity::stop,
                       .station = Station::power,
                       .where = {ref},
                       .text = say("{} gets {}, it stands {}", ref, text(Volt(volts)), text(most)),
                       .detail = "It is destroyed when the cells go in. One cell, or a regulator "
                                 "between.",
                       .evidence = {{"gets", volts, "V"}, {"stands", most.value(), "V"}},
                       .fix = {}});
    };
    for (const SolvedPtr& s : f.fresh) {
        const auto& v = s->point.volts;
        for (const auto& sink : s->network.sinks)
            if (const job::Part* part = job::find_ref(f.job->parts, sink.ref))
                if (const auto* board = f.parts->find_as<catalogue::Board>(part->type))
                    tell(sink.ref, v[sink.plus] - v[sink.minus], board->most);
        for (const auto& strip : s->network.strips) {
            const lights::Group* g = f.chains.group(strip.ref);
            tell(strip.ref, v[strip.plus] - v[strip.minus],
                 f.parts->find_as<catalogue::Pixel>(g->pixel)->most);
        }
    }
}

void fuse_over(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto* fuse = f.parts->find_as<catalogue::Fuse>(part.type);
        if (!fuse) continue;
        const HeldCurrent load = held(f, power::warms_in(*fuse).value(), [&](const Solved& s) {
            return s.momentary ? 0 : s.amps_of(part.ref);
        });
        const bool opens = load.amps > power::opens_at(*fuse).value() ||
                           (f.run && f.run->tripped && f.run->tripped->ref == part.ref);
        if (!load.state || (load.amps <= fuse->hold.value() && !opens)) continue;
        const double amps = load.told(fuse->hold.value());
        out.push_back({.id = "fuse.over-current",
                       .severity = opens ? Severity::stop : Severity::warn,
                       .station = Station::power,
                       .where = {part.ref, load.state->name},
                       .text = say("{} puts {} through {} {}, it holds {}", load.state->name,
                                   text(Ampere(amps)), part.ref, load.how_long(), text(fuse->hold)),
                       .detail = !opens ? Message("It may open on a warm day, and ages until it "
                                                  "does.")
                                 : fuse->resettable
                                     ? Message("It opens once it is warm, and comes back a minute "
                                               "after nothing draws any more.")
                                     : Message("It opens once it is warm, and is to be replaced."),
                       .evidence = {{"carries", amps, "A"}, {"holds", fuse->hold.value(), "A"}},
                       .fix = {}});
    }
}

/// Regulators and drivers: what they can not keep up, what is over their limit, and how hot they
/// get.
void converters(const Facts& f, std::vector<Finding>& out) {
    std::set<std::string> told;
    for (const SolvedPtr& s : f.fresh)
        for (std::size_t i = 0; i < s->network.converters.size(); ++i) {
            const auto& c = s->network.converters[i];
            if (told.contains(c.ref)) continue;
            const double volts = s->point.volts[c.out] - s->point.volts[c.gnd];
            if (c.volts > 0 && volts < 0.95 * c.volts) {
                told.insert(c.ref);
                out.push_back({.id = "regulator.overloaded",
                               .severity = Severity::warn,
                               .station = Station::power,
                               .where = {c.ref, s->name},
                               .text = say("{} gives {} of {} in {}", c.ref, text(Volt(volts)),
                                           text(Volt(c.volts)), s->name),
                               .detail = "It can not keep up: less load, or one rated for more.",
                               .evidence = {{"gives", volts, "V"}, {"should give", c.volts, "V"}},
                               .fix = {}});
                continue;
            }
            const job::Part* part = job::find_ref(f.job->parts, c.ref);
            const auto* regulator = f.parts->find_as<catalogue::Regulator>(part->type);
            const auto* driver = f.parts->find_as<catalogue::Driver>(part->type);
            const bool up = regulator && regulator->method == catalogue::Regulator::Method::step_up;
            const double amps = up ? s->point.converter_in[i] : s->point.converter_out[i];
            const double limit = regulator ? regulator->limit.value() : driver->most.value();
            if (amps <= 1.001 * limit) continue;
            told.insert(c.ref);
            out.push_back(
                {.id = "regulator.over-limit",
                 .severity = Severity::warn,
                 .station = Station::power,
                 .where = {c.ref, s->name},
                 .text = say("{} {} {} in {}, its limit is {}", c.ref, up ? "takes" : "gives",
                             text(Ampere(amps)), s->name, text(Ampere(limit))),
                 .detail = "It limits, gets hot or shuts down: less load, or one rated "
                           "for more.",
                 .evidence = {{"carries", amps, "A"}, {"limit", limit, "A"}},
                 .fix = {}});
        }
    // Linear drivers are set to a current: more than they are made for is a slip.
    for (const job::Part& part : f.job->parts) {
        const auto* driver = f.parts->find_as<catalogue::Driver>(part.type);
        if (!driver || told.contains(part.ref) || f.wiring->is_loose(part)) continue;
        const Ampere set = part.chosen.current.value_or(driver->current);
        if (set.value() <= 1.001 * driver->most.value()) continue;
        told.insert(part.ref);
        Finding finding{
            .id = "regulator.over-limit",
            .severity = Severity::warn,
            .station = Station::power,
            .where = {part.ref},
            .text =
                say("{} is set to {}, it is made for {}", part.ref, text(set), text(driver->most)),
            .detail = "It limits, gets hot or shuts down: set it lower, or take one "
                      "rated for more.",
            .evidence = {{"set", set.value(), "A"}, {"limit", driver->most.value(), "A"}},
            .fix = {}};
        finding.proposed.push_back({say("set it to {}", text(driver->most)),
                                    [ref = part.ref, most = driver->most](job::Job& job) {
                                        if (auto* p = job::find_ref(job.parts, ref))
                                            p->chosen.current = most;
                                    }});
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_loads(const Facts& facts, std::vector<Finding>& out) {
    pads_over(facts, out);
    led_over(facts, out);
    resistor_hot(facts, out);
    over_volts(facts, out);
    fuse_over(facts, out);
    converters(facts, out);
}

} // namespace conductus::findings
