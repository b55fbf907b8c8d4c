// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/tube.h"

#include <algorithm>
#include <cmath>

namespace conductus::hilt {

std::optional<TubeRoom> room_in_tube(const job::Blade& blade, const catalogue::Catalogue& parts) {
    if (blade.tube.bore <= Millimetre(0) || blade.strips.empty()) return std::nullopt;
    double width = 0, thick = 0;
    for (const job::Strip& strip : blade.strips) {
        const auto* type = parts.find(strip.type);
        const auto* figures = parts.find_as<catalogue::Strip>(strip.type);
        if (!type || !figures) return std::nullopt;
        width = std::max(width, figures->width.value());
        thick = std::max(thick, type->body.height.value());
    }
    const auto strips = static_cast<double>(blade.strips.size());
    // Back to back they are a bar; from three on they are the sides of a prism, pixels outward.
    const double radius = strips <= 2 ? std::hypot(width, strips * thick) / 2
                                      : std::hypot(width / 2, width / 2 / std::tan(std::acos(-1.0) /
                                                                                   strips) +
                                                                  thick);
    return TubeRoom{blade.tube.bore - blade.tube.diffuser_thick * 2, Millimetre(2 * radius)};
}

Millimetre length_along(const job::Tube& tube, const job::Strip& strip) {
    const int folded = std::clamp(tube.tip_pixels, 0, std::max(0, strip.pixels));
    return strip.length * (1 - static_cast<double>(folded) / std::max(1, strip.pixels));
}

double light_passed(const job::Tube& tube) {
    if (tube.passes) return *tube.passes;
    const double tint = tube.tint == job::Tint::clear     ? 0.92
                        : tube.tint == job::Tint::frosted ? 0.75
                        : tube.tint == job::Tint::white   ? 0.50
                                                          : 0.60;
    const double layer = tube.diffuser == job::Diffuser::none   ? 1
                         : tube.diffuser == job::Diffuser::film ? 0.85
                                                                : 0.70;
    return tint * layer;
}

double pressure_when_struck(const job::Blade& blade) {
    constexpr double air = 101.3, dent = 100, gives = 1.0 / 3; // kPa, mm, of the diameter
    constexpr double warmer = 25, sealed_at = 293;            // K
    const double length = std::max(blade.length.value(), dent);
    // A round section pressed flat by x keeps its girth and about 1 − 1.5·x² of its area.
    const double lost = 1.5 * gives * gives * dent / length;
    return air * ((1 + warmer / sealed_at) * std::pow(1 / (1 - lost), 1.4) - 1);
}

} // namespace conductus::hilt
