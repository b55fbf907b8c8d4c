// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/led_study.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"

namespace conductus::power {
namespace {

using circuit::Network;
using circuit::Node;
using circuit::OperatingPoint;

const catalogue::Led* led_of(const job::Part& part, const catalogue::Catalogue& parts) {
    if (const auto* led = parts.find_as<catalogue::Led>(part.type)) return led;
    if (const auto* button = parts.find_as<catalogue::Button>(part.type))
        return button->light.dies.empty() ? nullptr : &button->light;
    if (const auto* port = parts.find_as<catalogue::Port>(part.type))
        return port->light.dies.empty() ? nullptr : &port->light;
    return nullptr;
}

/// Resistors and drivers that carry the junction's current alone, from both of its ends.
struct Branch {
    std::vector<std::size_t> resistors;
    std::string driver;
};

class Branches {
public:
    explicit Branches(const Network& n) : n_(n), count_(n.nodes.size()) {
        auto end = [&](Node a) { ++count_[a]; };
        for (const auto& r : n.resistors)
            if (r.part != circuit::Part::leak) end(r.a), end(r.b);
        for (const auto& d : n.diodes)
            end(d.plus), end(d.minus);
        for (const auto& l : n.limiters)
            end(l.plus), end(l.minus);
        for (const auto& s : n.sources)
            end(s.plus), end(s.minus);
        for (const auto& s : n.sinks)
            end(s.plus), end(s.minus);
        for (const auto& s : n.strips)
            end(s.plus), end(s.minus);
        for (const auto& c : n.converters)
            end(c.in), end(c.gnd), end(c.out);
    }
    Branch of(const circuit::Diode& d) {
        Branch b;
        seen_.clear();
        walk(d.plus, b);
        walk(d.minus, b);
        return b;
    }

private:
    void walk(Node at, Branch& b) {
        if (at == 0 || count_[at] > 2) return;
        for (std::size_t i = 0; i < n_.resistors.size(); ++i) {
            const auto& r = n_.resistors[i];
            if (r.part == circuit::Part::leak || (r.a != at && r.b != at)) continue;
            if (!seen_.insert(i).second) continue;
            b.resistors.push_back(i);
            walk(r.a == at ? r.b : r.a, b);
        }
        for (const auto& l : n_.limiters)
            if (l.plus == at || l.minus == at) b.driver = l.ref;
        for (const auto& c : n_.converters)
            if (c.out == at && c.volts == 0) b.driver = c.ref;
    }
    const Network& n_;
    std::vector<int> count_;
    std::set<std::size_t> seen_;
};

/// A look in which blades are dark and these lights fully on.
job::Look only(const std::vector<std::string>& lights) {
    job::Look look;
    look.name = "single lights";
    for (const std::string& ref : lights)
        look.lights.push_back({ref, {1, 1, 1, 1}, job::Style::steady, 1});
    return look;
}

struct Solution {
    Network network;
    OperatingPoint point;
};

Result<Solution> solution_of(const job::Job& job, const catalogue::Catalogue& parts,
                             const State& state) {
    auto network = network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    return Solution{std::move(*network), std::move(*point)};
}

void pick_resistor(LedRun& run, const catalogue::Catalogue& parts) {
    if (!(run.ideal > Ohm(0))) return;
    run.e24 = e24_at_least(run.ideal);
    run.pick_power = Watt(run.stated.value() * run.stated.value() * run.e24.value());
    for (const auto* type : parts.all<catalogue::Resistor>())
        if (std::get<catalogue::Resistor>(type->figures).power >= run.pick_power * 1.5) {
            run.pick = type->id;
            break;
        }
}

} // namespace

Ohm e24_at_least(Ohm ohms) {
    constexpr std::array steps{1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0,
                               3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1};
    if (!(ohms.value() > 0)) return Ohm(0);
    double decade = std::pow(10, std::floor(std::log10(ohms.value())));
    for (;; decade *= 10)
        for (const double step : steps)
            if (step * decade >= ohms.value() * (1 - 1e-9)) return Ohm(step * decade);
}

Result<std::vector<LedRun>> led_runs(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<LedRun> runs;
    std::vector<std::string> refs;
    for (const job::Part& part : job.parts)
        if (led_of(part, parts)) refs.push_back(part.ref);
    if (refs.empty()) return runs;
    State state;
    state.look = only(refs);
    state.loudness = Loudness::silent;
    const auto solved = solution_of(job, parts, state);
    if (!solved) return tl::unexpected(solved.error());
    const auto& [network, point] = *solved;
    Branches branches(network);
    for (std::size_t i = 0; i < network.diodes.size(); ++i) {
        const circuit::Diode& d = network.diodes[i];
        const job::Part* part = job::find_ref(job.parts, d.ref);
        const catalogue::Led* led = part ? led_of(*part, parts) : nullptr;
        if (!led) continue; // a blade's string
        LedRun run;
        run.led = d.ref;
        run.die = d.name.substr(d.ref.size() + 1);
        const std::string number = run.die.substr(3);
        const catalogue::Die& die = led->dies[number.empty() ? 0 : std::stoul(number) - 1];
        run.colour = die.colour;
        const bool inside = !parts.find_as<catalogue::Led>(part->type);
        run.pad = circuit::pad_of(job, parts, d.ref + (inside ? ".led_minus" : ".minus") + number);
        run.amps = Ampere(point.diode_amps[i]);
        run.stated = die.stated;
        run.most = die.most;
        const Branch branch = branches.of(d);
        run.driver = branch.driver;
        double within = led->built_in.value() + die.series.value(), lost = 0;
        for (const std::size_t r : branch.resistors) {
            const auto& e = network.resistors[r];
            if (e.part == circuit::Part::resistor) {
                run.resistor = e.ref;
                run.fitted = Ohm(e.ohms);
                run.power = Watt(e.ohms * point.resistor_amps[r] * point.resistor_amps[r]);
                run.rated =
                    parts.find_as<catalogue::Resistor>(job::find_ref(job.parts, e.ref)->type)
                        ->power;
            }
            if (e.part != circuit::Part::light) lost += run.amps.value() * e.ohms;
        }
        const double junction = point.volts[d.plus] - point.volts[d.minus];
        run.forward = Volt(junction + run.amps.value() * within);
        if (run.driver.empty()) {
            const double at_stated =
                die.forward.value() + run.stated.value() * led->built_in.value();
            const double wires = lost - run.amps.value() * run.fitted.value();
            run.ideal = Ohm((run.forward.value() + lost - at_stated -
                             wires / std::max(run.amps.value(), 1e-12) * run.stated.value()) /
                            run.stated.value());
            if (!inside) pick_resistor(run, parts);
        }
        runs.push_back(std::move(run));
    }
    return runs;
}

Result<std::vector<LeftOn>> left_on(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<LeftOn> all;
    for (const job::Part& part : job.parts) {
        const auto& figures = parts.find(part.type)->figures;
        LeftOn l;
        l.ref = part.ref;
        if (std::holds_alternative<catalogue::Pixel>(figures) ||
            std::holds_alternative<catalogue::PixelGroup>(figures))
            l.kind = "accent";
        else if (std::holds_alternative<catalogue::Led>(figures))
            l.kind = "LED";
        else if (std::holds_alternative<catalogue::Display>(figures))
            l.kind = "display";
        else if (led_of(part, parts))
            l.kind = "light in it";
        else if (const auto* c = std::get_if<catalogue::Connector>(&figures); c && c->pixels > 0)
            l.kind = "lit connector";
        else
            continue;
        all.push_back(std::move(l));
    }
    if (all.empty()) return all;
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    if (!cell) return problem("/parts", "there is no cell", "Fit a cell");
    double capacity = 0; // of all cells, as far as they share the current
    std::size_t cells = 0;
    for (const job::Part& part : job.parts)
        if (const auto* c = parts.find_as<catalogue::Cell>(part.type))
            capacity += figures_of(part, *c).capacity.value(), ++cells;
    const auto asleep = solution_of(job, parts, dark_state(circuit::BoardMode::asleep, false, 0.5));
    if (!asleep) return tl::unexpected(asleep.error());
    State dark;
    dark.look = only({});
    dark.loudness = Loudness::silent;
    dark.charge = 0.5;
    const auto without = solution_of(job, parts, dark);
    if (!without) return tl::unexpected(without.error());
    const double base = circuit::pack_amps(without->network, without->point);
    double drawn = 0; // by all cells together per ampere of the pack
    for (const double a : without->point.source_amps)
        drawn += a;
    const double share = base > 0 ? drawn / base : static_cast<double>(cells);
    for (LeftOn& l : all) {
        for (std::size_t i = 0; i < asleep->network.diodes.size(); ++i)
            if (asleep->network.diodes[i].ref == l.ref) {
                l.always = true;
                l.amps += Ampere(asleep->point.diode_amps[i]);
            }
        if (l.kind == "display") {
            for (std::size_t i = 0; i < without->network.sinks.size(); ++i)
                if (without->network.sinks[i].ref == l.ref)
                    l.amps = Ampere(without->point.sink_amps[i]);
        } else if (!l.always) {
            State on = dark;
            on.look = only({l.ref});
            const auto lit = solution_of(job, parts, on);
            if (!lit) return tl::unexpected(lit.error());
            l.amps = Ampere(circuit::pack_amps(lit->network, lit->point) - base);
            // Its own quiet current flows as long as it has a supply.
            for (std::size_t i = 0; i < without->network.strips.size(); ++i)
                if (without->network.strips[i].ref == l.ref)
                    l.amps += Ampere(without->point.strips[i].amps);
        }
        if (l.amps > Ampere(0)) l.hours = capacity / 1e3 / (l.amps.value() * share);
    }
    return all;
}

} // namespace conductus::power
