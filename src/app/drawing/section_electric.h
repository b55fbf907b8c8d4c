// SPDX-License-Identifier: GPL-3.0-or-later
// Flags of the solved state on the long section: volts, amps, heat.
#pragma once

#include <vector>

#include "app/drawing/section_lettering.h"
#include "app/drawing/section_parts.h"

namespace conductus::app {

/// What the flags stand on.
struct ElectricGround {
    const plan::Plan& plan;
    const plan::LookPlan* look = nullptr; ///< null: nothing is solved
    const plan::View* view = nullptr;
    const Scale& scale;
    const Inks& inks;
    bool blade = false;           ///< one is drawn
    double foot_x = 0, tip_x = 0; ///< where its first and last pixel are drawn
    double blade_y = 0;
};

std::vector<Flag> volt_flags(const ElectricGround& g);
/// Largest current of each part; over its rating in the colour and word of a stop.
std::vector<Flag> amp_flags(const ElectricGround& g);
/// Temperature of each part in the look held on, and of LEDs' dies; 60 °C and more stand out.
std::vector<Flag> heat_flags(const ElectricGround& g);

} // namespace conductus::app
