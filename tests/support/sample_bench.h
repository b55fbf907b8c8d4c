// SPDX-License-Identifier: GPL-3.0-or-later
// What a bench would have read: a hilt with a fault, and a logged discharge.
#pragma once

#include "core/diagnose/practice.h"
#include "core/job/job.h"

namespace conductus::test {

/// That fault by its id; the test ends where there is none.
std::size_t fault_named(const diagnose::Finder& finder, const std::string& id);

/// Volts and amps of a cell that is run down with these amps, stepped second by second, with the
/// noise of a meter. `path`: ohms between the cell and where its volts are read.
job::DischargeLog logged_discharge(const job::Job& job, const catalogue::Catalogue& parts,
                                   double capacity_mAh, double cell_ohms, double path, double amps,
                                   std::uint64_t seed);

} // namespace conductus::test
