// SPDX-License-Identifier: GPL-3.0-or-later
// The bore along the axis: steps, rings and tapers.
#pragma once

#include <vector>

#include "core/job/hilt.h"

namespace conductus::hilt {

/// Stretches that overlap by no more than this only touch.
constexpr Millimetre touching(1e-6);

/// A narrow place of the bore.
struct Narrow {
    Millimetre bore; ///< diameter
    Millimetre at;
    std::size_t section = 0;
};

/// Bore of a section at a place in it, along its taper.
Millimetre bore_at(const job::BoreSection& section, Millimetre at);
Millimetre outer_at(const job::BoreSection& section, Millimetre at);

/// The narrowest bore over an open stretch of the hilt; what only touches a section is not in it.
/// A bore of infinity where the stretch lies outside the hilt.
Narrow narrowest(const std::vector<job::BoreSection>& sections, Millimetre from, Millimetre to);

/// A stretch between two joints that come apart, and whether parts go in by its ends.
struct Piece {
    Millimetre from, to;
    bool open_left = false, open_right = false;
};

/// The hilt taken apart at every joint that is not glued, pommel first. An end of the hilt is open
/// where it `opens`.
std::vector<Piece> pieces(const job::Hilt& hilt);

/// Index of the piece that holds the larger part of a stretch.
std::size_t piece_of(const std::vector<Piece>& pieces, Millimetre from, Millimetre to);

/// Volume of the bore over a stretch, in millilitres.
double bore_volume_ml(const std::vector<job::BoreSection>& sections, Millimetre from,
                      Millimetre to);

} // namespace conductus::hilt
