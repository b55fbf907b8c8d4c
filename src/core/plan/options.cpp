// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/options.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/peaks.h"

namespace conductus::plan {
namespace {

std::string remark(const CellOption& o, const hilt::Trial& trial, Millimetre wanted, bool is_part) {
    if (trial.on_way < Millimetre(0))
        return fmt::format("does not pass {}, by {}", trial.way, text(-trial.on_way));
    if (!o.fits) {
        const Millimetre by = -o.clearance.spare;
        if (o.clearance.spare >= Millimetre(0))
            return fmt::format("only {} to spare, {} wanted", text(o.clearance.spare),
                               text(wanted));
        if (o.clearance.against == "end of the hilt") return fmt::format("{} too long", text(by));
        if (is_part) return fmt::format("{} too long: {}", text(by), o.clearance.against);
        return fmt::format("{} too wide for {}", text(by), o.clearance.against);
    }
    if (o.trips) return "fits · protection trips at the peak";
    if (o.overloaded) return "fits · over its continuous rating";
    return fmt::format("fits · {} spare", text(o.clearance.spare));
}

} // namespace

CellTrials cell_trials(const Plan& plan) {
    CellTrials trials;
    if (const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts))
        for (const auto* type : plan.parts->all<catalogue::Cell>())
            trials.emplace_back(type->id,
                                hilt::try_type(*plan.job, *plan.parts, cell.part->ref, type->id));
    return trials;
}

std::vector<CellOption> cell_options(const Plan& plan, const CellTrials& trials,
                                     const std::function<bool()>& stop, const Spread& spread) {
    const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts);
    std::vector<CellOption> options(trials.size());
    spread(trials.size(), [&](std::size_t task) {
        if (stop && stop()) return;
        const auto& [id, trial] = trials[task];
        CellOption& o = options[task];
        o.type = id;
        o.name = plan.parts->find(id)->name;
        o.at = trial.at;
        o.clearance = trial.clearance;
        o.fitted = id == cell.part->type;
        o.fits = trial.clearance.spare >= plan.job->hilt.clearance;
        job::Job with = *plan.job;
        if (!o.fitted) fit_option(*plan.job, *plan.parts, o)(with);
        const auto run = o.fitted && plan.run ? Result<power::Discharge>(*plan.run)
                                              : power::run_down(with, *plan.parts);
        if (run && !plan.trouble) {
            o.clean = run->clean();
            o.bright = run->bright();
            o.off = run->off;
            if (const auto* board =
                    cell.part->protection
                        ? plan.parts->find_as<catalogue::Protection>(*cell.part->protection)
                        : nullptr)
                o.trips = run->peak > board->trip;
            o.overloaded =
                run->samples.front().amps > plan.parts->find_as<catalogue::Cell>(id)->continuous;
        }
        o.remark = remark(o, trial, plan.job->hilt.clearance,
                          job::find_ref(plan.job->parts, o.clearance.against) != nullptr);
    });
    if (stop && stop()) return {};
    std::stable_sort(options.begin(), options.end(), [](const CellOption& a, const CellOption& b) {
        if (a.fitted != b.fitted) return a.fitted;
        if (a.fits != b.fits) return a.fits;
        return a.clean > b.clean;
    });
    return options;
}

job::Edit fit_option(const job::Job& job, const catalogue::Catalogue& parts,
                     const CellOption& option) {
    const auto cell = job::first_of<catalogue::Cell>(job, parts);
    return [ref = cell ? cell.part->ref : std::string(), type = option.type,
            at = option.at](job::Job& j) {
        job::fit_type(ref, type)(j);
        if (auto* part = job::find_ref(j.parts, ref)) part->at = at;
    };
}

} // namespace conductus::plan
