// SPDX-License-Identifier: GPL-3.0-or-later
// LEDs one by one: what they run at, the resistor that would suit, what they cost left on.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/power/state.h"

namespace conductus::power {

/// The next value of the E24 series that is not less.
Ohm e24_at_least(Ohm ohms);

/// A die with all LEDs fully on, blades dark, from a full cell.
struct LedRun {
    std::string led; ///< ref of the LED or string
    std::string die; ///< "die", "die2"; "seg3", "flash" of a string: then all figures are one row's
    char colour = 'W';
    std::string resistor; ///< ref in its branch; empty: none
    std::string driver;   ///< ref of a driver in its branch; empty: none
    std::string pad;      ///< that switches it; empty: lit as long as it has a supply
    Ampere amps;          ///< through it while it is on
    Ampere stated, most;
    Volt forward;     ///< across it, with the resistance inside it
    Ohm fitted;       ///< of the resistor
    Ohm ideal;        ///< that would give the stated current; 0 or less: none would
    Ohm e24;          ///< the pick; 0: none
    Watt power;       ///< in the fitted resistor
    Watt rated;       ///< of the fitted resistor
    Watt pick_power;  ///< in the pick, at the stated current
    Ohm built_in;     ///< of a string: the resistor its rows come with
    std::string pick; ///< type of resistor that bears half as much again; empty: none does
};

/// Of every die that is wired, of blades' strings as well. Error: as of compiling and solving.
Result<std::vector<LedRun>> led_runs(const job::Job& job, const catalogue::Catalogue& parts,
                                     const State& known = {});

/// What one light draws when left on by itself, at half charge, board awake.
struct LeftOn {
    std::string ref;
    std::string kind; ///< "accent", "LED", "display", "light in it"
    Ampere amps;
    double hours = 0;    ///< from full to flat, by it alone
    bool always = false; ///< lit in deep sleep: nothing switches it off
};
Result<std::vector<LeftOn>> left_on(const job::Job& job, const catalogue::Catalogue& parts,
                                    const State& known = {});

} // namespace conductus::power
