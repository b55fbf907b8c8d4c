// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/problem.h"
#include "core/power/state.h"

namespace conductus::power {

/// The state among the look's brightest frame and every effect over it, all at a sound peak and
/// full charge, that pulls the board lowest.
Result<State> lowest_board_state(const job::Job& job, const catalogue::Catalogue& parts,
                                 const job::Look& look);

} // namespace conductus::power
