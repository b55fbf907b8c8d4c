// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace conductus {
namespace {

constexpr std::string_view thin_space = "\u202f";
constexpr std::string_view minus_sign = "\u2212";

} // namespace

std::string three_figures(double value) {
    if (!std::isfinite(value)) return "–";
    const double size = std::abs(value);
    if (size < 1e-9) return "0";
    const int whole_digits = static_cast<int>(std::floor(std::log10(size))) + 1;
    int places = std::clamp(3 - whole_digits, 0, 6);
    // A figure that is exact at fewer decimals, as ratings and readings are, is not given more.
    for (int fewer = 0; fewer < places; ++fewer) {
        const double scaled = size * std::pow(10, fewer);
        if (std::abs(scaled - std::round(scaled)) < 1e-9 * scaled) places = fewer;
    }
    const std::string digits = fmt::format("{:.{}f}", size, places);
    return value < 0 ? std::string(minus_sign) + digits : digits;
}

std::string decimals(double value, int places) {
    const std::string digits = fmt::format("{:.{}f}", std::abs(value), places);
    return value < 0 ? std::string(minus_sign) + digits : digits;
}

std::string with_unit(double value, std::string_view unit) {
    const bool small = std::isfinite(value) && value != 0 && std::abs(value) < 0.9995;
    std::string_view shown = unit;
    if (unit == "V" && small) {
        value *= 1e3, shown = "mV";
    } else if (unit == "A" && small) {
        value *= 1e3, shown = "mA";
    } else if (unit == "W" && small) {
        value *= 1e3, shown = "mW";
    } else if (unit == "Ohm") {
        shown = small ? "mΩ" : "Ω";
        if (small) value *= 1e3;
    } else if (unit == "Ohm/m") {
        shown = "Ω/m";
    } else if (unit == "degC") {
        return fmt::format("{}{}°C", three_figures(std::round(value)), thin_space);
    } else if (unit == "mm") {
        return fmt::format("{}{}mm", three_figures(std::round(value * 10) / 10), thin_space);
    } else if (unit == "deg") {
        return three_figures(value) + "°";
    } else if (unit == "cells" && value == 1) {
        shown = "cell";
    } else if (unit.empty()) {
        return three_figures(value);
    }
    return fmt::format("{}{}{}", three_figures(value), thin_space, shown);
}

std::string duration(Minute t) {
    if (!std::isfinite(t.value()) || t.value() < 0) return "–";
    const auto whole = static_cast<long>(std::lround(t.value()));
    if (whole < 60) return fmt::format("{}{}min", whole, thin_space);
    return fmt::format("{}{}h{}{:02}", whole / 60, thin_space, thin_space, whole % 60);
}

} // namespace conductus
