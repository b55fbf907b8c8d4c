// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// A junction that is lit for a share of the time.
struct Pulsed {
    std::size_t diode = 0;
    double duty = 1; ///< more than 0
};

/// Scales each pulsed junction, and all that carries its current alone, by its duty: what conducts
/// for a share of the time is, on average, that share of it. A driver whose only LED is dark, its
/// junction left out at one of `dark`, is switched off with it. docs/models.md, "LEDs".
void pulse(Network& network, const std::vector<Pulsed>& pulsed, const std::vector<Node>& dark);

} // namespace conductus::circuit
