// SPDX-License-Identifier: GPL-3.0-or-later
// The smallest circle round discs: what a slice of the hilt needs.
#pragma once

#include <vector>

namespace conductus::hilt {

/// Millimetres across the axis. A radius may be negative: a disc less the room it has.
struct Disc {
    double x = 0, y = 0, r = 0;
};

/// The circle (centre, t) of least t with |centre − p| + r ≤ t for every disc; t = −∞ for none.
/// With bores of different radius R taken off each r, −t is the room the lot has when it is moved
/// as one to where it has most. An LP-type problem: a basis of at most three discs, exchanged
/// until none sticks out (Welzl's circle, for discs).
Disc smallest_circle(const std::vector<Disc>& discs);

} // namespace conductus::hilt
