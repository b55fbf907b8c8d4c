// SPDX-License-Identifier: GPL-3.0-or-later
// What the Power station shows beside the plan: the use lived through, warm and cold, stored and
// charged.
#pragma once

#include <memory>
#include <vector>

#include "core/plan/plan.h"
#include "core/power/charging.h"
#include "core/power/day_run.h"
#include "core/power/storage.h"

namespace conductus::plan {

/// A use is lit without pause at these where nobody says others.
inline constexpr Celsius usual_cold{0}, usual_warm{30};

struct UseStudy {
    std::shared_ptr<const power::DayLoads> loads;
    power::Day day;     ///< recorded, one after another until it is off
    power::Day swapped; ///< one day, cells changed as often as it takes
    power::Storage storage;
    power::Charging charging;
    struct At {
        Celsius temperature;
        power::Discharge run;
    };
    std::vector<At> at; ///< at each temperature that was asked for
};

/// Sets of cells to bring for some days of the use.
struct Spares {
    int a_day = 1;      ///< sets, the first one included
    int sets = 1;       ///< to bring in all
    Minute charging;    ///< of one set; 0: no charger is chosen
    Minute overnight;   ///< to charge a day's sets again, `bays` at a time
    bool covers = true; ///< false: a fresh set is not clean
};
/// `overnight`: they are charged again each night, `bays` sets at a time.
Spares spares_for(const UseStudy& study, int days, bool overnight, int bays);

} // namespace conductus::plan
