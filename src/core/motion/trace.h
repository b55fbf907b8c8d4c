// SPDX-License-Identifier: GPL-3.0-or-later
// Acceleration and turning of a hilt over time, as its board measures them.
#pragma once

#include <string>
#include <vector>

#include "core/job/motion.h"

namespace conductus::motion {

/// x is along the blade toward its tip, y and z are across it. Acceleration has gravity in it.
struct Sample {
    double t = 0;                  ///< s
    double ax = 0, ay = 0, az = 0; ///< g
    double gx = 0, gy = 0, gz = 0; ///< degrees per second
    bool operator==(const Sample&) const = default;
};

/// A stretch of time in which the board should take the movement for that, once or more.
struct Meant {
    double from = 0, to = 0; ///< s
    job::Felt what = job::Felt::nothing;
    bool operator==(const Meant&) const = default;
};

/// Of a movement; `meant` is empty where the board should take it for nothing.
struct Trace {
    std::string name; ///< "slow turn"
    std::vector<Sample> samples;
    std::vector<Meant> meant;
    bool operator==(const Trace&) const = default;
};

/// The movements that a made-up hilt is tried with.
enum class Movement {
    lighting_up,
    slow_turn,
    flick,
    swing,
    spin,
    thrust,
    tap,
    strike,
    walking,
    set_down,
    loose_board
};
inline constexpr int movement_count = 11;
const char* word(Movement movement);

/// A made-up trace, 200 samples a second: always the same for a seed. `vigour` 1: as usual.
Trace make_trace(Movement movement, unsigned seed, double vigour = 1);

/// One of each movement, three hands each: calm, usual and lively.
std::vector<Trace> made_up_set();

} // namespace conductus::motion
