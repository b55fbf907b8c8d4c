// SPDX-License-Identifier: GPL-3.0-or-later
// From a job to its plan: the solving behind every figure. Not for a thread that somebody waits
// for.
#pragma once

#include <functional>
#include <memory>

#include "core/base/parallel_for.h"
#include "core/plan/plan.h"

namespace conductus::plan {

/// Analyses a valid job, all but the options: what the gauge bar waits for. Pure: the same job
/// gives the same plan. `before`: the plan of a job much like it; what can not have changed since
/// is taken from there instead of solved again, with the same outcome. `parallel_for` does the
/// looks side by side.
Plan analyse_figures(std::shared_ptr<const job::Job> job,
                     std::shared_ptr<const catalogue::Catalogue> parts,
                     const Plan* before = nullptr, const ParallelFor& parallel_for = one_by_one);

/// Fills the options of such a plan: a runtime for every cell of the catalogue, and what would
/// change each look.
/// False where `stop` said so in between: then the plan is not whole.
bool add_options(Plan& plan, const std::function<bool()>& stop = {},
                 const ParallelFor& parallel_for = one_by_one);

/// Both.
Plan analyse(std::shared_ptr<const job::Job> job,
             std::shared_ptr<const catalogue::Catalogue> parts);

} // namespace conductus::plan
