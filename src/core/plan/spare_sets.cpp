// SPDX-License-Identifier: GPL-3.0-or-later
// How many sets of cells the phases of a use take.
#include <algorithm>
#include <cmath>

#include "core/plan/choices.h"
#include "core/power/use_day.h"

namespace conductus::plan {

int sets_a_day(const power::Discharge& run, const job::Use& use, Ampere idle, Ampere asleep,
               MilliAmpereHour capacity) {
    const double clean = run.clean().value();
    if (!(clean > 0)) return 0;
    const auto minutes = power::minutes_of(power::phases_of(use));
    const double usable = (1 - run.clean_charge) * capacity.value(); // mAh
    const double rests =
        (idle.value() * minutes.idle.value() + asleep.value() * minutes.stored.value()) * 1000 / 60;
    const double sets = minutes.ignited.value() / clean + (usable > 0 ? rests / usable : 0);
    return std::max(1, static_cast<int>(std::ceil(sets - 1e-9)));
}

} // namespace conductus::plan
