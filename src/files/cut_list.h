// SPDX-License-Identifier: GPL-3.0-or-later
// What is cut, and how it is labelled. docs/job-format.md, "Harness files".
#pragma once

#include <string>

#include "core/harness/harness.h"

namespace conductus::files {

/// RFC 4180: ref, from, to, role, gauge_awg, colour, length_mm, strip_mm, amps, drop_mV, note; a
/// row a piece that is cut (a wire through a dock is several), lengths rounded up to a millimetre.
std::string cutlist_csv(const harness::Harness& harness);

/// A sheet of A4 as SVG, two labels a wire, one for each end; more wires than fit go on below.
std::string labels_svg(const harness::Harness& harness, const std::string& job);

} // namespace conductus::files
