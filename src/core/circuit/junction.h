// SPDX-License-Identifier: GPL-3.0-or-later
// An LED's junction: docs/models.md, "LEDs".
#pragma once

#include <algorithm>
#include <cmath>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// Saturation current that gives `forward` volts at `stated` amps behind `series` ohms.
inline double saturation_of(double forward, double stated, double slope, double series) {
    return stated / std::expm1((forward - stated * series) / slope);
}

inline double junction_amps(const Diode& d, double volts) {
    return d.saturation * std::expm1(volts / d.slope);
}

/// A point on the junction's curve by x, which runs evenly where the exponential does not: volts up
/// to a fifth of the stated current, from there the current at that point's slope.
struct JunctionPoint {
    double volts, amps, volts_slope, amps_slope;
};
inline JunctionPoint junction_at(const Diode& d, double x) {
    const double amps = 0.2 * d.stated;
    const double knee = d.slope * std::log1p(amps / d.saturation);
    const double gain = (amps + d.saturation) / d.slope;
    if (x <= knee) {
        const double decay = std::exp(x / d.slope);
        return {x, d.saturation * (decay - 1), 1, d.saturation * decay / d.slope};
    }
    const double i = amps + gain * (x - knee);
    return {d.slope * std::log1p(i / d.saturation), i, gain * d.slope / (i + d.saturation), gain};
}

} // namespace conductus::circuit
