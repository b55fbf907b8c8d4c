// SPDX-License-Identifier: GPL-3.0-or-later
// A pixel as a load: docs/models.md, "Pixels".
#pragma once

#include <array>
#include <cmath>

#include "core/lights/frame.h"

namespace conductus::circuit {

/// Doubles inside; SI units. Channels in the order R G B W.
struct PixelModel {
    int channels = 3;
    std::array<double, 4> full{}; ///< A
    std::array<double, 4> on{};   ///< V
    double knee = 0.45;           ///< V
    double quiet = 0;             ///< A
    bool operator==(const PixelModel&) const = default;
};

using lights::Duties;

struct CurrentAndSlope {
    double amps = 0;
    double slope = 0; ///< A/V, never negative
};

/// s(x) = x / (1 + x^4)^(1/4) for x > 0, else 0; with its derivative (1 + x^4)^(-5/4).
inline CurrentAndSlope saturation(double x) {
    if (x <= 0) return {};
    const double x2 = x * x;
    const double q = 1 / std::sqrt(std::sqrt(1 + x2 * x2));
    const double q2 = q * q;
    return {x * q, q * q2 * q2};
}

inline double channel_current(const PixelModel& p, std::size_t c, double duty, double volts) {
    return duty * p.full[c] * saturation((volts - p.on[c]) / p.knee).amps;
}

/// Current into one pixel at `volts` across it, all channels and the quiet current.
inline CurrentAndSlope pixel_current(const PixelModel& p, const Duties& duty, double volts) {
    // Below zero the exponential would run away; a pixel the wrong way round is not modelled.
    const double decay = volts > 0 ? std::exp(-volts) : 1 - volts;
    CurrentAndSlope sum{p.quiet * (1 - decay), p.quiet * (volts > 0 ? decay : 1)};
    const double per_knee = 1 / p.knee;
    for (std::size_t c = 0; c < static_cast<std::size_t>(p.channels); ++c) {
        if (duty[c] <= 0) continue;
        const CurrentAndSlope s = saturation((volts - p.on[c]) * per_knee);
        sum.amps += duty[c] * p.full[c] * s.amps;
        sum.slope += duty[c] * p.full[c] * per_knee * s.slope;
    }
    return sum;
}

} // namespace conductus::circuit
