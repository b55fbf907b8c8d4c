// SPDX-License-Identifier: GPL-3.0-or-later
// How warm parts get: what each turns into heat, times its thermal resistance, once it has had the
// time. docs/models.md, "Heat".
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"
#include "core/power/cell_model.h"

namespace conductus::power {

/// From `warm` on a hand does not stay on it for long; from `hot` on it is too hot to hold, and a
/// printed chassis softens.
enum class Warmth { cool, warm, hot };
inline constexpr Celsius warm_from{60}, hot_from{80};

struct PartHeat {
    std::string ref;
    Watt power;                 ///< to begin with
    Celsius temperature;        ///< the highest it reaches until the cells are empty
    std::optional<Celsius> die; ///< of an LED in the hilt
    Celsius steady;             ///< if fresh cells lasted for ever
    Second warms;               ///< how long it takes to warm through: its time constant

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

/// From the wall of a blade's tube to the air: 1/(10 W/m²K × its surface).
KelvinPerWatt tube_to_air(const job::Blade& blade);

/// Every part, wire and strip of a solved network, hottest first, in air at the use's temperature,
/// held for ever.
std::vector<PartHeat> heat_of(const job::Job& job, const catalogue::Catalogue& parts,
                              const circuit::Network& network,
                              const circuit::OperatingPoint& point);

/// What is drawn on the way from full to empty: seconds since it began, and watts against those of
/// the moment that heat_of() was given.
using Course = std::vector<std::pair<double, double>>;

/// The highest share of its steady rise that something reaches which warms in that time. Between
/// two moments the watts stand as at the earlier one.
double reached(const Course& course, Second warms);

/// A look drawn from rested full cells until they are empty.
struct LookCourse {
    Course course;
    std::vector<Celsius> cells; ///< the warmest each cell of the job gets
};
/// `amps`: of each cell at full, half and a tenth of its charge.
LookCourse course_of(const std::vector<CellFigures>& cells,
                     const std::vector<std::array<double, 3>>& amps, Celsius air);

/// Makes temperatures those that are reached on that course. `cells`: as hot as cells get, by ref.
void reach(std::vector<PartHeat>& heat, const Course& course,
           const std::vector<std::pair<std::string, Celsius>>& cells, Celsius air);

} // namespace conductus::power
