// SPDX-License-Identifier: GPL-3.0-or-later
// How long it may lie: what draws while nobody uses it. docs/models.md, "Storage".
#pragma once

#include <vector>

#include "core/base/problem.h"
#include "core/power/use_loads.h"

namespace conductus::power {

/// Days until full cells are empty, lying at the use's temperature.
struct Storage {
    bool has_kill = false;
    double asleep_days = 0; ///< in deep sleep, nothing opened
    double killed_days = 0; ///< kill open; without one the same as asleep
    double pulled_days = 0; ///< the cells taken out: self-discharge alone
    Ampere asleep, killed;  ///< drawn at half charge
    double self_a_day = 0;  ///< share of the capacity
    /// As it is meant to lie: with the kill open where there is one.
    [[nodiscard]] double days() const { return has_kill ? killed_days : asleep_days; }
};

/// Errors: as of compiling and solving.
Result<Storage> storage_of(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::power
