// SPDX-License-Identifier: GPL-3.0-or-later
// What a wire is usually called, coloured and made of.
#pragma once

#include <string>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::harness {

/// The next free "W12".
std::string next_wire_ref(const job::Job& job);

/// The colour a wire is given where none is chosen: supply red, return black, data green, button
/// blue, sound yellow; a switched negative white.
std::string usual_colour(const job::Job& job, const catalogue::Catalogue& parts,
                         const job::Wire& wire);

/// Smallest gauge of 20, 22 ... 30 usually given that current.
int gauge_for(Ampere amps);

} // namespace conductus::harness
