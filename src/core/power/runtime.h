// SPDX-License-Identifier: GPL-3.0-or-later
// How long a look runs: charge stepped down through the solved network. docs/models.md, "Runtime".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/base/quantity.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::power {

/// One step of a discharge.
struct Sample {
    Minute at;
    double charge = 1;
    Ampere amps;     ///< cell, mean frame
    Volt cell;       ///< terminal, mean frame
    Volt board;      ///< mean frame
    Volt board_peak; ///< at the simultaneous light and sound peak
    double tip = 1;  ///< luminance of the last pixel against the fresh first, brightest frame
};

struct Discharge {
    std::vector<Sample> samples;
    std::optional<Minute> crackle; ///< empty: not before it is off
    std::optional<Minute> dim;     ///< empty: not before it is off
    Minute off;
    std::string off_because; ///< "protection cuts off", "board cuts off", "the cell is empty"
    Volt need;               ///< of the sound
    std::string peak_event;  ///< effect or look that pulls the board lowest
    Ampere peak;             ///< cell, at that event, full charge
    MilliAmpereHour drawn;   ///< until off

    [[nodiscard]] Minute clean() const { return crackle ? std::min(*crackle, off) : off; }
    [[nodiscard]] Minute bright() const { return dim ? std::min(*dim, off) : off; }
};

/// Ignited without pause in the use's look (or the first) from a full, rested cell until it is off.
/// `step` is the charge taken a step. Errors: as of compiling and solving.
Result<Discharge> run_down(const job::Job& job, const catalogue::Catalogue& parts,
                           double step = 0.01);

/// Tip luminance below this share of the fresh foot counts as dim.
inline constexpr double dim_share = 0.70;

} // namespace conductus::power
