// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/frame.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace conductus::lights {
namespace {

constexpr double pulse_period = 2, flicker_rate = 20, fire_rate = 12, bands_per_second = 0.5;
constexpr int tongues = 16, bands = 4;
constexpr double front = 0.06; ///< of the blade: what runs ahead of an ignition

/// Uniform in 0..1 from a step and a place; the same for the same seed. (SplitMix64's finaliser.)
double uniform(std::uint64_t seed, std::uint64_t step, std::uint64_t place) {
    std::uint64_t z = seed * 0x9e3779b97f4a7c15ULL + step * 0xbf58476d1ce4e5b9ULL +
                      place * 0x94d049bb133111ebULL + 0x2545f4914f6cdd1dULL;
    z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9ULL;
    z = (z ^ (z >> 27)) * 0x94d049bb133111ebULL;
    z ^= z >> 31;
    return static_cast<double>(z >> 11) * 0x1p-53;
}

std::uint64_t step_at(double seconds, double rate) {
    return static_cast<std::uint64_t>(std::max(0.0, seconds) * rate);
}

int tongue_at(double place) {
    return std::clamp(static_cast<int>(place * tongues), 0, tongues - 1);
}

double fraction(double x) { return x - std::floor(x); }

bool inside(const job::Effect& e, double place) { return place >= e.from && place < e.to; }

} // namespace

Duties duties(const job::Colour& c, double brightness, int channels) {
    const double folded = channels < 4 ? c.white : 0;
    auto share = [&](double own) { return std::min(1.0, own + folded) * brightness; };
    return {share(c.red), share(c.green), share(c.blue), channels < 4 ? 0 : c.white * brightness};
}

double mean_factor(job::Style style) {
    switch (style) {
    case job::Style::steady:
        return 1;
    case job::Style::pulse:
        return 0.65;
    case job::Style::flicker:
        return 0.85;
    case job::Style::fire:
        return 0.55;
    case job::Style::bands:
        return 0.5;
    case job::Style::flame:
        return 0.55;
    case job::Style::two:
    case job::Style::cycle:
    case job::Style::charge:
        return 1;
    }
    return 1;
}

double mean_share(job::Style style) {
    return style == job::Style::cycle ? 0.5 : mean_factor(style);
}

double second_share(job::Style style, double place, double seconds, double meets, double charge) {
    switch (style) {
    case job::Style::two:
        return place < meets ? 0 : 1;
    case job::Style::cycle:
        return 0.5 - 0.5 * std::cos(2 * std::numbers::pi * seconds / cycle_seconds);
    case job::Style::flame:
        return (tongue_at(place) + 0.5) / tongues;
    case job::Style::charge:
        return place < charge ? 0 : 1;
    default:
        return 0;
    }
}

Duties mixed(const Duties& first, const Duties& second, double share) {
    Duties both;
    for (std::size_t k = 0; k < both.size(); ++k)
        both[k] = first[k] * (1 - share) + second[k] * share;
    return both;
}

double level(job::Style style, double place, double seconds, std::uint64_t seed) {
    switch (style) {
    case job::Style::steady:
        return 1;
    case job::Style::pulse:
        return 0.65 - 0.35 * std::cos(2 * 3.14159265358979323846 * seconds / pulse_period);
    case job::Style::flicker:
        return 0.7 + 0.3 * uniform(seed, step_at(seconds, flicker_rate), 0);
    case job::Style::two:
    case job::Style::cycle:
    case job::Style::charge:
        return 1;
    case job::Style::fire:
    case job::Style::flame:
        return 0.1 + 0.9 * uniform(seed, step_at(seconds, fire_rate),
                                   1 + static_cast<std::uint64_t>(tongue_at(place)));
    case job::Style::bands:
        return fraction(bands * (place - bands_per_second * seconds)) >= 0.5 ? 1 : 0;
    }
    return 1;
}

double brightest_level(job::Style style, double place, double seconds) {
    if (style == job::Style::fire || style == job::Style::flame) return fire_peak;
    return style == job::Style::bands ? level(style, place, seconds, 0) : 1;
}

