// SPDX-License-Identifier: GPL-3.0-or-later
// Parts as solids in the bore: where each is, what it rides on, and its outline in a slice.
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/hilt/circles.h"
#include "core/job/job.h"

namespace conductus::hilt {

/// A cylinder along the axis or a box, turned about its own middle. Across: x to the side, y up.
struct Solid {
    Millimetre from, to;
    bool round = true;
    double x = 0, y = 0;           ///< middle, mm
    double half_w = 0, half_h = 0; ///< mm; a cylinder's radius in both
    double turn = 0;               ///< radians, boxes
    [[nodiscard]] bool centred() const { return x == 0 && y == 0; }
};

/// Discs whose hull is the solid's outline with a wall round it: one, or a box's four corners.
void outline(const Solid& solid, double wall, std::vector<Disc>& into);

/// Farthest point of the outline from the axis.
double reach(const Solid& solid);

/// Whether two outlines overlap across the axis by more than a hair; the walls do not count.
bool outlines_overlap(const Solid& a, const Solid& b);

/// The room a fitted part takes: a cell with its protection and button top included.
struct PlacedBody {
    std::string ref;
    catalogue::Body body;
    Millimetre from, to;
    Millimetre off_axis;
    Millimetre height;       ///< across the axis, in the plane of the long section
    Millimetre need;         ///< diameter of the smallest circle round it, chassis wall included
    bool on_chassis = false; ///< rides on a carrier
    bool in_bore = true;     ///< buttons sit in the wall and need no bore
    std::string carrier;     ///< what it goes in with; its own ref where it rides on nothing
    Millimetre wall;         ///< of the carrier
    std::vector<Solid> solids;
};

/// Whether two bodies are in each other by more than a millimetre. What a catalogue says of a body
/// is no truer than that.
bool in_each_other(const PlacedBody& a, const PlacedBody& b);

/// The carriers of a hilt: those listed, or the one chassis it has.
std::vector<job::Carrier> carriers_of(const job::Hilt& hilt);

/// The body of a part as fitted. The part's type must be known.
PlacedBody place(const job::Part& part, const job::Hilt& hilt, const catalogue::Catalogue& parts);

std::vector<PlacedBody> place_all(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::hilt
