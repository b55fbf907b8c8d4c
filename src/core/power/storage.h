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
    double asleep_days = 0;      ///< in deep sleep, nothing opened
    double killed_days = 0;      ///< kill open; without one the same as asleep
    double pulled_days = 0;      ///< the cells taken out: self-discharge alone
    Ampere idle, asleep, killed; ///< most of any cell, at half charge; idle: awake, nothing lit
    double self_a_day = 0;       ///< share of the capacity
    /// As it lies when nobody thinks of the kill: what counts.
    [[nodiscard]] double days() const { return asleep_days; }
};

/// Days until full cells are empty in that state, self-discharge with it; its charge is passed
/// over. Errors: as of compiling and solving.
Result<double> days_in(const job::Job& job, const catalogue::Catalogue& parts, State state);

/// Errors: as of compiling and solving.
Result<Storage> storage_of(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::power
