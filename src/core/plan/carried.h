// SPDX-License-Identifier: GPL-3.0-or-later
// What each place of the wiring carries.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"
#include "core/power/film.h"

namespace conductus::plan {

/// A place that carries current.
struct CarryingPlace {
    enum class Kind { cell, part, pad, pins, wire };
    Kind kind = Kind::part;
    std::string ref;
    std::string label;           ///< "l1", "plus pins", "U1.bat to P1.plus"
    std::optional<Ampere> rated; ///< where it has a rating; of wires the usual one inside a case
};

/// Its current in one look or effect, full cell.
struct Carried {
    CarryingPlace place;
    Ampere mean, peak;
};

/// What a resistor of the network stands for; empty where it carries nobody's current by name: what
/// is inside a light, a leak.
std::optional<CarryingPlace> carrying_place(const job::Job& job, const catalogue::Catalogue& parts,
                                            const circuit::Resistor& resistor);

/// Cells, switches, pads, pins and wires, in that order. `point`: the brightest frame; `over_time`
/// null: it stands for all the time.
std::vector<Carried> carried_of(const job::Job& job, const catalogue::Catalogue& parts,
                                const circuit::Network& network,
                                const circuit::OperatingPoint& point,
                                const power::MeanAndPeak* over_time);

} // namespace conductus::plan
