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

std::vector<hilt::CellTrial> cell_trials(const Plan& plan) {
    std::vector<hilt::CellTrial> trials;
    const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts);
    if (!cell) return trials;
    for (const auto* type : plan.parts->all<catalogue::Cell>())
        // Another number of cells in a row is another board and another blade.
        if (std::get<catalogue::Cell>(type->figures).series == cell.figures->series)
            trials.push_back(hilt::try_cells(
                *plan.job, *plan.parts, type->id,
                type->id == cell.part->type ? cell.part->adapter.value_or("") : ""));
    return trials;
}

std::vector<hilt::CellTrial> adapter_trials(const Plan& plan) {
    std::vector<hilt::CellTrial> trials;
    const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts);
    if (!cell) return trials;
    // The bay there is: that of the adapter in use, or the cell's own.
    const auto* used =
        cell.part->adapter ? plan.parts->find_as<catalogue::Adapter>(*cell.part->adapter) : nullptr;
    const std::string bay = used ? used->bay : cell.figures->size;
    for (const auto* adapter : plan.parts->all<catalogue::Adapter>()) {
        const auto& a = std::get<catalogue::Adapter>(adapter->figures);
        if (a.bay != bay) continue;
        for (const auto* type : plan.parts->all<catalogue::Cell>()) {
            const auto& c = std::get<catalogue::Cell>(type->figures);
            if (c.size != a.takes || c.series != cell.figures->series) continue;
            if (type->id == cell.part->type && cell.part->adapter == adapter->id) continue;
            trials.push_back(hilt::try_cells(*plan.job, *plan.parts, type->id, adapter->id));
        }
    }
    return trials;
}

std::vector<CellOption> cell_options(const Plan& plan, const std::function<bool()>& stop,
                                     const ParallelFor& parallel_for) {
    const auto cell = job::first_of<catalogue::Cell>(*plan.job, *plan.parts);
    std::vector<hilt::CellTrial> trials = cell_trials(plan);
    const std::size_t plain = trials.size();
    for (hilt::CellTrial& t : adapter_trials(plan))
        trials.push_back(std::move(t));
    std::vector<CellOption> options(trials.size());
    parallel_for(options.size(), [&](std::size_t task) {
        if (stop && stop()) return;
        const hilt::CellTrial& t = trials[task];
        CellOption& o = options[task];
        o.type = t.type;
        o.name = plan.parts->find(t.type)->name;
        o.adapter = t.adapter;
        o.fitted = task < plain && t.type == cell.part->type;
        if (task >= plain) o.name += ", in an adapter";
        o.at = t.at;
        o.clearance = t.trial.clearance;
        o.fits = t.trial.clearance.spare >= plan.job->hilt.clearance;
        job::Job with = *plan.job;
        if (!o.fitted) fit_option(*plan.parts, o)(with);
        const auto run = o.fitted && plan.run ? Result<power::Discharge>(*plan.run)
                                              : power::run_down(with, *plan.parts);
        if (run && !plan.trouble) {
            o.clean = run->clean();
            o.bright = run->bright();
            o.off = run->off;
            o.trips = run->tripped.has_value();
            o.overloaded = run->samples.front().amps >
                           plan.parts->find_as<catalogue::Cell>(t.type)->continuous;
        }
        o.remark = remark(o, t.trial, plan.job->hilt.clearance,
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

job::Edit fit_option(const catalogue::Catalogue& parts, const CellOption& option) {
    return job::place_cells(option.type, option.adapter, option.at, parts);
}

} // namespace conductus::plan
