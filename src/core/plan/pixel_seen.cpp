// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/pixel_seen.h"

#include "core/job/lookup.h"
#include "core/power/luminance.h"

namespace conductus::plan {

std::optional<PixelSeen> pixel_seen(const Plan& plan, const LookPlan& look, Charge charge,
                                    std::size_t blade, std::size_t k) {
    const auto& blades = look.views[charge].blades;
    if (blade >= blades.size() || k >= blades[blade].volts.size() || !look.fresh)
        return std::nullopt;
    const BladeView& view = blades[blade];
    // What a pixel is told does not depend on the charge: the fresh network says it.
    const circuit::Strip* strip = job::find_ref(look.fresh->network.strips, view.strip);
    const auto lights = power::strip_lights(*plan.job, *plan.parts);
    const power::StripLight* light = job::find_ref(lights, view.strip);
    if (!strip || !light) return std::nullopt;
    const auto seen = [&](std::size_t i) {
        return lights::mix(power::pixel_light_at(*strip, *light, i, view.volts[i]));
    };
    const lights::Xyz here = seen(k), first = seen(power::lit_ends(*strip).first);
    return PixelSeen{Volt(view.volts[k]), Ampere(view.amps[k]), first.y > 0 ? here.y / first.y : 0,
                     lights::tint_shift(first, here)};
}

} // namespace conductus::plan
