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

std::optional<Uv> tint(const Xyz& light) {
    const double d = light.x + 15 * light.y + 3 * light.z;
    if (!(d > 0)) return std::nullopt;
    return Uv{4 * light.x / d, 9 * light.y / d};
}

Uv channel_tint(std::size_t channel) {
    std::array<double, 4> alone{};
    alone[channel] = 1;
    return *tint(mix(alone));
}

double tint_shift(const Xyz& a, const Xyz& b) {
    const auto one = tint(a), other = tint(b);
    return one && other ? std::hypot(one->u - other->u, one->v - other->v) : 0;
}

namespace {

double cross(const Uv& a, const Uv& b, const Uv& c) {
    return (b.u - a.u) * (c.v - a.v) - (b.v - a.v) * (c.u - a.u);
}

Uv nearest_on(const Uv& a, const Uv& b, const Uv& p) {
    const double du = b.u - a.u, dv = b.v - a.v;
    const double t =
        std::clamp(((p.u - a.u) * du + (p.v - a.v) * dv) / (du * du + dv * dv), 0.0, 1.0);
    return {a.u + t * du, a.v + t * dv};
}

} // namespace

std::array<double, 4> duties_of(const Uv& wanted, const std::array<double, 4>& luminous) {
    std::array<double, 4> duty{};
    for (std::size_t c = 0; c < 3; ++c)
        if (!(luminous[c] > 0)) return duty;
    std::array<Uv, 4> corner;
    for (std::size_t c = 0; c < 4; ++c)
        corner[c] = channel_tint(c);
    Uv p = wanted;
    const auto outside = [&](std::size_t a, std::size_t b, std::size_t c) {
        const double side = cross(corner[a], corner[b], corner[c]);
        return cross(corner[a], corner[b], p) * side < -1e-15;
    };
    if (outside(0, 1, 2) || outside(1, 2, 0) || outside(2, 0, 1)) {
        double least = 1e9;
        const Uv from = p;
        for (std::size_t c = 0; c < 3; ++c) {
            const Uv on = nearest_on(corner[c], corner[(c + 1) % 3], from);
            const double away = std::hypot(on.u - from.u, on.v - from.v);
            if (away < least) least = away, p = on;
        }
    }
    constexpr std::array<std::array<std::size_t, 3>, 4> triangles{
        {{0, 1, 3}, {1, 2, 3}, {2, 0, 3}, {0, 1, 2}}};
    for (const auto& t : triangles) {
        if (!(luminous[t[2]] > 0)) continue;
        const double whole = cross(corner[t[0]], corner[t[1]], corner[t[2]]);
        std::array<double, 3> share{};
        for (std::size_t i = 0; i < 3; ++i)
            share[i] = cross(corner[t[(i + 1) % 3]], corner[t[(i + 2) % 3]], p) / whole;
        if (*std::min_element(share.begin(), share.end()) < -1e-9) continue;
        double most = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            // A share in the diagram is a share of X + 15 Y + 3 Z.
            std::array<double, 4> alone{};
            alone[t[i]] = 1;
            const Xyz unit = mix(alone);
            duty[t[i]] =
                std::max(share[i], 0.0) / (unit.x + 15 * unit.y + 3 * unit.z) / luminous[t[i]];
            most = std::max(most, duty[t[i]]);
        }
        for (double& d : duty)
            d /= most;
        return duty;
    }
    return duty;
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
