// SPDX-License-Identifier: GPL-3.0-or-later
// The tube of a blade: what fits in it, what light leaves it, what a blow does to it.
#pragma once

#include <optional>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::hilt {

struct TubeRoom {
    Millimetre inside; ///< diameter that is left within the layers
    Millimetre needs;  ///< circle round the strips, back to back
};
/// Nothing: the bore was not measured, or there is no strip. Up to two strips stand back to back,
/// more stand round a triangle or square as wide as the widest.
std::optional<TubeRoom> room_in_tube(const job::Blade& blade, const catalogue::Catalogue& parts);

/// How much of a strip lies along the tube: without the pixels at its end that are folded over and
/// point forward at the tip.
Millimetre length_along(const job::Tube& tube, const job::Strip& strip);

/// Share of the light that leaves the tube: as measured, else clear 0.92, frosted 0.75, white 0.50,
/// tinted 0.60, times film 0.85 or foam 0.70. Source: docs/models.md, "Tubes".
double light_passed(const job::Tube& tube);

/// Pressure over that of the air in a sealed tube that is 25 K warmer than when it was closed, and
/// is struck until its wall gives by a third of its diameter on a hand's breadth, kPa. Source:
/// p/T constant, p·V^1.4 constant, docs/models.md "Tubes".
double pressure_when_struck(const job::Blade& blade);

} // namespace conductus::hilt
