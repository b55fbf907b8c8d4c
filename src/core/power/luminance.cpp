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

std::array<double, 4> pixel_light(const circuit::Strip& strip, const StripLight& light,
                                  const circuit::StripState& state, std::size_t k) {
    const auto span =
        std::find_if(strip.spans.begin(), strip.spans.end(),
                     [&](const circuit::Span& s) { return static_cast<int>(k) < s.last; });
    std::array<double, 4> out{};
    for (std::size_t c = 0; c < static_cast<std::size_t>(strip.pixel.channels); ++c)
        out[c] = light.luminous[c] *
                 circuit::channel_current(strip.pixel, c, span->duty[c], state.volts[k]) /
                 strip.pixel.full[c];
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
        auto luminance = [&](std::size_t k) {
            const auto channels = pixel_light(strip, *light, point.strips[i], k);
            return channels[0] + channels[1] + channels[2] + channels[3];
        };
        const Ends ends{luminance(0), luminance(point.strips[i].volts.size() - 1)};
        const double ratio = ends.foot > 0 ? ends.tip / ends.foot : 1;
        if (ratio < least) least = ratio, worst = ends;
    }
    return worst;
}

} // namespace conductus::power
