// SPDX-License-Identifier: GPL-3.0-or-later
// Light of solved pixels and LEDs.
#pragma once

#include <array>
#include <string>
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
/// Of the strips of all blades.
std::vector<StripLight> strip_lights(const job::Job& job, const catalogue::Catalogue& parts);

/// Luminance of each channel of pixel `k` of a solved strip. Light is proportional to current.
std::array<double, 4> pixel_light(const circuit::Strip& strip, const StripLight& light,
                                  const circuit::StripState& state, std::size_t k);

/// The same of its duties at other volts: to tell what starves from what was meant darker.
std::array<double, 4> pixel_light_at(const circuit::Strip& strip, const StripLight& light,
                                     std::size_t k, double volts);

/// Current into pixel `k`, A.
double pixel_amps(const circuit::Strip& strip, const circuit::StripState& state, std::size_t k);

/// First and last pixel that are lit; both 0 where none is.
struct LitEnds {
    std::size_t first = 0, last = 0;
    bool any = false;
};
LitEnds lit_ends(const circuit::Strip& strip);

/// Luminance of each channel of a solved LED's die or of a string's segment: `die` as catalogued,
/// `rows` of them side by side.
std::array<double, 4> die_light(const catalogue::Die& die, double amps, int rows = 1);

/// Of the strip whose tip is dimmest against its foot: the last lit pixel's luminance, and what
/// that pixel would show at the volts of the first one.
struct Ends {
    double foot = 0, tip = 0;
};
Ends dimmest_ends(const std::vector<StripLight>& lights, const circuit::Network& network,
                  const circuit::OperatingPoint& point);

/// Luminance of a junction that lights a blade, for each ampere through it.
struct BladeDie {
    std::string name; ///< of the diode in a network
    double per_ampere = 0;
};
/// Of the LED strings of all blades, and of the LEDs in the hilt that light one.
std::vector<BladeDie> blade_dies(const job::Job& job, const catalogue::Catalogue& parts);

/// Everything the lights of a job's blades are made of.
struct BladeLights {
    std::vector<StripLight> strips;
    std::vector<BladeDie> dies;
};
BladeLights blade_lights(const job::Job& job, const catalogue::Catalogue& parts);

/// Light of all blades together, in pixels at full: strips by two dozen pixels spread over each.
double whole_light(const BladeLights& lights, const circuit::Network& network,
                   const circuit::OperatingPoint& point);

} // namespace conductus::power
