// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/problem.h"
#include "core/power/state.h"

namespace conductus::power {

/// Whether anything that state shows runs along its light in bands.
bool has_bands(const State& state);

/// Seconds into its film at which the look of a state with bands draws most; whatever effect is
/// over it, its bands are taken there. The pictures that the bands form on the pixels are weighed
/// by how many they light and how near the feet these are; those that weigh most are solved.
/// Errors: as of compiling and solving.
Result<double> brightest_bands(const job::Job& job, const catalogue::Catalogue& parts,
                               const State& state);

} // namespace conductus::power
