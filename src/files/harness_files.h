// SPDX-License-Identifier: GPL-3.0-or-later
// The harness for the bench: what is cut, how it is labelled, how the board is set.
// docs/job-format.md, "Harness files".
#pragma once

#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/harness/study.h"
#include "files/json_text.h"

namespace conductus::files {

/// RFC 4180: ref, from, to, role, gauge_awg, colour, length_mm, strip_mm, amps, drop_mV, note; a
/// row a piece that is cut (a wire through a dock is several), lengths rounded up to a millimetre.
std::string cutlist_csv(const harness::Harness& harness);

/// A sheet of A4 as SVG, two labels a wire, one for each end; more wires than fit go on below.
std::string labels_svg(const harness::Harness& harness, const std::string& job);

/// The configuration as decided, in words no program owns: lines with their lights, buttons, looks.
Json config_json(const job::Job& job, const harness::DataMap& map);
std::string config_text(const job::Job& job, const harness::DataMap& map);

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
