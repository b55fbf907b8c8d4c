// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/led_run.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/circuit/branch.h"
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
    return catalogue::led_in(parts.find(part.type)->figures);
}

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

namespace {

/// Runs of the junctions of a solved network.
class Runs {
public:
    Runs(const job::Job& job, const catalogue::Catalogue& parts, const job::Wiring& wiring,
         const Solution& solution)
        : job_(job), parts_(parts), wiring_(wiring), n_(solution.network), p_(solution.point),
          soldering_(solution.network) {}

    /// Those of LEDs and segments, or those of flash strings.
    void append(std::vector<LedRun>& runs, bool flash) {
        for (std::size_t i = 0; i < n_.diodes.size(); ++i) {
            if ((n_.diodes[i].junction.of == circuit::Junction::Of::flash) != flash) continue;
            if (const job::Part* part = job::find_ref(job_.parts, n_.diodes[i].ref)) {
                if (const auto* led = led_of(*part, parts_)) runs.push_back(of_led(i, *part, *led));
                continue;
            }
            for (const job::Blade& blade : job_.blades)
                if (const auto* string = job::find_ref(blade.strings, n_.diodes[i].ref))
                    runs.push_back(of_string(i, blade, *string));
        }
    }

private:
    /// Volts lost beside the junction and the resistance inside its light.
    [[nodiscard]] double lost(const circuit::Branch& branch, double amps) const {
        double sum = 0;
        for (const std::size_t r : branch.resistors)
            if (n_.resistors[r].part != circuit::Part::light) sum += amps * n_.resistors[r].ohms;
        return sum;
    }

    [[nodiscard]] LedRun of_led(std::size_t i, const job::Part& part,
                                const catalogue::Led& led) const {
        const circuit::Diode& d = n_.diodes[i];
        const auto at = static_cast<std::size_t>(std::max(0, d.junction.number - 1));
        const catalogue::Die& die = led.dies[at];
        const bool inside = !parts_.find_as<catalogue::Led>(part.type);
        LedRun run;
        run.led = d.ref, run.die = d.junction.name(), run.colour = die.colour;
        run.pad = circuit::pad_of(job_, parts_, wiring_,
                                  d.ref + (inside ? ".led_minus" : ".minus") + d.junction.suffix());
        run.amps = Ampere(p_.diode_amps[i]);
        run.stated = die.stated, run.most = die.most;
        const circuit::Branch branch = soldering_.beside(i);
        if (!branch.limiters.empty()) run.driver = n_.limiters[branch.limiters.front()].ref;
        for (const std::size_t c : branch.outputs)
            if (n_.converters[c].volts == 0) run.driver = n_.converters[c].ref;
        for (const std::size_t r : branch.resistors) {
            const auto& e = n_.resistors[r];
            if (e.part != circuit::Part::resistor) continue;
            run.resistor = e.ref;
            run.fitted = Ohm(e.ohms);
            run.power = Watt(e.ohms * p_.resistor_amps[r] * p_.resistor_amps[r]);
            run.rated =
                parts_.find_as<catalogue::Resistor>(job::find_ref(job_.parts, e.ref)->type)->power;
        }
        const double amps = run.amps.value(), within = led.built_in.value() + die.series.value();
        run.forward = Volt(p_.volts[d.plus] - p_.volts[d.minus] + amps * within);
        if (!run.driver.empty()) return run;
        const double beside = lost(branch, amps), wires = beside - amps * run.fitted.value();
        const double at_stated = die.forward.value() + run.stated.value() * led.built_in.value();
        run.ideal = Ohm((run.forward.value() + beside - at_stated -
                         wires / std::max(amps, 1e-12) * run.stated.value()) /
                        run.stated.value());
        if (!inside) pick_resistor(run, parts_);
        return run;
    }

