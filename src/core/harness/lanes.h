// SPDX-License-Identifier: GPL-3.0-or-later
// Wires as lanes under the section: in which order fewest cross. docs/models.md, "Lanes".
#pragma once

#include <string>
#include <vector>

namespace conductus::harness {

/// A wire along the axis; its ends come down to it from the section above.
struct Lane {
    std::string ref;
    double from = 0, to = 0; ///< mm, from <= to
    int level = 0;           ///< 0 nearest to the section
};

/// Ends that come down through another lane: what a drawing of these levels shows.
int crossings(const std::vector<Lane>& lanes);

/// Gives every lane its level, `lanes` in any order. A wire within the reach of another lies above
/// it, and none of its ends is crossed; of two that overlap half one crosses whichever is above.
/// Those that do not overlap may share a level, `apart` mm from each other. Fewest crossings, and
/// of lanes that are free to lie either way the order of the list stays.
void lay_lanes(std::vector<Lane>& lanes, double apart = 4);

} // namespace conductus::harness
