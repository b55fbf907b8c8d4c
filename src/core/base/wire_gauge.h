// SPDX-License-Identifier: GPL-3.0-or-later
// How thick a wire is.
#pragma once

#include <cmath>
#include <numbers>

#include "core/base/quantity.h"

namespace conductus {

/// Diameter of a bare wire of an American Wire Gauge: 0.127 mm · 92^((36 − AWG)/39).
inline Millimetre wire_diameter(int gauge) {
    return Millimetre(0.127 * std::pow(92.0, (36.0 - gauge) / 39.0));
}

/// With its insulation, 0.5 mm thick.
inline Millimetre insulated_diameter(int gauge) { return wire_diameter(gauge) + Millimetre(1); }

/// Insulated wire across, mm².
inline double insulated_area(int gauge) {
    const double d = insulated_diameter(gauge).value();
    return std::numbers::pi / 4 * d * d;
}

} // namespace conductus
