// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/plan/plan.h"

namespace conductus::plan {

/// One pixel of the strip a blade is shown by.
struct PixelSeen {
    Volt volts;
    Ampere amps;
    double brightness = 1; ///< luminance against the first lit pixel's
    double tint_shift = 0; ///< Δu'v' against it; a person sees 0.02
};

/// Pixel `k`, from 0 at the foot, of blade `blade` of the look's view at that charge, brightest
/// frame. Empty where that blade shows no strip or has no such pixel.
std::optional<PixelSeen> pixel_seen(const Plan& plan, const LookPlan& look, Charge charge,
                                    std::size_t blade, std::size_t k);

} // namespace conductus::plan
