// SPDX-License-Identifier: GPL-3.0-or-later
// What a wire is usually called, coloured and made of.
#pragma once

#include <string>
#include <string_view>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::harness {

/// Colours that insulation comes in; any other may be written.
inline constexpr std::string_view insulation_colours[] = {
    "red", "black", "green", "blue", "yellow", "white", "orange", "brown", "violet", "grey"};

/// The colour a wire is given where none is chosen: supply red, return black, data green, button
/// blue, sound yellow; a switched negative white.
std::string usual_colour(const job::Job& job, const catalogue::Catalogue& parts,
                         const job::Wire& wire);

/// What so many pixels of a class draw at full white, by the rule of thumb: straight from a cell
/// the colours that starve take less than they could. `pixel` must be a class of pixels.
Ampere full_white_amps(const catalogue::Catalogue& parts, const std::string& pixel, int count);

/// Smallest gauge of 20, 22 ... 30 usually given that current.
int gauge_for(Ampere amps);

} // namespace conductus::harness
