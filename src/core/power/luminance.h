// SPDX-License-Identifier: GPL-3.0-or-later
// Light of solved pixels.
#pragma once

#include <array>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"

namespace conductus::power {

/// Luminance of each channel at full current, by strip of a compiled network (matched by ref).
struct StripLight {
    std::string ref;
    std::array<double, 4> luminous{};
};
std::vector<StripLight> strip_lights(const job::Job& job, const catalogue::Catalogue& parts);

/// Luminance of each channel of pixel `k` of a solved strip. Light is proportional to current.
std::array<double, 4> pixel_light(const circuit::Strip& strip, const StripLight& light,
                                  const circuit::StripState& state, std::size_t k);

/// First and last pixel's luminance of the strip whose tip is dimmest against its foot.
struct Ends {
    double foot = 0, tip = 0;
};
Ends dimmest_ends(const std::vector<StripLight>& lights, const circuit::Network& network,
                  const circuit::OperatingPoint& point);

} // namespace conductus::power
