// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/ladder.h"

#include <algorithm>

namespace conductus::circuit {
namespace {

/// Walks from tip to foot in groups, calling at(first pixel of the group, volts) before each.
template <class At>
Foot walk(const Strip& strip, double tip_volts, int group, At&& at) {
    Foot foot{tip_volts, 0, 1, 0};
    // The slope of a pixel's current by the tip's voltage is its own slope times dV/dV_tip.
    for (auto span = strip.spans.rbegin(); span != strip.spans.rend(); ++span) {
        for (int end = span->last; end > span->first;) {
            const int count = std::min(group, end - span->first);
            const CurrentAndSlope one = pixel_current(strip.pixel, span->duty, foot.volts);
            end -= count;
            at(end, foot.volts);
            foot.amps += count * one.amps;
            foot.amps_slope += count * one.slope * foot.volts_slope;
            // A group's current flows through its own length of copper half way on average: take
            // the resistance to the next group's middle, which is exact for groups of one.
            const double ohms = end > 0 ? strip.segment * count : strip.lead;
            foot.volts += ohms * foot.amps;
            foot.volts_slope += ohms * foot.amps_slope;
        }
    }
    return foot;
}

} // namespace

Foot sweep(const Strip& strip, double tip_volts) {
    return walk(strip, tip_volts, 1, [](int, double) {});
}

Foot coarse_sweep(const Strip& strip, double tip_volts, int group) {
    return walk(strip, tip_volts, group, [](int, double) {});
}

StripState expand(const Strip& strip, double tip_volts, double plus_volts) {
    StripState state;
    const auto n = static_cast<std::size_t>(strip.pixels);
    state.volts.resize(n);
    state.rail.resize(n);
    const Foot foot = walk(strip, tip_volts, 1, [&](int pixel, double volts) {
        state.volts[static_cast<std::size_t>(pixel)] = volts;
    });
    state.amps = foot.amps;
    // Both rails drop alike, so half of what is lost across the pair is lost in the plus rail.
    for (std::size_t k = 0; k < n; ++k)
        state.rail[k] = plus_volts - (foot.volts - state.volts[k]) / 2;
    return state;
}

} // namespace conductus::circuit
