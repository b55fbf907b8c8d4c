// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/state.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
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

Result<circuit::Network> network_of(const job::Job& job, const catalogue::Catalogue& parts,
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
    moment.scene =
        lights::Scene(job, moment.chains, state.look, state.effect,
                      {state.brightness, state.share, state.spread_frame, seconds, state.seed});
    moment.air = job.use.temperature;
    moment.board = state.board;
    moment.killed = state.killed;
    for (const job::Part& part : job.parts)
        if (const auto* cell = parts.find_as<catalogue::Cell>(part.type))
            moment.cells.push_back(
                rested(figures_of(part, *cell), state.charge, job.use.temperature));
    if (state.loudness != Loudness::silent) {
        const Sound sound = sound_of(job, parts);
        moment.sound = state.loudness == Loudness::peak ? sound.at_peak : sound.hum;
    }
    return circuit::compile(job, parts, moment);
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
    state.share = lights::mean_factor(look.style);
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

Result<State> state_named(const job::Job& job, const catalogue::Catalogue& parts,
                          const std::string& name, const std::string& look, double charge) {
    using circuit::BoardMode;
    if (name == "stored") return dark_state(BoardMode::asleep, false, charge);
    if (name == "killed") return dark_state(BoardMode::asleep, true, charge);
    if (name == "idle") return dark_state(BoardMode::idle, false, charge);
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
    if (const auto* effect = job::find_name(job.effects, name)) {
        const auto under = look_named(job, look.empty() ? job.use.look : look);
        if (!under) return tl::unexpected(under.error());
        return State{*under, *effect, Brightness::brightest, Loudness::peak, charge};
    }
    std::vector<std::string> names{"stored", "killed", "idle", "worst"};
    for (const auto& l : job.looks)
        names.push_back(l.name);
    for (const auto& e : job.effects)
        names.push_back(e.name);
    return problem("state", say("there is no state '{}'", name),
                   say("There are: {}", conductus::joined(names, ", ")));
}

} // namespace conductus::power