std::vector<double> bands_pass(double place) {
    static_assert(bands * bands_per_second * bands_repeat_seconds == 1);
    const double first = fraction(bands * place) / (bands * bands_per_second);
    return {first, std::fmod(first + bands_repeat_seconds / 2, bands_repeat_seconds)};
}

double spread_seconds(int spread_frame) {
    return (spread_frame % spread_turns + 0.5) / spread_turns / (bands * bands_per_second);
}

double spread_level(job::Style style, double place, int spread_frame) {
    if (style == job::Style::bands) return level(style, place, spread_seconds(spread_frame), 0);
    if (style != job::Style::fire && style != job::Style::flame) return mean_factor(style);
    // 5 has no divisor in common with 16: every level once, neighbours unlike.
    const int rank = (5 * tongue_at(place) + 7 * spread_frame + 3) % tongues;
    return 0.1 + 0.9 * (rank + 0.5) / tongues;
}

std::vector<double> changes(job::Style style, double seconds, double meets, double charge) {
    std::vector<double> at;
    if (style == job::Style::two) at.push_back(meets);
    if (style == job::Style::charge) at.push_back(charge);
    if (style == job::Style::fire || style == job::Style::flame)
        for (int i = 1; i < tongues; ++i)
            at.push_back(static_cast<double>(i) / tongues);
    if (style == job::Style::bands) {
        const double moved = fraction(bands * bands_per_second * seconds);
        for (int i = -2; i < 2 * bands + 2; ++i)
            at.push_back((i * 0.5 + moved) / bands);
        std::erase_if(at, [](double x) { return x <= 0 || x >= 1; });
    }
    return at;
}

Cover cover(const job::Effect& e, double place, double seconds, std::uint64_t seed) {
    const double done = std::clamp(seconds / std::max(e.lasts.value(), 1e-9), 0.0, 1.0);
    const bool in = inside(e, place);
    auto running = [&](double upto) -> Cover {
        if (place >= upto) return {0, true};
        return {place >= upto - front ? 1.0 : 0.0, false};
    };
    switch (e.kind) {
    case job::EffectKind::flash:
        return {in ? std::min(1.0, (1 - done) / 0.4) : 0, false};
    case job::EffectKind::mark:
        return {in ? 1 - done : 0, false};
    case job::EffectKind::lock_up:
        return {in ? 0.7 + 0.3 * uniform(seed, step_at(seconds, flicker_rate), 99) : 0, false};
    case job::EffectKind::drag:
        return {in ? 0.5 + 0.5 * uniform(seed, step_at(seconds, flicker_rate), 98) : 0, false};
    case job::EffectKind::melt:
        return {in && place >= e.to - (e.to - e.from) * done ? 1.0 : 0.0, false};
    case job::EffectKind::ignition:
        return running(e.from + (e.to - e.from) * done);
    case job::EffectKind::retraction:
        return running(e.to - (e.to - e.from) * done);
    }
    return {};
}

Cover full_cover(const job::Effect& e, double place) {
    if (e.kind == job::EffectKind::ignition) return cover(e, place, e.lasts.value(), 0);
    if (e.kind == job::EffectKind::retraction) return cover(e, place, 0, 0);
    return {inside(e, place) ? 1.0 : 0.0, false};
}

double mean_cover(job::EffectKind kind) {
    switch (kind) {
    case job::EffectKind::flash:
        return 0.8;
    case job::EffectKind::mark:
    case job::EffectKind::melt:
    case job::EffectKind::ignition:
    case job::EffectKind::retraction:
        return 0.5;
    case job::EffectKind::lock_up:
        return 0.85;
    case job::EffectKind::drag:
        return 0.75;
    }
    return 1;
}

std::vector<double> changes(const job::Effect& e, double seconds) {
    const double done = std::clamp(seconds / std::max(e.lasts.value(), 1e-9), 0.0, 1.0);
    switch (e.kind) {
    case job::EffectKind::melt:
        return {e.from, e.to - (e.to - e.from) * done, e.to};
    case job::EffectKind::ignition: {
        const double upto = e.from + (e.to - e.from) * done;
        return {upto - front, upto};
    }
    case job::EffectKind::retraction: {
        const double upto = e.to - (e.to - e.from) * done;
        return {upto - front, upto};
    }
    default:
        return {e.from, e.to};
    }
}

} // namespace conductus::lights
