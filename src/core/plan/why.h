// SPDX-License-Identifier: GPL-3.0-or-later
// Why a figure is what it is: its parts, and what would change it. docs/models.md, "Why".
#pragma once

#include <string>
#include <vector>

#include "core/plan/plan.h"

namespace conductus::plan {

/// What one tenth more of one input does to a figure.
struct Sensitivity {
    std::string input; ///< "capacity of B1"
    std::string ref;   ///< part to jump to, may be empty
    double was = 0, is = 0;
    std::string unit;  ///< of the input
    double change = 0; ///< of the figure, in its unit, for one tenth more; a look at full
                       ///< brightness is dimmed by a tenth instead and the sign turned
};

struct Why {
    Explained figure;
    std::vector<Sensitivity> by; ///< by size of the change, largest first
};

/// Figures that can be asked: the eight of the gauge bar, and "off" and "storage".
std::vector<std::string> figures_to_ask();

} // namespace conductus::plan
