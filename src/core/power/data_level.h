// SPDX-License-Identifier: GPL-3.0-or-later
// Whether data is high enough where it is heard: docs/models.md, "Data".
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"
#include "core/lights/chains.h"

namespace conductus::power {

/// Data from a pad, a level shifter or a group's last pixel to a group's first.
struct DataHop {
    std::string line; ///< "U1.d1"
    std::string from; ///< the line's pad, or ref of the group before
    std::string to;   ///< ref of the group that hears it
    std::string shifter;
    Volt high;  ///< of the data, against the ground of who hears it
    Volt need;  ///< share of its own supply that it takes for high
    Volt shift; ///< its ground above the board's
    Ohm series;
    [[nodiscard]] Volt margin() const { return high - need; }
};

/// Every hop of a solved state, in the order of the chains. Groups without supply are left out.
std::vector<DataHop> data_levels(const job::Job& job, const catalogue::Catalogue& parts,
                                 const lights::Chains& chains, const circuit::Network& network,
                                 const circuit::OperatingPoint& point);

} // namespace conductus::power
