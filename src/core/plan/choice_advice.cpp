// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choice_advice.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/plan/options.h"
#include "core/power/cap.h"

namespace conductus::plan {
namespace {

using catalogue::Catalogue;
using job::Job;

/// Better by so little is no better: two percent, half a decibel.
double hair_of(Axis axis, double x, double y) {
    return axis == Axis::loudness ? 0.5 : 0.02 * std::max(std::abs(x), std::abs(y)) + 1e-9;
}
bool worse_nowhere(const Choice& a, const Choice& b, bool& better) {
    better = false;
    for (const Axis axis : axes) {
        const double sign = more_is_better(axis) ? 1 : -1;
        const double x = sign * value_of(a, axis), y = sign * value_of(b, axis);
        const double hair = hair_of(axis, x, y);
        if (x < y - hair) return false;
        better = better || x > y + hair;
    }
    return true;
}
std::string gain_words(Axis axis, double gain) {
    switch (axis) {
    case Axis::clean:
        return duration(Minute(gain)) + " more clean";
    case Axis::light:
        return fmt::format("{:.0f} % more light", gain * 100);
    case Axis::spares:
        return fmt::format("{:.0f} fewer spares", gain);
    case Axis::mass:
        return with_unit(gain, "g") + " lighter";
    case Axis::price:
        return with_unit(gain, "EUR") + " cheaper";
    default:
        return with_unit(gain, unit_of(axis)) + " more " + std::string(word(axis));
    }
}

} // namespace

void mark_best(std::vector<Choice>& all) {
    for (Choice& c : all) {
        c.best =
            c.covers && !c.overloaded && std::none_of(all.begin(), all.end(), [&](const Choice& o) {
                bool better = false;
                return o.covers && !o.overloaded && worse_nowhere(o, c, better) && better;
            });
    }
}

void give_up(Choices& choices) {
    const Choice& now = choices.all.front();
    for (const Axis axis : axes) {
        const double sign = more_is_better(axis) ? 1 : -1, have = value_of(now, axis);
        for (const std::size_t changes : {1, 2}) {
            std::size_t best = 0;
            double most = axis == Axis::loudness ? 0.5 : 0.1 * std::abs(have);
            for (std::size_t i = 1; i < choices.all.size(); ++i) {
                const Choice& c = choices.all[i];
                const double gain = sign * (value_of(c, axis) - have);
                if (!c.covers || c.overloaded || c.changes.size() != changes || gain <= most)
                    continue;
                best = i;
                most = gain;
            }
            if (best == 0) continue;
            choices.gives_up.push_back(
                {say("{}: {}", gain_words(axis, most), joined(choices.all[best].changes, ", ")),
                 best});
            break;
        }
    }
}

void reach(const Plan& plan, Choices& choices) {
    const Job& job = *plan.job;
    const Catalogue& parts = *plan.parts;
    choices.wanted = job.use.clean;
    if (!(job.use.clean > Minute(0)) || !choices.all.front().fitted) return;
    if (choices.all.front().clean >= job.use.clean) return;
    if (const auto cap = power::cap_for(job, parts, job.use.clean); cap && cap->reached)
        choices.reach.push_back(
            {cap->effects < 1
                 ? say("look and effects dimmed to {} %", decimals(std::floor(cap->cap * 100), 0))
                 : say("{} capped at {} %", cap->look, decimals(std::floor(cap->cap * 100), 0)),
             cap->clean, cap->edit});
    for (const Choice& c : choices.all)
        if (c.changes.size() == 1 && c.cap == 1 && c.clean >= job.use.clean && !c.overloaded)
            choices.reach.push_back({c.changes.front(), c.clean, take_choice(parts, c)});
    for (const hilt::CellTrial& cell : cell_trials(plan)) {
        const hilt::Trial& trial = cell.trial;
        const Millimetre lacks = job.hilt.clearance - trial.clearance.spare;
        if (lacks <= Millimetre(0) || lacks > Millimetre(2)) continue;
        // Only what is bored away makes room; a neighbour does not move.
        const std::string& where =
            trial.on_way < trial.in_place ? trial.way : trial.clearance.against;
        const bool section =
            std::any_of(job.hilt.sections.begin(), job.hilt.sections.end(),
                        [&](const job::BoreSection& s) { return s.name == where; });
        if (!section) continue;
        Job with = job;
        job::fit_cells(cell.type, "", parts)(with);
        const auto run = power::run_down(with, parts);
        if (run && run->clean() >= job.use.clean)
            choices.reach.push_back(
                {say("{} if {} is bored {} wider", parts.find(cell.type)->name, where, text(lacks)),
                 run->clean(),
                 {}});
    }
}

} // namespace conductus::plan
