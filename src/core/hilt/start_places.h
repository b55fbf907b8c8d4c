// SPDX-License-Identifier: GPL-3.0-or-later
// Where along the bore a block of parts may start.
#pragma once

#include <utility>
#include <vector>

#include "core/hilt/body.h"
#include "core/hilt/bore.h"

namespace conductus::hilt {

/// Parts that keep their places to each other.
struct Block {
    struct Slice {
        double from, to; ///< from the block's start, mm
        double need;     ///< diameter, walls included
    };
    std::vector<const PlacedBody*> bodies;
    double start = 0, length = 0; ///< mm
    std::vector<Slice> slices;
    bool stays = false;
    bool first = false, last = false; ///< a speaker keeps its end of the hilt
};

/// Fills the block's slices.
void describe(Block& block);

/// The starts at which a block fits with the wanted clearance, and gets there, clear of the
/// stretches that are taken: closed intervals, in order.
class StartPlaces {
public:
    StartPlaces(const job::Hilt& hilt, const Block& block,
                const std::vector<std::pair<double, double>>& taken);
    [[nodiscard]] bool may_start(double at) const;
    /// The first not before `at`; infinite where there is none.
    [[nodiscard]] double earliest(double at) const;
    /// The last not after `at`; −infinite where there is none.
    [[nodiscard]] double latest(double at) const;
    /// The nearest to `wish` between the two.
    [[nodiscard]] double nearest(double wish, double from, double to) const;

private:
    std::vector<std::pair<double, double>> intervals_;
};

} // namespace conductus::hilt
