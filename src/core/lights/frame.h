// SPDX-License-Identifier: GPL-3.0-or-later
// What a blade shows at one instant, as duties along its length.
#pragma once

#include <array>
#include <vector>

#include "core/job/job.h"

namespace conductus::lights {

/// Duty of each channel, R G B W, 0 to 1.
using Duties = std::array<double, 4>;

/// A stretch of the blade, foot 0 to tip 1.
struct Band {
    double from = 0, to = 1;
    Duties duty{};
};

/// Bands in ascending order that cover 0 to 1.
using Frame = std::vector<Band>;

/// A style's mean over its brightest frame. Source: mean of each waveform, docs/models.md "Looks".
double mean_factor(job::Style style);

/// Colour times brightness. `channels` 3 folds the white die's share into red, green and blue.
Duties duties(const job::Colour& colour, double brightness, int channels);

/// The look's brightest frame, or with `factor` below 1 a dimmer one.
Frame frame_of(const job::Look& look, int channels, double factor = 1);

/// The effect over the look's brightest frame.
Frame frame_of(const job::Look& under, const job::Effect& effect, int channels);

} // namespace conductus::lights
