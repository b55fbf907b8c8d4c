// SPDX-License-Identifier: GPL-3.0-or-later
// A look or effect frame by frame, as it is seen and as the cell feels it.
#pragma once

#include <string>
#include <vector>

#include "core/plan/plan.h"

namespace conductus::plan {

struct Frame {
    double seconds = 0;
    std::vector<std::vector<lights::Rgb>> blades; ///< paint of each, foot to tip
    Ampere amps;                                  ///< cell
    Volt board;
};

struct Film {
    std::vector<Frame> frames;
    double rate = 30; ///< frames a second
    Ampere mean, peak;
    Volt lowest; ///< at the board
};

} // namespace conductus::plan
