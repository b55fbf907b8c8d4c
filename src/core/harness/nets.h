// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs together by wires and by parts in series.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/job/wiring.h"

namespace conductus::harness {

using job::Terminals;
using Through = job::Wiring::Through;

/// A part that stands in a row with what it serves, and its two terminals: "F1.a". What conducts or
/// switches in a supply, and of data a level shifter.
struct InARow {
    std::string part, in, out;
};
std::optional<InARow> in_row(const job::Part& part, const catalogue::Catalogue& parts);

/// Whether wires of that role may end on a terminal: of a part as its kind says, but for a button
/// that switches a supply; of a blade data or power as its name says.
bool takes_wire(const job::Job& job, const catalogue::Catalogue& parts, std::string_view terminal,
                job::Role role);

/// Terminals of the job's boards that start with `letter` and a digit: pads of a kind, in order.
std::vector<std::string> pads(const job::Job& job, const catalogue::Catalogue& parts, char letter);

/// Of those, what no wire ends on.
std::vector<std::string> free_pads(const job::Job& job, const catalogue::Catalogue& parts,
                                   const job::Wiring& wiring, char letter);

/// What stands at the plus and minus of all cells together, as they are wired; or where nothing is
/// wired, as they would be.
struct PackEnds {
    std::vector<std::string> plus, minus; ///< terminals
};
PackEnds pack_ends(const job::Job& job, const catalogue::Catalogue& parts,
                   const job::Wiring& wiring);

/// Cells that a board and its lights want one behind the other.
bool cells_in_row(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::harness
