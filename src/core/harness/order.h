// SPDX-License-Identifier: GPL-3.0-or-later
// In which order wires are soldered: what is reachable when.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/harness/harness.h"

namespace conductus::harness {

struct SolderStep {
    std::string wire;
    std::string
        where;   ///< "on the bench", "chassis beside the hilt", "before the cap is screwed on"
    Message why; ///< "both ends ride on C1"
    bool done = false; ///< recorded
};

/// On the bench what rides together, fine signals before thick supply; then what joins a carrier to
/// the hilt, the farthest end first; the cells' plus last of all, when everything else has been
/// measured.
std::vector<SolderStep> solder_order(const job::Job& job, const catalogue::Catalogue& parts,
                                     const Harness& harness);

} // namespace conductus::harness
