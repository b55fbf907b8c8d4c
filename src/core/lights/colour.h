// SPDX-License-Identifier: GPL-3.0-or-later
// Light as a person sees it: CIE 1931 sums of the channels, tint shift, colour for a screen.
#pragma once

#include <array>
#include <optional>

namespace conductus::lights {

struct Xyz {
    double x = 0, y = 0, z = 0;
};

/// Colour for a screen, each 0 to 1, gamma-encoded sRGB.
struct Rgb {
    double r = 0, g = 0, b = 0;
};

/// Luminance of each channel R G B W; Y of the result is their sum. Chromaticities of dominant
/// wavelengths 622, 522 and 468 nm with the purity usual for such dies, and D65 for the white die.
/// Source: CIE 1931 2° observer, docs/models.md "Colour".
Xyz mix(const std::array<double, 4>& luminance);

/// A place in the CIE 1976 u'v' diagram, in which equal distances look about alike.
struct Uv {
    double u = 0, v = 0;
};
/// Empty where it is dark.
std::optional<Uv> tint(const Xyz& light);
/// Of channel R G B W alone.
Uv channel_tint(std::size_t channel);

/// Distance in that diagram; a person sees 0.02. Zero where either is dark.
double tint_shift(const Xyz& a, const Xyz& b);

/// The brightest duties R G B W with that tint, from channels that give `luminous` at full; a white
/// die first, for it gives most light an ampere. A tint no mixture reaches: the nearest that one
/// does. All zero where red, green and blue are not all there.
std::array<double, 4> duties_of(const Uv& wanted, const std::array<double, 4>& luminous);

/// `light` against the luminance that shall look full (`white_y`). Hues outside the screen's range
/// are clipped to it; a brighter light of one hue never shows darker.
Rgb on_screen(const Xyz& light, double white_y);

/// The `white_y` at which this light shows as bright as the screen can without losing its hue.
double full_scale(const Xyz& light);

} // namespace conductus::lights
