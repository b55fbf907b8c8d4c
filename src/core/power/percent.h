// SPDX-License-Identifier: GPL-3.0-or-later
// The charge at which a look first crackles, as an owner reads it off. docs/models.md, "Percent".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/parallel_for.h"
#include "core/power/runtime.h"

namespace conductus::power {

/// Of one look, held from full cells with the use's effects.
struct Percent {
    std::string look;
    /// Left in the emptiest cell, 0 to 1; empty: it goes off before it crackles.
    std::optional<double> crackle;
    /// What the board's own gauge says at that moment, lit, or when it goes off: the charge that a
    /// resting cell would have at the volts it stands at under load.
    double gauge = 0;
    Minute clean;
    bool at_once = false; ///< it crackles, or trips, with full cells
    /// Change the cells below that gauge, %: rounded up.
    [[nodiscard]] int change_below() const;
};

/// Of a run of that look.
Percent percent_of(const std::string& look, const Discharge& run);

/// Of one look of the job. Errors: as of run_down().
Result<Percent> percent_in(const job::Job& job, const catalogue::Catalogue& parts,
                           const std::string& look);
/// Of every look, in the job's order.
Result<std::vector<Percent>> percents(const job::Job& job, const catalogue::Catalogue& parts,
                                      const ParallelFor& parallel_for = one_by_one);

/// "Change the cell below 43 % with white, 30 % with green."
Message advice(const std::vector<Percent>& percents);

} // namespace conductus::power
