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

/// On average: scales each pulsed junction, and all that carries its current alone, by its duty,
/// since what conducts for a share of the time is, on average, that share of it. While on: leaves
/// all as it is and writes the share down. A driver whose only LED is dark, its junction left out
/// at one of `dark`, is switched off with it. docs/models.md, "LEDs".
enum class Pulses { averaged, on };
void pulse(Network& network, const std::vector<Pulsed>& pulsed, const std::vector<Node>& dark,
           Pulses pulses);

} // namespace conductus::circuit
