// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/look_plan.h"

#include <algorithm>

#include "core/circuit/solver.h"
#include "core/plan/view.h"
#include "core/power/bands.h"
#include "core/power/film.h"
#include "core/power/peaks.h"

namespace conductus::plan {
namespace {

using findings::Solved;
using power::Brightness;
using power::Loudness;
using power::State;

/// `guess` carries one state's solution to the next: they are much alike.
Result<Solved> solved(const job::Job& job, const catalogue::Catalogue& parts, const State& state,
                      circuit::Guess& guess) {
    auto network = power::network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    auto point = circuit::solve(*network, &guess);
    if (!point) return tl::unexpected(point.error());
    Solved s;
    s.name = state.effect ? state.effect->name : state.look.name;
    s.effect = state.effect.has_value();
    s.look = state.look.name;
    if (state.effect) s.of_effect = state.effect->name;
    s.network = std::move(*network);
    s.point = std::move(*point);
    s.mean_share = state.effect ? 1 : lights::mean_factor(state.look.style);
    return s;
}

/// What the cells give without the peak of the sound.
Result<void> calm(const job::Job& job, const catalogue::Catalogue& parts, State state, Solved& s,
                  circuit::Guess& guess) {
    if (std::none_of(job.parts.begin(), job.parts.end(),
                     [](const job::Part& p) { return p.protection.has_value(); }))
        return {};
    state.loudness = Loudness::hum;
    auto quiet = solved(job, parts, state, guess);
    if (!quiet) return tl::unexpected(quiet.error());
    s.without_peak = std::move(quiet->point.source_amps);
    return {};
}

} // namespace

Result<LookPlan> look_plan(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    LookPlan plan;
    plan.name = state.effect ? state.effect->name : state.look.name;
    plan.effect = state.effect.has_value();
    plan.style = state.look.style;
    // An effect comes with its sound; a look with the hum.
    state.loudness = plan.effect ? Loudness::peak : Loudness::hum;
    if (power::has_bands(state)) {
        const auto bands_at = power::brightest_bands(job, parts, state);
        if (!bands_at) return tl::unexpected(bands_at.error());
        state.bands_at = *bands_at;
    }
    double white_y = 0;
    circuit::Guess guess;
    std::vector<std::array<double, charges.size()>> cell_amps;
    for (std::size_t i = 0; i < charges.size(); ++i) {
        state.charge = charges[i];
        auto at = solved(job, parts, state, guess);
        if (!at) return tl::unexpected(at.error());
        plan.views[i] = view_of(job, parts, *at, charges[i], white_y);
        cell_amps.resize(at->point.source_amps.size());
        for (std::size_t c = 0; c < cell_amps.size(); ++c)
            cell_amps[c][i] = at->point.source_amps[c];
        if (i == full) {
            plan.peak = Ampere(at->cell_amps());
            if (plan.effect)
                if (auto ok = calm(job, parts, state, *at, guess); !ok)
                    return tl::unexpected(ok.error());
            plan.fresh = std::make_shared<const Solved>(std::move(*at));
        }
    }
    plan.mean = plan.peak;
    // The first pixel that is lit: bands and an effect on a stretch leave others dark.
    for (const lights::Rgb& seen : plan.views[full].paint)
        if (seen.r + seen.g + seen.b > 0) {
            plan.swatch = seen;
            break;
        }
    state.charge = 1;
    std::optional<power::MeanAndPeak> over_time;
    const bool moves = power::moves(state, plan.fresh->network);
    if (moves) {
        auto solved_over_time = power::shares_amps(job, parts, state);
        if (!solved_over_time) return tl::unexpected(solved_over_time.error());
        over_time = std::move(*solved_over_time);
        plan.mean = over_time->mean;
    }
    plan.carried = carried_of(job, parts, plan.fresh->network, plan.fresh->point,
                              over_time ? &*over_time : nullptr);
    if (plan.effect) return plan;
    if (!moves) {
        plan.sustained = plan.fresh;
    } else {
        State even = power::mean_state(state.look);
        even = power::as_known(std::move(even), state);
        auto mean = solved(job, parts, even, guess);
        if (!mean) return tl::unexpected(mean.error());
        plan.sustained = std::make_shared<const Solved>(std::move(*mean));
    }
    plan.own_heat = power::heat_of(job, parts, plan.sustained->network, plan.sustained->point);
    // As it runs down the mean goes as the brightest frame does.
    const double full_amps = plan.fresh->cell_amps();
    for (auto& cell : cell_amps)
        for (double& amps : cell)
            amps *= full_amps > 0 ? plan.mean.value() / full_amps : 1;
    const auto course =
        power::course_of(power::cells_of(job, parts), cell_amps, job.use.temperature);
    std::vector<std::pair<std::string, Celsius>> cells;
    for (std::size_t i = 0; i < course.cells.size(); ++i)
        cells.emplace_back(plan.fresh->network.sources[i].ref, course.cells[i]);
    power::reach(plan.own_heat, course.course, cells, job.use.temperature);
    plan.heat = plan.own_heat;
    return plan;
}

namespace {

Result<findings::SolvedPtr> at_its_peak(const job::Job& job, const catalogue::Catalogue& parts,
                                        const Result<State>& state) {
    if (!state) return tl::unexpected(state.error());
    circuit::Guess guess;
    auto at = solved(job, parts, *state, guess);
    if (!at) return tl::unexpected(at.error());
    at->name = power::name_of(*state);
    at->momentary = !state->effect && state->loudness == Loudness::peak;
    if (state->effect)
        if (auto ok = calm(job, parts, *state, *at, guess); !ok) return tl::unexpected(ok.error());
    return std::make_shared<const Solved>(std::move(*at));
}

} // namespace

Result<findings::SolvedPtr> most_asked_of(const job::Job& job, const catalogue::Catalogue& parts,
                                          const State& known) {
    return at_its_peak(job, parts, power::most_of_all(job, parts, 1, known));
}

Result<findings::SolvedPtr> most_asked_after(const job::Job& job, const catalogue::Catalogue& parts,
                                             const State& known, const job::Look& changed,
                                             const findings::SolvedPtr& before) {
    State state = power::as_known({changed, {}, Brightness::brightest, Loudness::peak, 1}, known);
    state.loudest_font = true;
    auto now = at_its_peak(job, parts, power::most_of_look(job, parts, std::move(state)));
    return now && (*now)->cell_amps() <= before->cell_amps() ? before : now;
}

void reach_in_use(LookPlan& look, const power::Discharge& run, Celsius air) {
    power::Course course;
    const double amps = look.mean.value();
    const Volt first = run.samples.front().cell;
    for (const power::Sample& s : run.samples)
        course.emplace_back(s.at.value() * 60,
                            amps > 0 ? s.amps.value() * s.cell.value() / (amps * first.value())
                                     : 0);
    std::vector<std::pair<std::string, Celsius>> cells;
    for (std::size_t i = 0; i < run.hottest.size(); ++i)
        cells.emplace_back(look.fresh->network.sources[i].ref, run.hottest[i]);
    look.heat = look.own_heat;
    power::reach(look.heat, course, cells, air);
}

} // namespace conductus::plan
