// SPDX-License-Identifier: GPL-3.0-or-later
// Steady temperatures: what each part turns into heat, times its thermal resistance.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"

namespace conductus::power {

/// From `warm` on a hand does not stay on it for long; from `hot` on it is too hot to hold, and a
/// printed chassis softens.
enum class Warmth { cool, warm, hot };
inline constexpr Celsius warm_from{60}, hot_from{80};

struct PartHeat {
    std::string ref;
    Watt power;
    Celsius temperature;
    std::optional<Celsius> die; ///< of an LED in the hilt

    /// Of the die where it has one.
    [[nodiscard]] Warmth warmth() const {
        const Celsius hottest = die.value_or(temperature);
        return hottest >= hot_from    ? Warmth::hot
               : hottest >= warm_from ? Warmth::warm
                                      : Warmth::cool;
    }
};

/// From the walls of a hilt in the hand of nobody to the air: 1/(10 W/m²K × outer surface).
KelvinPerWatt hilt_to_air(const job::Hilt& hilt);

/// Every part, wire and strip of a solved network, hottest first, in air at the use's temperature.
std::vector<PartHeat> heat_of(const job::Job& job, const catalogue::Catalogue& parts,
                              const circuit::Network& network,
                              const circuit::OperatingPoint& point);

} // namespace conductus::power
