// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/answers.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/solver.h"
#include "core/plan/view.h"

namespace conductus::plan {

Result<UseStudy> use_study(const job::Job& job, const catalogue::Catalogue& parts,
                           const std::vector<Celsius>& temperatures,
                           const ParallelFor& parallel_for) {
    UseStudy study;
    auto loads = power::day_loads(job, parts, job.use, parallel_for);
    if (!loads) return tl::unexpected(loads.error());
    study.loads = std::make_shared<const power::DayLoads>(std::move(*loads));
    power::DayPlan record, swaps;
    record.full_record = true;
    record.days = 60;
    swaps.swaps = true;
    study.at.resize(temperatures.size());
    std::vector<Result<void>> done(temperatures.size());
    parallel_for(2 + temperatures.size(), [&](std::size_t task) {
        if (task == 0) {
            study.day = power::live(*study.loads, record);
        } else if (task == 1) {
            study.swapped = power::live(*study.loads, swaps);
        } else {
            job::Job at = job;
            at.variants.clear();
            at.use.temperature = temperatures[task - 2];
            for (job::Phase& p : at.use.day)
                p.temperature.reset();
            auto run = power::run_down(at, parts);
            if (run)
                study.at[task - 2] = {temperatures[task - 2], std::move(*run)};
            else
                done[task - 2] = tl::unexpected(run.error());
        }
    });
    for (const auto& ok : done)
        if (!ok) return tl::unexpected(ok.error());
    const auto storage = power::storage_of(job, parts);
    if (!storage) return tl::unexpected(storage.error());
    study.storage = *storage;
    study.charging = power::charging_of(job, parts);
    return study;
}

Result<View> moment_of(const Plan& plan, const UseStudy& study, const power::DaySample& sample,
                       double& white_y) {
    const job::Job& job = *plan.job;
    const bool asleep = sample.shows != "idle"; // stored, asleep, or something has opened
    power::State state = power::rest_state(
        job, asleep ? job::Rest::asleep : job::Rest::idle, sample.charge);
    if (sample.lit) {
        const auto look = power::look_named(job, job.use.look);
        if (!look) return tl::unexpected(look.error());
        state = {*look, {}, power::Brightness::brightest, power::Loudness::hum, sample.charge};
        if (sample.effect >= 0) {
            state.effect = study.loads->effects[static_cast<std::size_t>(sample.effect)];
            state.loudness = power::Loudness::peak;
        }
    }
    auto network = power::network_of(job, *plan.parts, state);
    if (!network) return tl::unexpected(network.error());
    const auto& figures = study.loads->sets.front()->cells;
    for (std::size_t i = 0; i < std::min(network->sources.size(), sample.cells.size()); ++i) {
        network->sources[i].emf = sample.cells[i].emf(figures[i]).value();
        network->sources[i].ohms = std::max(sample.cells[i].resistance(figures[i]).value(), 1e-8);
    }
    auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    findings::Solved solved;
    solved.name = std::string(sample.shows);
    solved.effect = sample.effect >= 0;
    solved.network = std::move(*network);
    solved.point = std::move(*point);
    return view_of(job, *plan.parts, solved, sample.charge, white_y);
}

Spares spares_for(const UseStudy& study, int days, bool overnight, int bays) {
    Spares s;
    s.covers = !study.swapped.hopeless;
    s.a_day = study.swapped.cells;
    s.charging = study.charging.minutes();
    s.sets = overnight ? s.a_day : s.a_day * std::max(1, days);
    // What is left in a set that was not used up carries over no further than its day.
    const int rounds = (s.a_day + std::max(1, bays) - 1) / std::max(1, bays);
    s.overnight = s.charging * rounds;
    return s;
}

} // namespace conductus::plan
