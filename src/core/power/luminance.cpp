// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/luminance.h"

#include <algorithm>

namespace conductus::power {

std::vector<StripLight> strip_lights(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<StripLight> lights;
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips) {
            StripLight light{strip.ref, {}};
            const auto* type = parts.find_as<catalogue::Strip>(strip.type);
            const auto* pixel = type ? parts.find_as<catalogue::Pixel>(type->pixel) : nullptr;
            for (std::size_t c = 0; pixel && c < pixel->channels.size(); ++c)
                light.luminous[c] = pixel->channels[c].luminous;
            lights.push_back(light);
        }
    return lights;
}

namespace {

const circuit::Span& span_of(const circuit::Strip& strip, std::size_t k) {
    return *std::find_if(strip.spans.begin(), strip.spans.end(),
                         [&](const circuit::Span& s) { return static_cast<int>(k) < s.last; });
}

} // namespace

std::array<double, 4> pixel_light_at(const circuit::Strip& strip, const StripLight& light,
                                     std::size_t k, double volts) {
    const circuit::Span& span = span_of(strip, k);
    std::array<double, 4> out{};
    for (std::size_t c = 0; c < static_cast<std::size_t>(strip.pixel.channels); ++c)
        out[c] = light.luminous[c] * circuit::channel_current(strip.pixel, c, span.duty[c], volts) /
                 strip.pixel.full[c];
    return out;
}

std::array<double, 4> pixel_light(const circuit::Strip& strip, const StripLight& light,
                                  const circuit::StripState& state, std::size_t k) {
    return pixel_light_at(strip, light, k, state.volts[k]);
}

double pixel_amps(const circuit::Strip& strip, const circuit::StripState& state, std::size_t k) {
    return circuit::pixel_current(strip.pixel, span_of(strip, k).duty, state.volts[k]).amps;
}

LitEnds lit_ends(const circuit::Strip& strip) {
    LitEnds ends;
    for (const circuit::Span& span : strip.spans) {
        if (span.duty == circuit::Duties{}) continue;
        if (!ends.any) ends.first = static_cast<std::size_t>(span.first);
        ends.last = static_cast<std::size_t>(span.last) - 1;
        ends.any = true;
    }
    return ends;
}

std::array<double, 4> die_light(const catalogue::Die& die, double amps, int rows) {
    std::array<double, 4> out{};
    out[std::string_view("RGBW").find(die.colour)] =
        die.luminous * amps / (rows * die.stated.value());
    return out;
}

Ends dimmest_ends(const std::vector<StripLight>& lights, const circuit::Network& network,
                  const circuit::OperatingPoint& point) {
    Ends worst;
    double least = 2;
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        const circuit::Strip& strip = network.strips[i];
        const auto light = std::find_if(lights.begin(), lights.end(),
                                        [&](const StripLight& l) { return l.ref == strip.ref; });
        if (light == lights.end()) continue; // an accent, not a blade
        const LitEnds lit = lit_ends(strip);
        if (!lit.any) continue;
        auto luminance = [&](std::size_t k) {
            const auto channels = pixel_light(strip, *light, point.strips[i], k);
            return channels[0] + channels[1] + channels[2] + channels[3];
        };
        const Ends ends{luminance(lit.first), luminance(lit.last)};
        const double ratio = ends.foot > 0 ? ends.tip / ends.foot : 1;
        if (ratio < least) least = ratio, worst = ends;
    }
    return worst;
}

} // namespace conductus::power
