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

/// `name`: an effect, over `look`, from its start to a little after its end; or a look, for four
/// seconds. From a full cell, with its sound at its peak for an effect. Error: no such look or
/// effect; as of compiling and solving.
Result<Film> film_of(const Plan& plan, const std::string& name, const std::string& look,
                     std::uint64_t seed = 1);

} // namespace conductus::plan
