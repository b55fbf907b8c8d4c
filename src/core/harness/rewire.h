// SPDX-License-Identifier: GPL-3.0-or-later
// A wire doubled, or led through a part.
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/harness/nets.h"
#include "core/job/edits.h"

namespace conductus::harness {

/// A second wire beside it, between the same terminals: they share what flows.
job::Edit double_wire(std::string ref);

/// Parts a wire may be led through: those that nothing is soldered to yet.
std::vector<InARow> ways_through(const job::Job& job, const catalogue::Catalogue& parts,
                                 const job::Wire& wire);

/// The wire ends on `in`, and a new one goes on from `out` to where it led.
job::Edit split_wire(std::string ref, InARow through);

} // namespace conductus::harness
