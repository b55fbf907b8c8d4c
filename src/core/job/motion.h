// SPDX-License-Identifier: GPL-3.0-or-later
// What the board takes a movement for, from which threshold on, and the test sheet of movements.
#pragma once

#include <string>
#include <vector>

namespace conductus::job {

/// What the board can take a movement for.
enum class Felt { nothing, swing, twist, roll, thrust, tap, clash };

/// From what on the board takes a movement for something. 0: it does not listen for that.
struct MotionSettings {
    double swing = 0;  ///< degrees per second across the blade
    double twist = 0;  ///< degrees per second about the blade
    double roll = 0;   ///< degrees turned about the blade, slower than a twist
    double thrust = 0; ///< g along the blade
    double tap = 0;    ///< g, a short blow while the hilt is at rest
    double clash = 0;  ///< g, a short blow
    bool operator==(const MotionSettings&) const = default;
};

/// One line of the test sheet: a movement that is always made alike.
struct MotionTest {
    std::string movement; ///< "slow turn"
    Felt wanted = Felt::nothing;
    Felt observed = Felt::nothing;
    std::string on; ///< ISO date; empty: not tried yet
    bool operator==(const MotionTest&) const = default;
};

} // namespace conductus::job
