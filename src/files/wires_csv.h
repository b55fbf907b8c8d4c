// SPDX-License-Identifier: GPL-3.0-or-later
// Wires from a table. docs/job-format.md, "Harness files".
#pragma once

#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::files {

/// Wires of a CSV file: columns by their names in the first row (ref, from, to, role, gauge_awg,
/// length_mm, colour; from and to at least). Pieces as a cut list has them are one wire again. What
/// a wire of the same ref has beside these columns (turn, loop, measured resistance), and columns
/// that are not there, stay as they are. Everything that is wrong, each with line and column, or
/// the wires. `name`: what errors call the file.
struct ReadWires {
    std::vector<job::Wire> wires;
    std::vector<Problem> problems;
};
ReadWires read_wires_csv(std::string_view text, const job::Job& job,
                         const catalogue::Catalogue& parts, const std::string& name);

} // namespace conductus::files
