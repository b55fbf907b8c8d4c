// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs together by wires and by parts in series.
#pragma once

#include <optional>
#include <set>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::harness {

using Terminals = std::set<std::string, std::less<>>;

/// A part that stands in a row with what it serves, and its two terminals: "F1.a". A kill, fuse,
/// resistor or linear driver; of data a level shifter.
struct Through {
    std::string part, in, out;
};
std::optional<Through> in_row(const job::Part& part, const catalogue::Catalogue& parts);

/// Something is soldered to that terminal.
bool soldered_to(const job::Job& job, const std::string& terminal);
/// Nothing is soldered to any terminal of that part.
bool is_loose(const job::Job& job, const catalogue::Catalogue& parts, const job::Part& part);

/// Everything reached from these terminals along wires of these roles; through parts in a row, and
/// from a regulator's or driver's input to its output, where `through` says so.
Terminals reached(const job::Job& job, const catalogue::Catalogue& parts,
                  const std::vector<std::string>& from, const std::vector<job::Role>& roles,
                  bool through);

/// Terminals of the job's boards that start with `letter` and a digit: pads of a kind, in order.
std::vector<std::string> pads(const job::Job& job, const catalogue::Catalogue& parts, char letter);

/// Of those, what no wire ends on.
std::vector<std::string> free_pads(const job::Job& job, const catalogue::Catalogue& parts,
                                   char letter);

/// What stands at the plus and minus of all cells together, as they are wired; or where nothing is
/// wired, as they would be.
struct PackEnds {
    std::vector<std::string> plus, minus; ///< terminals
};
PackEnds pack_ends(const job::Job& job, const catalogue::Catalogue& parts);

/// Cells that a board and its lights want one behind the other.
bool cells_in_row(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::harness