    /// One row of a segment, or of the flash string.
    [[nodiscard]] LedRun of_string(std::size_t i, const job::Blade& blade,
                                   const job::LedString& string) const {
        const circuit::Diode& d = n_.diodes[i];
        const auto* type = parts_.find_as<catalogue::SegmentedString>(string.type);
        const bool flash = d.junction.of == circuit::Junction::Of::flash;
        const catalogue::Die& die = flash ? type->flash : type->die;
        const int rows = flash ? type->flash_parallel : type->parallel;
        const int series = flash ? type->flash_series : type->series;
        LedRun run;
        run.led = d.ref, run.die = d.junction.name(), run.colour = die.colour;
        run.pad = circuit::pad_of(job_, parts_, wiring_, blade.ref + "." + d.junction.name());
        const double all = p_.diode_amps[i], amps = all / rows;
        run.amps = Ampere(amps);
        run.stated = die.stated, run.most = die.most;
        run.built_in = flash ? type->flash_resistor : type->resistor;
        run.power = Watt(amps * amps * run.built_in.value());
        const double junction = p_.volts[d.plus] - p_.volts[d.minus];
        run.forward = Volt(junction + amps * series * die.series.value());
        const double wires = lost(soldering_.beside(i), all);
        const double at_hand = run.forward.value() + amps * run.built_in.value() + wires;
        const double stated = die.stated.value();
        run.ideal =
            Ohm((at_hand - series * die.forward.value() - wires / std::max(amps, 1e-12) * stated) /
                stated);
        pick_resistor(run, parts_);
        return run;
    }

    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    const job::Wiring& wiring_;
    const Network& n_;
    const OperatingPoint& p_;
    circuit::Soldering soldering_;
};

} // namespace

Result<std::vector<LedRun>> led_runs(const job::Job& job, const catalogue::Catalogue& parts,
                                     const State& known) {
    std::vector<LedRun> runs;
    std::vector<std::string> refs;
    for (const job::Part& part : job.parts)
        if (led_of(part, parts)) refs.push_back(part.ref);
    bool flash = false;
    for (const job::Blade& blade : job.blades)
        for (const job::LedString& string : blade.strings) {
            refs.push_back(string.ref);
            flash |= parts.find_as<catalogue::SegmentedString>(string.type)->has_flash;
        }
    if (refs.empty()) return runs;
    State state = looked_up(job, parts, known);
    state.look = only(refs);
    state.loudness = Loudness::silent;
    const auto solved = solution_of(job, parts, state);
    if (!solved) return tl::unexpected(solved.error());
    Runs(job, parts, *state.wiring, *solved).append(runs, false);
    if (!flash) return runs;
    // A flash string is lit by effects alone.
    job::Effect all;
    all.name = "flash", all.colour = {1, 1, 1, 1}, all.lasts = Second(1);
    state.effect = all;
    state.look = only({});
    const auto lit = solution_of(job, parts, state);
    if (!lit) return tl::unexpected(lit.error());
    Runs(job, parts, *state.wiring, *lit).append(runs, true);
    return runs;
}

Result<std::vector<LeftOn>> left_on(const job::Job& job, const catalogue::Catalogue& parts,
                                    const State& known) {
    std::vector<LeftOn> all;
    for (const job::Part& part : job.parts) {
        const auto& figures = parts.find(part.type)->figures;
        LeftOn l;
        l.ref = part.ref;
        if (catalogue::pixels_in(figures))
            l.kind =
                std::holds_alternative<catalogue::Connector>(figures) ? "lit connector" : "accent";
        else if (led_of(part, parts))
            l.kind = std::holds_alternative<catalogue::Led>(figures) ? "LED" : "light in it";
        else if (std::holds_alternative<catalogue::Display>(figures))
            l.kind = "display";
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
    const State base_state = looked_up(job, parts, known);
    const auto asleep = solution_of(
        job, parts, as_known(dark_state(circuit::BoardMode::asleep, false, 0.5), base_state));
    if (!asleep) return tl::unexpected(asleep.error());
    State dark = base_state;
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
