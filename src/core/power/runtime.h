// SPDX-License-Identifier: GPL-3.0-or-later
// How long a look runs: cells taken down through its load curve. docs/models.md, "Runtime".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/base/problem.h"
#include "core/base/quantity.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/power/use_loads.h"

namespace conductus::power {

/// One step of a discharge.
struct Sample {
    Minute at;
    double charge = 1;
    Ampere amps;      ///< of the pack, mean over look and effects
    Volt cell;        ///< terminal of the weakest cell
    Volt board;       ///< mean frame
    Volt board_peak;  ///< at the simultaneous light and sound peak
    double tip = 1;   ///< last lit pixel against the first of the same moment, brightest frame
    double light = 1; ///< of all blades against fresh, brightest frame
    Celsius warmth;   ///< of the warmest cell
};

struct Discharge {
    std::vector<Sample> samples;
    std::optional<Minute> crackle; ///< empty: not before it is off
    std::optional<Minute> clips;   ///< a peak of sound is heard to clip; the same
    std::optional<Minute> uneven;  ///< the tip is dim against the foot; the same
    std::optional<Minute> faded;   ///< all of it is at half of its fresh self; the same
    Minute off;
    Message off_because;           ///< "protection cuts off", "board cuts off", "the cell is empty"
    std::optional<Opened> tripped; ///< what opened, where that is why it is off
    Volt need;                     ///< of the sound
    Volt clean_board;              ///< mean frame, at the first crackle, or when off
    double gauge = 0;              ///< what a board's gauge says then, 0 to 1: charge_at() of that
    std::vector<Celsius> hottest;  ///< the warmest each cell has been
    std::string peak_event;        ///< effect or look that pulls the board lowest
    Ampere peak;                   ///< cell, at that event, full charge
    MilliAmpereHour drawn;         ///< until off, each cell's of a row; of cells side by side all
    double clean_charge = 0;       ///< left in the weakest cell at the first crackle, or when off
    Tally tally;                   ///< until off

    [[nodiscard]] Minute clean() const { return crackle ? std::min(*crackle, off) : off; }
    /// Until the first of the two marks of dim.
    [[nodiscard]] std::optional<Minute> dim() const {
        return !faded ? uneven : !uneven ? faded : std::min(faded, uneven);
    }
    [[nodiscard]] Minute bright() const { return std::min(dim().value_or(off), off); }
};

/// What counts as dim: a tip below this share of its foot of the same moment, which an eye
/// compares; or all blades below that share of the light they gave when fresh.
inline constexpr double dim_share = 0.70, faded_share = 0.50;

/// What is left of a pack under a load until something ends it, V; the least of each kind.
struct Left {
    double cell = 0;  ///< to a protection's cut-off; large without one
    double board = 0; ///< to the board's cut-off; large without one
    bool empty = false, collapsed = false;
    double below = 0; ///< V of the pack where something lets go; 0: nothing does
    [[nodiscard]] double volts() const;
    [[nodiscard]] bool off() const { return empty || collapsed || volts() <= 0; }
    [[nodiscard]] Message because() const;
};
Left left_of(const UseLoads& loads, const Bank& bank, const LoadCurve& load, const Held& held);

/// Time at which a margin falls through zero between two moments, as a share of the way 0..1.
double crossing(double before, double after);

/// Steps that a discharge takes: as long as charge and current change little over one.
struct Steps {
    double charge = 0.01; ///< share of it at most
    double amps = 0.02;   ///< change of the current at most
    double next = 2;      ///< s
    /// Advances by at most `left` seconds and returns how many; `held` becomes what is held then.
    double take(Bank& bank, const LoadCurve& load, Held& held, double left, Celsius air);
};

/// Ignited without pause in the use's look (or the first), effects at its mean rates, from full,
/// rested cells until it is off. `step` is the share of charge taken a step at most; shorter where
/// currents change. Errors: as of compiling and solving.
Result<Discharge> run_down(const job::Job& job, const catalogue::Catalogue& parts,
                           double step = 0.01);

/// The same of curves that are there already.
Discharge run_down(const UseLoads& loads, double step = 0.01);

} // namespace conductus::power
