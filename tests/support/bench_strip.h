// SPDX-License-Identifier: GPL-3.0-or-later
// A strip on the bench: what meters would read of it, by the ladder.
#pragma once

#include <cmath>

#include "core/bench/characterise.h"
#include "core/circuit/ladder.h"

namespace conductus::test {

/// At that voltage across its foot; `tip` gets the volts of its last pixel.
inline circuit::Foot strip_at(const circuit::PixelModel& pixel, const circuit::Duties& duty,
                              int pixels, double segment, double volts, double& tip) {
    circuit::Strip strip;
    strip.pixels = pixels, strip.segment = segment, strip.pixel = pixel;
    strip.spans = {{0, pixels, duty}};
    double low = 0, high = volts;
    for (int i = 0; i < 60; ++i) {
        tip = (low + high) / 2;
        (circuit::sweep(strip, tip).volts < volts ? low : high) = tip;
    }
    return circuit::sweep(strip, tip);
}

/// Readings of a whole blade's strip of 117 pixels, as a meter rounds them.
inline bench::Readings read_strip() {
    const circuit::PixelModel truth{3, {0.0122, 0.0117, 0.0124}, {1.93, 2.87, 2.94}, 0.44, 8e-4};
    bench::Readings readings;
    readings.pixels = 117, readings.metres = 0.813;
    for (const double v : {3.0, 3.4, 3.8, 4.2})
        for (const auto& [colour, duty] : {std::pair{"red", circuit::Duties{1, 0, 0, 0}},
                                           {"green", {0, 1, 0, 0}},
                                           {"blue", {0, 0, 1, 0}},
                                           {"white", {1, 1, 1, 0}}}) {
            double tip = 0;
            const auto foot = strip_at(truth, duty, 117, 2 * 0.19 * 0.813 / 117, v, tip);
            readings.rows.push_back({.condition = colour,
                                     .volts = v,
                                     .amps = std::round(foot.amps * 1e3) / 1e3,
                                     .tip = std::round(tip * 1e3) / 1e3});
        }
    return readings;
}

} // namespace conductus::test
