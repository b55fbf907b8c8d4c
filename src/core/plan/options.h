// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/plan/plan.h"

namespace conductus::plan {

/// Every cell of the catalogue with as many cells in a row; empty where none is fitted.
std::vector<hilt::CellTrial> cell_trials(const Plan& plan);

/// Smaller cells in adapters that fill the bay there is.
std::vector<hilt::CellTrial> adapter_trials(const Plan& plan);

/// Every cell of the catalogue in the fitted one's place, the fitted first, then by clean runtime.
/// Those that could not be solved have zero runtimes.
/// Empty where `stop` says so in between. `parallel_for` does the cells side by side.
std::vector<CellOption> cell_options(const Plan& plan, const std::function<bool()>& stop = {},
                                     const ParallelFor& parallel_for = one_by_one);

} // namespace conductus::plan
