// SPDX-License-Identifier: GPL-3.0-or-later
// How many sets of cells the phases of a use take.
#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"
#include "core/plan/choices.h"
#include "core/power/use_day.h"

namespace conductus::plan {

AtRest at_rest(const job::Job& job, const catalogue::Catalogue& parts,
               const power::Storage& storage) {
    AtRest rest{storage.idle, storage.asleep, Second(0), MilliAmpereHour(0)};
    if (const auto board = job::first_of<catalogue::Board>(job, parts))
        rest.sleep_after = job::sleep_after(*board.part, *board.figures);
    for (const power::CellFigures& f : power::cells_of(job, parts))
        if (rest.capacity == MilliAmpereHour(0) || f.capacity < rest.capacity)
            rest.capacity = f.capacity;
    return rest;
}

int sets_a_day(const power::Discharge& run, const job::Use& use, const AtRest& rest) {
    const double clean = run.clean().value();
    if (!(clean > 0)) return 0;
    const auto minutes = power::minutes_of(power::phases_of(use), rest.sleep_after);
    const double usable = (1 - run.clean_charge) * rest.capacity.value(); // mAh
    const Minute awake = minutes.idle - minutes.dozing, asleep = minutes.stored + minutes.dozing;
    const double rests =
        (rest.idle.value() * awake.value() + rest.asleep.value() * asleep.value()) * 1000 / 60;
    const double sets = minutes.ignited.value() / clean + (usable > 0 ? rests / usable : 0);
    return std::max(1, static_cast<int>(std::ceil(sets - 1e-9)));
}

} // namespace conductus::plan
