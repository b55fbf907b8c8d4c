// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/states.h"

#include <algorithm>
#include <functional>

#include "core/catalogue/kinds.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/presets.h"
#include "core/power/film.h"
#include "core/power/peaks.h"
#include "core/power/runtime.h"
#include "core/power/storage.h"

namespace conductus::plan {
namespace {

constexpr const char* without_accents = "idle without accents";

/// Refs of everything that shows something.
std::vector<std::string> lit_in(const circuit::Network& n, const circuit::OperatingPoint& p) {
    constexpr double seen = 1e-5; // A through a die
    std::vector<std::string> all;
    const auto add = [&](const std::string& ref) {
        if (std::find(all.begin(), all.end(), ref) == all.end()) all.push_back(ref);
    };
    for (std::size_t i = 0; i < n.strips.size(); ++i)
        if (std::any_of(n.strips[i].spans.begin(), n.strips[i].spans.end(),
                        [](const lights::Span& s) { return s.duty != lights::Duties{}; }) &&
            p.strips[i].amps > seen)
            add(n.strips[i].ref);
    for (std::size_t i = 0; i < n.diodes.size(); ++i)
        if (p.diode_amps[i] > seen) add(n.diodes[i].ref);
    return all;
}

struct Solution {
    circuit::Network network;
    circuit::OperatingPoint point;
};

Result<Solution> solved_in(const job::Job& job, const catalogue::Catalogue& parts,
                           const power::State& state) {
    auto network = power::network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    return Solution{std::move(*network), std::move(*point)};
}

/// Whether the cells are filled while they are in the hilt.
bool charges_in_hilt(const job::Job& job, const catalogue::Catalogue& parts) {
    const auto* charger =
        job.charger.empty() ? nullptr : parts.find_as<catalogue::Charger>(job.charger);
    if (charger && charger->in_hilt) return true;
    return std::any_of(job.parts.begin(), job.parts.end(), [&](const job::Part& part) {
        const auto hole = catalogue::plug_hole(parts.find(part.type)->figures);
        return hole && hole->charges;
    });
}

std::optional<power::PartHeat> hottest_of(const job::Job& job, const catalogue::Catalogue& parts,
                                          const Solution& at) {
    auto heat = power::heat_of(job, parts, at.network, at.point);
    if (heat.empty()) return std::nullopt;
    return std::move(heat.front());
}

/// At rest: solved at full charge, days by the current at full, half and nearly no charge.
Result<HiltState> resting(const StateOf& of, const catalogue::Catalogue& parts,
                          const std::string& name) {
    HiltState s;
    s.state = name;
    auto full = solved_in(of.job, parts, of.state);
    if (!full) return tl::unexpected(full.error());
    s.amps = Ampere(circuit::pack_amps(full->network, full->point));
    s.lights = lit_in(full->network, full->point);
    auto days = power::days_in(of.job, parts, of.state);
    if (!days) return tl::unexpected(days.error());
    s.days = *days;
    s.hottest = hottest_of(of.job, parts, *full);
    return s;
}

/// A use that is lit with that preset, or with a look where there are no presets.
job::Job lit_with(const job::Job& job, const std::string& preset, const std::string& look) {
    job::Job with = job;
    with.variants.clear();
    with.use.preset = preset;
    with.use.look = look;
    return with;
}

Result<HiltState> lit(const job::Job& job, const catalogue::Catalogue& parts,
                      const std::string& preset, const job::Look& look) {
    HiltState s;
    s.state = "lit";
    s.preset = preset;
    s.look = look.name;
    const job::Job with = lit_with(job, preset, look.name);
    const power::State brightest{look, {}, power::Brightness::brightest, power::Loudness::hum, 1};
    auto full = solved_in(with, parts, brightest);
    if (!full) return tl::unexpected(full.error());
    s.peak = Ampere(circuit::pack_amps(full->network, full->point));
    s.lights = lit_in(full->network, full->point);
    const power::State over_time = power::mean_state(look);
    const auto mean = power::mean_amps(with, parts, over_time);
    if (!mean) return tl::unexpected(mean.error());
    s.amps = *mean;
    const auto even = solved_in(with, parts, over_time);
    if (!even) return tl::unexpected(even.error());
    s.hottest = hottest_of(with, parts, *even);
    if (const auto run = power::run_down(with, parts)) s.days = run->off.value() / 1440;
    return s;
}

Result<HiltState> shown_effect(const job::Job& job, const catalogue::Catalogue& parts,
                               const std::string& preset, const job::Look& look,
                               const job::Effect& effect) {
    HiltState s;
    s.state = "effect";
    s.preset = preset;
    s.look = look.name;
    s.effect = effect.name;
    const power::State brightest{look, effect, power::Brightness::brightest, power::Loudness::peak,
                                 1};
    auto full = solved_in(job, parts, brightest);
    if (!full) return tl::unexpected(full.error());
    s.peak = Ampere(circuit::pack_amps(full->network, full->point));
    s.lights = lit_in(full->network, full->point);
    power::State over_time = power::mean_state(look);
    over_time.effect = effect;
    const auto mean = power::mean_amps(job, parts, over_time);
    if (!mean) return tl::unexpected(mean.error());
    s.amps = *mean;
    const auto even = solved_in(job, parts, over_time);
    if (!even) return tl::unexpected(even.error());
    s.hottest = hottest_of(job, parts, *even);
    return s;
}

} // namespace

Result<StateOf> state_of(const job::Job& whole, const catalogue::Catalogue& parts,
                         const std::string& name, const std::string& look,
                         const std::string& preset, double charge) {
    StateOf of{whole, {}};
    if (!preset.empty())
        if (auto ok = job::use_preset(preset)(of.job); !ok) return tl::unexpected(ok.error());
    std::vector<job::Mated> set = job::mated_set(of.job);
    if (name == "blade out")
        for (job::Mated& m : set)
            m.blade.clear();
    of.job = job::as_mated(of.job, set);
    if (name == without_accents) {
        of.state = power::dark_state(circuit::BoardMode::idle, false, charge);
        return of;
    }
    auto state = power::state_named(
        of.job, parts, name, look.empty() && !preset.empty() ? of.job.use.look : look, charge);
    if (!state) return tl::unexpected(state.error());
    of.state = std::move(*state);
    return of;
}

Result<std::vector<HiltState>> states_of(const job::Job& whole, const catalogue::Catalogue& parts,
                                         const ParallelFor& parallel_for) {
    if (!job::first_of<catalogue::Cell>(whole, parts))
        return problem("/parts", "there is no cell", "Fit a cell");
    const job::Job job = job::as_it_stands(whole);
    std::vector<std::function<Result<HiltState>()>> tasks;
    std::vector<std::string> at_rest{"killed", "asleep", "idle", without_accents};
    if (!job::sockets_of(whole).empty()) at_rest.emplace_back("blade out");
    if (charges_in_hilt(job, parts)) at_rest.emplace_back("charging");
    for (const std::string& name : at_rest)
        tasks.emplace_back([&, name]() -> Result<HiltState> {
            auto of = state_of(whole, parts, name, {}, {}, 1);
            if (!of) return tl::unexpected(of.error());
            return resting(*of, parts, name);
        });
    const auto all_of = [&](const std::string& preset, const job::Look& look,
                            const std::vector<job::Effect>& effects) {
        tasks.emplace_back([&job, &parts, preset, &look] { return lit(job, parts, preset, look); });
        for (const job::Effect& effect : effects)
            tasks.emplace_back([&job, &parts, preset, &look, effect] {
                return shown_effect(job, parts, preset, look, effect);
            });
    };
    for (const job::Preset& preset : job.presets)
        if (const job::Look* look = job::find_name(job.looks, preset.look))
            all_of(preset.name, *look, job::effects_of(job, preset));
    if (job.presets.empty())
        for (const job::Look& look : job.looks)
            all_of({}, look, job.effects);
    std::vector<Result<HiltState>> done(tasks.size());
    parallel_for(tasks.size(), [&](std::size_t i) { done[i] = tasks[i](); });
    std::vector<HiltState> all;
    for (auto& one : done) {
        if (!one) return tl::unexpected(one.error());
        all.push_back(std::move(*one));
    }
    return all;
}

Result<std::vector<PresetPlan>> presets_of(const job::Job& whole, const catalogue::Catalogue& parts,
                                           const ParallelFor& parallel_for) {
    const job::Job job = job::as_it_stands(whole);
    std::vector<Result<PresetPlan>> done(job.presets.size());
    parallel_for(done.size(), [&](std::size_t i) {
        const job::Preset& preset = job.presets[i];
        const job::Look* look = job::find_name(job.looks, preset.look);
        if (!look) {
            done[i] = problem(preset.name, "shows no look", "Choose one");
            return;
        }
        PresetPlan p;
        p.order = i + 1;
        p.preset = preset;
        p.look = *look;
        p.effects = job::effects_of(job, preset);
        const job::Job with = lit_with(job, preset.name, look->name);
        const auto mean = power::mean_amps(with, parts, power::mean_state(*look));
        if (!mean) {
            done[i] = tl::unexpected(mean.error());
            return;
        }
        p.mean = *mean;
        const auto most = power::most_of_look(
            with, parts, {*look, {}, power::Brightness::brightest, power::Loudness::peak, 1},
            p.effects);
        if (!most) {
            done[i] = tl::unexpected(most.error());
            return;
        }
        auto solved = solved_in(with, parts, *most);
        if (!solved) {
            done[i] = tl::unexpected(solved.error());
            return;
        }
        p.peak = Ampere(circuit::pack_amps(solved->network, solved->point));
        p.peak_event = most->effect ? most->effect->name : look->name;
        if (const auto run = power::run_down(with, parts)) p.clean = run->clean(), p.off = run->off;
        done[i] = std::move(p);
    });
    std::vector<PresetPlan> all;
    for (auto& one : done) {
        if (!one) return tl::unexpected(one.error());
        all.push_back(std::move(*one));
    }
    return all;
}

} // namespace conductus::plan
