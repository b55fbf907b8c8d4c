// SPDX-License-Identifier: GPL-3.0-or-later
// A strip as a port: one backward sweep from tip to foot, no iteration. docs/models.md, "A blade".
#pragma once

#include <vector>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// The foot of a strip for a given voltage at the tip pixel, with derivatives by that voltage.
struct Foot {
    double volts = 0, amps = 0;
    double volts_slope = 1, amps_slope = 0;
};

/// Exact ladder, O(pixels). Where they are not null, `pixel_volts` and their slopes by the tip's
/// are filled foot to tip; their size must be the strip's pixel count.
Foot sweep(const Strip& strip, double tip_volts, std::vector<double>* pixel_volts = nullptr,
           std::vector<double>* pixel_slopes = nullptr);

/// The same ladder with pixels lumped in groups of up to `group`: a close first guess, `group`
/// times cheaper.
Foot coarse_sweep(const Strip& strip, double tip_volts, int group);

/// A strip that is fed at more than its foot, for a given voltage across its pads: `volts` in the
/// foot is that voltage, its slope 1. Newton on the tridiagonal system, O(pixels) a step;
/// `pixel_volts` is where it starts and what it finds, with their slopes by the pads' voltage;
/// `known_at` the pads' voltage at which that is. False where it does not settle.
bool fed_ladder(const Strip& strip, double pad_volts, std::vector<double>& pixel_volts,
                std::vector<double>& pixel_slopes, double& known_at, Foot& foot);

/// The state of a strip swept from the right tip, its plus pad at `plus_volts`.
StripState state_of(const Foot& foot, std::vector<double> pixel_volts, double plus_volts);

} // namespace conductus::circuit
