// SPDX-License-Identifier: GPL-3.0-or-later
// Looks and effects solved: everything that pages show and rules judge of each.
#pragma once

#include "core/base/problem.h"
#include "core/plan/plan.h"
#include "core/power/state.h"

namespace conductus::plan {

/// Everything a page shows of the look or effect of that state; the solved states are kept for the
/// rules. Errors: as of compiling and solving.
Result<LookPlan> look_plan(const job::Job& job, const catalogue::Catalogue& parts,
                           power::State state);

/// What draws most of anything in the job, full charge. `known`: what follows from the job alone.
/// Errors as above.
Result<findings::SolvedPtr> most_asked_of(const job::Job& job, const catalogue::Catalogue& parts,
                                          const power::State& known);

/// The same, where all looks but `changed` are known to ask for `before` at most.
Result<findings::SolvedPtr> most_asked_after(const job::Job& job, const catalogue::Catalogue& parts,
                                             const power::State& known, const job::Look& changed,
                                             const findings::SolvedPtr& before);

/// Makes the look of the use as warm as the use does: as it runs down, effects at their rates.
void reach_in_use(LookPlan& look, const power::Discharge& run, Celsius air);

} // namespace conductus::plan
