// SPDX-License-Identifier: GPL-3.0-or-later
// A strip as a port: one backward sweep from tip to foot, no iteration. docs/models.md, "A blade".
#pragma once

#include "core/circuit/network.h"

namespace conductus::circuit {

/// The foot of a strip for a given voltage at the tip pixel, with derivatives by that voltage.
struct Foot {
    double volts = 0, amps = 0;
    double volts_slope = 1, amps_slope = 0;
};

/// Exact ladder. O(pixels).
Foot sweep(const Strip& strip, double tip_volts);

/// The same ladder with pixels lumped in groups of up to `group`: a close first guess, `group`
/// times cheaper.
Foot coarse_sweep(const Strip& strip, double tip_volts, int group);

/// All pixels' voltages and the foot current for a given tip; plus-rail voltages are filled in
/// from the foot's plus node at `plus_volts`.
StripState expand(const Strip& strip, double tip_volts, double plus_volts);

} // namespace conductus::circuit
