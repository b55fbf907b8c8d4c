// SPDX-License-Identifier: GPL-3.0-or-later
// A hilt whose sockets take several blades and plugs: every figure is of the set that is mated, and
// of the worst set that may be mated. docs/models.md, "Sets".
#pragma once

#include <memory>

#include "core/base/parallel_for.h"
#include "core/job/mating.h"
#include "core/plan/plan.h"

namespace conductus::plan {

/// Sets that are looked at, at most; of a hilt with more, those in which no socket is left empty
/// that something could be put into.
inline constexpr std::size_t most_sets = 400;

/// The set in which the most that anything can ask is largest, of all that may be mated; where two
/// ask alike, the one that comes first. A set that can not be solved is worse than any other.
/// `whole`: the job with everything that may be mated. Error: it has no look.
/// Once `stop` says so, nothing more is tried and what is returned means nothing.
Result<std::vector<job::Mated>> worst_set(const job::Job& whole, const catalogue::Catalogue& parts,
                                          const ParallelFor& parallel_for,
                                          const std::function<bool()>& stop = {});

/// Makes what is programmed on each line suit all sets: a line that is set for the longest blade is
/// right with a shorter one, and one that is set for a shorter blade is told of the longest.
void suit_all_sets(Plan& plan);

/// Fills `plan.worst` where there is a choice of what is mated, and adds the findings that the
/// worst set alone has, or has graver: each says with which set. To be called before fixes are
/// offered.
/// False: stopped before everything was tried, and nothing was filled.
bool judge_worst_set(Plan& plan, const ParallelFor& parallel_for,
                     const std::function<bool()>& stop = {});

} // namespace conductus::plan
