// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/luminance.h"

#include <algorithm>
#include <cctype>
#include <fmt/format.h>

#include "core/job/lookup.h"

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
        auto luminance = [&](std::size_t volts_of) {
            const auto channels =
                pixel_light_at(strip, *light, lit.last, point.strips[i].volts[volts_of]);
            return channels[0] + channels[1] + channels[2] + channels[3];
        };
        const Ends ends{luminance(lit.first), luminance(lit.last)};
        const double ratio = ends.foot > 0 ? ends.tip / ends.foot : 1;
        if (ratio < least) least = ratio, worst = ends;
    }
    return worst;
}

std::vector<BladeDie> blade_dies(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<BladeDie> all;
    const auto name = [](std::string ref, const std::string& junction) {
        for (char& c : ref)
            c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return ref + "_" + junction;
    };
    // Of a row of LEDs each shines with the row's current.
    const auto per_ampere = [](const catalogue::Die& die, int series) {
        return series * die.luminous / die.stated.value();
    };
    for (const job::Blade& blade : job.blades) {
        for (const job::LedString& string : blade.strings) {
            const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
            for (int i = 1; i <= type->segments; ++i)
                all.push_back({name(string.ref, fmt::format("seg{}", i)),
                               per_ampere(type->die, type->series)});
            if (type->has_flash)
                all.push_back(
                    {name(string.ref, "flash"), per_ampere(type->flash, type->flash_series)});
        }
        const job::Part* part = job::find_ref(job.parts, blade.connector);
        const auto* led = part ? parts.find_as<catalogue::Led>(part->type) : nullptr;
        for (std::size_t i = 0; led && i < led->dies.size(); ++i)
            all.push_back({name(part->ref, led->dies.size() == 1 ? std::string("die")
                                                                 : fmt::format("die{}", i + 1)),
                           per_ampere(led->dies[i], 1)});
    }
    return all;
}

BladeLights blade_lights(const job::Job& job, const catalogue::Catalogue& parts) {
    return {strip_lights(job, parts), blade_dies(job, parts)};
}

double whole_light(const BladeLights& lights, const circuit::Network& network,
                   const circuit::OperatingPoint& point) {
    constexpr int looked_at = 24; // of a strip
    double sum = 0;
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        const circuit::Strip& strip = network.strips[i];
        const auto light = std::find_if(lights.strips.begin(), lights.strips.end(),
                                        [&](const StripLight& l) { return l.ref == strip.ref; });
        if (light == lights.strips.end()) continue;
        for (const circuit::Span& span : strip.spans) {
            if (span.duty == circuit::Duties{}) continue;
            // Pixels in the middle of as many even pieces.
            const int lit = span.last - span.first;
            const int pieces = std::clamp(looked_at * lit / strip.pixels, 1, lit);
            double piece = 0;
            for (int k = 0; k < pieces; ++k) {
                const auto at =
                    static_cast<std::size_t>(span.first + (2 * k + 1) * lit / (2 * pieces));
                const auto channels = pixel_light(strip, *light, point.strips[i], at);
                piece += channels[0] + channels[1] + channels[2] + channels[3];
            }
            sum += piece * lit / pieces;
        }
    }
    for (std::size_t i = 0; i < network.diodes.size(); ++i)
        for (const BladeDie& die : lights.dies)
            if (die.name == network.diodes[i].name)
                sum += die.per_ampere * point.diode_amps[i] * network.diodes[i].of_time;
    return sum;
}

} // namespace conductus::power
