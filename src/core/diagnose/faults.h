// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that may be wrong with a hilt, and every reading that could tell.
#pragma once

#include <string_view>
#include <vector>

#include "core/diagnose/world.h"

namespace conductus::diagnose {

/// Every single fault of the wiring, contacts, cells, pads, lights and settings of a job, with how
/// common it is against others. What was found in poor condition at the inspection counts more.
/// None where the cells feed nothing.
std::vector<Fault> faults_of(World& world);

/// What stands between the ids of faults that are named together: "open W5 + worn K1".
inline constexpr std::string_view and_fault = " + ";
/// Whether that fault is one of those.
bool is_among(std::string_view id, std::string_view ids);

/// A reading that could be taken, and how long it takes.
struct Candidate {
    Measure measure;
    double minutes = 1;  ///< to reach both points, with the state set
    bool turned = false; ///< read while the blade or the cap is turned: the most that it moves to
};
/// Volts along the supply and across each wire and contact while it is lit, amps in each state,
/// ohms of every wire and between neighbours with the cell out. Those that can not be solved are
/// left out.
std::vector<Candidate> candidates_of(World& world);

/// Minutes that changing into a state takes.
double minutes_into(const std::string& state);

} // namespace conductus::diagnose
