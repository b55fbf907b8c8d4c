// SPDX-License-Identifier: GPL-3.0-or-later
// The wiring as it was found against the wiring as it is planned.
#pragma once

#include <string>
#include <vector>

#include "core/job/edit.h"

namespace conductus::job {

/// True where the plan has a wire between the same two terminals, in either direction.
bool is_planned(const Job& job, const FoundWire& wire);

/// Wires of the plan that were not found: "W4 B1.minus – U1.gnd".
std::vector<std::string> not_found(const Job& job);

/// Takes the planned wires as found: where a job was drawn up from the hilt as it came.
void find_as_planned(Job& job);

/// The day of the snapshot is the day it was begun: set, where it has none.
Edit date_snapshot(std::string day);

} // namespace conductus::job
