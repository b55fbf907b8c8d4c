// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/colour.h"

#include <algorithm>
#include <cmath>

namespace conductus::lights {
namespace {

struct Chromaticity {
    double x, y;
};

constexpr std::array<Chromaticity, 4> channel_chromaticity{{
    {0.6953, 0.3045}, // 622 nm, on the locus
    {0.1389, 0.7310}, // 522 nm (0.0903, 0.8308), purity 0.80
    {0.1348, 0.0591}, // 468 nm (0.1287, 0.0506), purity 0.97
    {0.3127, 0.3290}, // 6500 K
}};

double encode(double linear) {
    linear = std::clamp(linear, 0.0, 1.0);
    return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

} // namespace

Xyz mix(const std::array<double, 4>& luminance) {
    Xyz sum;
    for (std::size_t c = 0; c < 4; ++c) {
        const auto [x, y] = channel_chromaticity[c];
        sum.x += luminance[c] * x / y;
        sum.y += luminance[c];
        sum.z += luminance[c] * (1 - x - y) / y;
    }
    return sum;
}

double tint_shift(const Xyz& a, const Xyz& b) {
    const double da = a.x + 15 * a.y + 3 * a.z, db = b.x + 15 * b.y + 3 * b.z;
    if (!(da > 0) || !(db > 0)) return 0;
    return std::hypot(4 * a.x / da - 4 * b.x / db, 9 * a.y / da - 9 * b.y / db);
}

namespace {

/// Linear sRGB, IEC 61966-2-1. Hues outside its range lose what a screen can not take away.
std::array<double, 3> linear_rgb(double x, double y, double z) {
    std::array<double, 3> rgb{3.2406 * x - 1.5372 * y - 0.4986 * z,
                              -0.9689 * x + 1.8758 * y + 0.0415 * z,
                              0.0557 * x - 0.2040 * y + 1.0570 * z};
    for (double& c : rgb)
        c = std::max(c, 0.0);
    return rgb;
}

} // namespace

Rgb on_screen(const Xyz& light, double white_y) {
    if (!(white_y > 0) || !(light.y > 0)) return {};
    auto rgb = linear_rgb(light.x / white_y, light.y / white_y, light.z / white_y);
    const double most = *std::max_element(rgb.begin(), rgb.end());
    if (most > 1)
        for (double& c : rgb)
            c /= most;
    return {encode(rgb[0]), encode(rgb[1]), encode(rgb[2])};
}

double full_scale(const Xyz& light) {
    const auto rgb = linear_rgb(light.x, light.y, light.z);
    return *std::max_element(rgb.begin(), rgb.end());
}

} // namespace conductus::lights
