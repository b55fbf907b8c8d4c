// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/plan/plan.h"

namespace conductus::plan {

/// The eight figures that decide, each with its parts. Reads everything else of the plan.
std::vector<Explained> figures_of(const Plan& plan);

/// What stands at the board with nothing drawn, V: the cells on the way from ground added up. The
/// network has a board.
double open_at_board(const circuit::Network& network);

} // namespace conductus::plan
