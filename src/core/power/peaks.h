// SPDX-License-Identifier: GPL-3.0-or-later
// The most that anything can ask: one definition, in one place. docs/models.md, "The eight
// figures".
#pragma once

#include <optional>
#include <vector>

#include "core/base/problem.h"
#include "core/power/state.h"

namespace conductus::power {

/// Of the look of that state and every effect over it, all in their brightest moment and at a sound
/// peak: what draws most, and so pulls the board lowest. `state` may bring what it knows of the
/// job; its charge is kept.
Result<State> most_of_look(const job::Job& job, const catalogue::Catalogue& parts, State state);
/// The same with these effects alone.
Result<State> most_of_look(const job::Job& job, const catalogue::Catalogue& parts, State state,
                           const std::vector<job::Effect>& effects);

/// The same of all looks: the worst that anything in the job can ask. Error: as of compiling and
/// solving; a job without a look.
Result<State> most_of_all(const job::Job& job, const catalogue::Catalogue& parts, double charge,
                          const State& known = {});

/// "clash over white", "white"
std::string name_of(const State& state);

} // namespace conductus::power
