// SPDX-License-Identifier: GPL-3.0-or-later
// Which gauge a wire wants: docs/models.md, "Gauge".
#pragma once

#include <array>
#include <string>
#include <vector>

#include "core/base/quantity.h"

namespace conductus::harness {

/// Gauges a harness is made of, thick to fine.
inline constexpr std::array<int, 6> gauges{20, 22, 24, 26, 28, 30};
/// A wire alone loses no more than this where nothing else is said.
inline constexpr Volt usual_drop(0.05);
/// Above the air of the hilt.
inline constexpr Kelvin most_rise(30);

/// Finest that stays under the rise, and under what it is usually given to carry; 20 where none
/// does.
int finest_by_heat(Ampere amps);
/// Finest that loses no more than that over its length, and stays cool.
int finest_by_drop(Ampere amps, Millimetre length, Volt most);

/// A wire to be sized.
struct WireLoad {
    std::string ref;
    double amps = 0;   ///< in the worst state
    double length = 0; ///< mm
    int finest = 30;   ///< that it may be; thicker is allowed
};

struct Sizing {
    std::vector<int> gauge; ///< of each, in their order
    double drop = 0;        ///< V, as of effective_drop()
    double copper = 0;      ///< mm³
    bool reached = true; ///< false: the thickest of all is not enough; then that is what is given
};

/// What all wires together lose of the pack's volts: the watts in them over the pack's current. Of
/// wires one behind the other that is the sum of their drops, of wires side by side their mean.
double effective_drop(const std::vector<WireLoad>& wires, const std::vector<int>& gauge,
                      double pack_amps);
double copper_of(const std::vector<WireLoad>& wires, const std::vector<int>& gauge);

/// Least copper with which all together lose no more than `budget` volts at these currents. Exact:
/// every combination that could be better is looked at, bounded by what the rest would cost if
/// gauges came in any size between.
Sizing least_copper(const std::vector<WireLoad>& wires, double pack_amps, double budget);

} // namespace conductus::harness
