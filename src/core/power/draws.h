// SPDX-License-Identifier: GPL-3.0-or-later
// What takes current while nobody uses it, part by part. docs/models.md, "Storage".
#pragma once

#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/power/state.h"

namespace conductus::power {

/// Taken by one part with the board in deep sleep, cells half full.
struct Draw {
    std::string ref; ///< of a part, or of a strip in a blade
    Ampere amps;
    bool lit = false;   ///< it shows light
    bool board = false; ///< a board's own sleep
};

/// Everything that draws more than a micro-ampere, the largest first. Error: as of compiling and
/// solving.
Result<std::vector<Draw>> draws_in_the_dark(const job::Job& job, const catalogue::Catalogue& parts,
                                            bool killed, const State& known = {});

} // namespace conductus::power
