// SPDX-License-Identifier: GPL-3.0-or-later
// What one place shows at one instant: styles and effects in time. docs/models.md, "Looks".
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "core/job/job.h"

namespace conductus::lights {

/// Duty of each channel, R G B W, 0 to 1.
using Duties = std::array<double, 4>;

/// Pixels first..last (from 0, last excluded) showing these duties.
struct Span {
    int first = 0, last = 0;
    Duties duty{};
    bool operator==(const Span&) const = default;
};

/// Colour times brightness. `channels` 3 folds the white die's share into red, green and blue.
Duties duties(const job::Colour& colour, double brightness, int channels);

/// A style's mean over time and place, against full. Source: mean of each waveform.
double mean_factor(job::Style style);

/// What stands for a style where one even picture must: its mean brightness, of cycling the middle
/// of its way from one colour to the other.
double mean_share(job::Style style);

/// How much of the second colour is at `place` after `seconds`, 0 to 1. Two: none up to `meets`,
/// all beyond. Cycle: a raised cosine, from the first and back in 4 s. Flame: rising from foot to
/// tip in as many steps as fire has tongues. Charge: none as far as the cell is charged, all beyond.
double second_share(job::Style style, double place, double seconds, double meets, double charge);

/// One colour mixed with another: `share` of the second.
Duties mixed(const Duties& first, const Duties& second, double share);

/// Cycling is as before after so long.
inline constexpr double cycle_seconds = 4;

/// An instant of a style: brightness 0 to 1 at `place` (0 foot, 1 tip) after `seconds`. The same
/// seed gives the same film. Pulse: raised cosine, 30 to 100 % in 2 s. Flicker: the whole blade
/// uniform in 70 to 100 %, 20 times a second. Fire: 16 tongues along the blade, each uniform in 10
/// to 100 %, 12 times a second. Bands: four along the blade, half lit, one blade in 2 s.
double level(job::Style style, double place, double seconds, std::uint64_t seed);

/// Fire is no brighter in so many of its frames; all 16 tongues are never full at once.
inline constexpr double fire_quantile = 0.999;
/// Mean of the tongues at that quantile. Source: 0.1 + 0.9 times that of the mean of 16 uniform
/// numbers (Irwin and Hall's distribution).
inline constexpr double fire_peak = 0.74646;

/// The brightest it is at that place: 1; of fire what the whole light reaches in all but one frame
/// of a thousand; of bands as they stand after `seconds`.
double brightest_level(job::Style style, double place, double seconds);

/// Bands stand as before after so long.
inline constexpr double bands_repeat_seconds = 0.5;
/// When in that time an edge of the bands passes a place.
std::vector<double> bands_pass(double place);

/// A frame of a few that together have the style's mean exactly and its likeness along the blade:
/// fire with its 16 levels spread over the tongues, bands at a phase. Other styles: their mean.
double spread_level(job::Style style, double place, int spread_frame);
/// How far into a film of bands that phase is.
double spread_seconds(int spread_frame);
inline constexpr int spread_turns = 4;

/// Where along 0..1 the level or the colour may change.
std::vector<double> changes(job::Style style, double seconds, double meets, double charge);

/// What an effect does at an instant, at a place: how much of it covers the look, or dark.
struct Cover {
    double share = 0;  ///< of the effect's colour; the rest is the look
    bool dark = false; ///< not lit yet, or no longer
};

/// `seconds` from the effect's start, before effect.lasts. Flash: full for 60 % of its time, then
/// fading. Mark: fading all the time. Lock-up and drag flicker in 70 to 100 % and 50 to 100 %. Melt
/// creeps from its upper end down. Ignition and retraction: lit up to a front that runs, whose last
/// 6 % show the effect's colour.
Cover cover(const job::Effect& effect, double place, double seconds, std::uint64_t seed);

/// The effect where it is most: all of its stretch.
Cover full_cover(const job::Effect& effect, double place);

/// Mean share of an effect over its time and its stretch; of ignition and retraction, lit share.
double mean_cover(job::EffectKind kind);

/// Places at which cover() may change.
std::vector<double> changes(const job::Effect& effect, double seconds);

} // namespace conductus::lights
