// SPDX-License-Identifier: GPL-3.0-or-later
// Gauges of the whole harness under a budget of volts: docs/models.md, "Gauge".
#pragma once

#include "core/plan/plan.h"

namespace conductus::plan {

struct SizedWire {
    std::string ref;
    int now = 26, wanted = 26; ///< AWG
    Ampere amps;               ///< with all of them as wanted
    Volt drop;
};

struct SizedWires {
    std::vector<SizedWire> wires; ///< supply and return, in the job's order
    std::string state;            ///< look or effect they are sized for
    Volt budget;
    Volt now, drop;                    ///< of all together, as they are and as wanted; solved
    double copper_now = 0, copper = 0; ///< mm³
    bool reached = true;               ///< false: even the thickest lose more
    job::Edit edit;
};

} // namespace conductus::plan
