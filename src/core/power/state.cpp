// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/state.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/power/bands.h"
#include "core/power/cell_model.h"
#include "core/power/peaks.h"
#include "core/power/sound.h"

namespace conductus::power {

State looked_up(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    if (!state.wiring) state.wiring = std::make_shared<const job::Wiring>(job, parts);
    if (!state.chains)
        state.chains =
            std::make_shared<const lights::Chains>(lights::chains_of(job, parts, *state.wiring));
    if (!state.runs) state.runs = std::make_shared<const hilt::Runs>(hilt::runs_of(job, parts));
    return state;
}

State as_known(State state, const State& known) {
    state.chains = known.chains;
    state.runs = known.runs;
    state.wiring = known.wiring;
    return state;
}

namespace {

Result<circuit::Network> compiled(const job::Job& job, const catalogue::Catalogue& parts,
                                  const State& state) {
    circuit::Moment moment;
    moment.chains = state.chains;
    moment.runs = state.runs;
    moment.wiring = state.wiring;
    if (!moment.chains || !moment.runs || !moment.wiring) {
        const State known = looked_up(job, parts, state);
        moment.chains = known.chains;
        moment.runs = known.runs;
        moment.wiring = known.wiring;
    }
    double seconds = state.seconds;
    if (state.brightness == Brightness::brightest) {
        seconds = state.bands_at.value_or(0);
        if (!state.bands_at && has_bands(state)) {
            State known = state;
            known.chains = moment.chains, known.runs = moment.runs, known.wiring = moment.wiring;
            const auto at = brightest_bands(job, parts, known);
            if (!at) return tl::unexpected(at.error());
            seconds = *at;
        }
        moment.pulses = circuit::Pulses::on;
    }
    moment.scene = lights::Scene(job, moment.chains, state.look, state.effect,
                                 {state.brightness, state.share, state.spread_frame, seconds,
                                  state.seed, state.shown_charge.value_or(state.charge)});
    moment.air = job.use.temperature;
    moment.board = state.board;
    moment.killed = state.killed;
    moment.plugged = state.plugged;
    for (const job::Part& part : job.parts)
        if (const auto* cell = parts.find_as<catalogue::Cell>(part.type))
            moment.cells.push_back(
                rested(figures_of(part, *cell), state.charge, job.use.temperature));
    if (state.loudness != Loudness::silent) {
        const Sound sound = sound_of(job, parts, state.look.name, state.loudest_font);
        moment.sound = state.loudness == Loudness::peak ? sound.at_peak : sound.hum;
    }
    return circuit::compile(job, parts, moment);
}

/// So often the length of what is lit is halved: to half a pixel of the longest blade.
constexpr int charge_halvings = 8;

/// The charge that a board shows which reads the volts of the cells under that very load: what is
/// lit of each colour asks for it, and it tells how much of each is lit.
Result<double> charge_shown(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    double in_row = 0; // cells, those within a pack as well
    for (const job::Part& part : job.parts)
        if (const auto* cell = parts.find_as<catalogue::Cell>(part.type)) in_row += cell->series;
    const auto told = [&](const circuit::Network& n, const circuit::OperatingPoint& p) {
        double volts = 0;
        for (const circuit::Source& s : n.sources)
            volts += p.volts[s.plus] - p.volts[s.minus];
        return charge_at(Volt(volts / in_row));
    };
    if (in_row == 0) return state.charge;
    double low = 0, high = 1;
    circuit::Guess guess;
    for (int i = 0; i < charge_halvings; ++i) {
        state.shown_charge = (low + high) / 2;
        const auto network = compiled(job, parts, state);
        if (!network) return tl::unexpected(network.error());
        const auto point = circuit::solve(*network, &guess);
        if (!point) return tl::unexpected(point.error());
        (told(*network, *point) > *state.shown_charge ? low : high) = *state.shown_charge;
    }
    return (low + high) / 2;
}

} // namespace

Result<circuit::Network> network_of(const job::Job& job, const catalogue::Catalogue& parts,
                                    const State& state) {
    if (state.shown_charge || !shows_charge(state)) return compiled(job, parts, state);
    State known = looked_up(job, parts, state);
    const auto shown = charge_shown(job, parts, known);
    if (!shown) return tl::unexpected(shown.error());
    known.shown_charge = *shown;
    return compiled(job, parts, known);
}

Result<job::Look> look_named(const job::Job& job, const std::string& name) {
    if (job.looks.empty())
        return problem("/looks", "the job has no look", "Add one to see what the blade draws");
    if (name.empty()) return job.looks.front();
    if (const auto* look = job::find_name(job.looks, name)) return *look;
    std::vector<std::string> names;
    for (const auto& look : job.looks)
        names.push_back(look.name);
    return problem("/looks", say("there is no look named '{}'", name),
                   say("There are: {}", conductus::joined(names, ", ")));
}

State mean_state(const job::Look& look, double charge) {
    State state{look, {}, Brightness::even, Loudness::hum, charge};
    state.share = lights::mean_share(look.style);
    return state;
}

State dark_state(circuit::BoardMode board, bool killed, double charge) {
    State state;
    state.loudness = Loudness::silent;
    state.charge = charge;
    state.board = board;
    state.killed = killed;
    return state;
}

State rest_state(const job::Job& job, job::Rest rest, double charge) {
    using circuit::BoardMode;
    const bool awake = rest == job::Rest::idle || rest == job::Rest::blade_out;
    State state = dark_state(awake ? BoardMode::idle : BoardMode::asleep, false, charge);
    state.plugged = rest == job::Rest::charging;
    // A board that does not feel the blade is idle without it.
    if (rest == job::Rest::blade_out && job.config.blade_out == job::BladeOut::unsensed)
        rest = job::Rest::idle;
    if (rest == job::Rest::blade_out && job.config.blade_out == job::BladeOut::stays_dark)
        return state;
    const job::Preset* preset = job::preset_of_use(job);
    state.look.lights = job::lights_at_rest(job, rest, preset ? preset->name : std::string());
    return state;
}

bool shows_charge(const State& state) {
    const auto shows = [](const auto& l) { return l.style == job::Style::charge; };
    return shows(state.look) ||
           std::any_of(state.look.lights.begin(), state.look.lights.end(), shows);
}

Result<State> state_named(const job::Job& job, const catalogue::Catalogue& parts,
                          const std::string& name, const std::string& look, double charge) {
    using circuit::BoardMode;
    if (name == "stored" || name == "asleep") return rest_state(job, job::Rest::asleep, charge);
    if (name == "killed") return dark_state(BoardMode::asleep, true, charge);
    if (name == "idle") return rest_state(job, job::Rest::idle, charge);
    if (name == "blade out") return rest_state(job, job::Rest::blade_out, charge);
    if (name == "charging") return rest_state(job, job::Rest::charging, charge);
    if (name == "worst") {
        auto worst = most_of_all(job, parts, charge);
        // It may be solved of other wires: what follows from these is not kept.
        if (worst) worst->chains.reset(), worst->runs.reset(), worst->wiring.reset();
        return worst;
    }
    if (name.empty() || job::find_name(job.looks, name)) {
        const auto shown = look_named(job, name.empty() ? look : name);
        if (!shown) return tl::unexpected(shown.error());
        return State{*shown, {}, Brightness::brightest, Loudness::hum, charge};
    }
    if (const auto* preset = job::find_name(job.presets, name)) {
        const auto shown = look_named(job, preset->look);
        if (!shown) return tl::unexpected(shown.error());
        return State{*shown, {}, Brightness::brightest, Loudness::hum, charge};
    }
    const auto under = look_named(job, look.empty() ? job.use.look : look);
    const bool of_use = look.empty() || look == job.use.look;
    const auto effects = !under   ? job.effects
                         : of_use ? job::effects_of_use(job)
                                  : job::effects_over(job, under->name);
    if (const auto* effect = job::find_name(effects, name)) {
        if (!under) return tl::unexpected(under.error());
        return State{*under, *effect, Brightness::brightest, Loudness::peak, charge};
    }
    std::vector<std::string> names{"stored",    "asleep",   "killed", "idle",
                                   "blade out", "charging", "worst"};
    const auto add = [&](const auto& list) {
        for (const auto& named : list)
            if (std::find(names.begin(), names.end(), named.name) == names.end())
                names.push_back(named.name);
    };
    add(job.looks);
    add(job.presets);
    add(effects);
    return problem("state", say("there is no state '{}'", name),
                   say("There are: {}", conductus::joined(names, ", ")));
}

} // namespace conductus::power
