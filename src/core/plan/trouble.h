// SPDX-License-Identifier: GPL-3.0-or-later
// A job that can not be solved, as a finding.
#pragma once

#include <string>

#include "core/base/problem.h"
#include "core/plan/plan.h"

namespace conductus::plan {

/// A node or a device of the network as a person calls it: "p1_plus" is P1.plus, "d1_die2" is D1.
std::string in_words(const job::Job& job, const catalogue::Catalogue& parts,
                     const std::string& name);

/// Why nothing, or no more than `solved` of `looks`, could be solved; of a job that is not whole
/// yet what it lacks.
findings::Finding trouble_finding(const Plan& plan, const Problem& problem, std::size_t solved,
                                  std::size_t looks);

} // namespace conductus::plan
