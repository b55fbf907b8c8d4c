// SPDX-License-Identifier: GPL-3.0-or-later
// The ranges a job's numbers must lie in: for files and for the fields on the screen alike.
#pragma once

#include <limits>

namespace conductus::job::limits {

struct Range {
    double least, most;
    [[nodiscard]] constexpr bool holds(double v) const { return v >= least && v <= most; }
};

inline constexpr Range place_mm{0, 2000};   ///< along a hilt
inline constexpr Range diameter_mm{1, 120}; ///< bores, outer diameters, blades
inline constexpr Range off_axis_mm{-50, 50};
inline constexpr Range clearance_mm{0, 10};
inline constexpr Range wall_mm{0, 10};
inline constexpr Range angle_deg{-360, 360};
inline constexpr Range pitch_mm{0, 10};
inline constexpr Range depth_mm{0, 400};     ///< sockets, openings, engaged threads
inline constexpr Range length_mm{0.1, 3000}; ///< wires, strips, blades
inline constexpr Range resistance_Ohm{0, 1000};
inline constexpr Range resistor_Ohm{0.01, 1e6};
inline constexpr Range current_A{0.001, 20};
inline constexpr Range rail_Ohm_per_m{0.001, 10};
inline constexpr Range capacity_mAh{10, 50000};
inline constexpr Range fraction{0, 1};
inline constexpr Range minutes{0, 1440};
inline constexpr Range times{1, 1000};
inline constexpr Range tries{0, 100000};
inline constexpr Range turning_deg_s{0, 4000};
inline constexpr Range turned_deg{0, 360};
inline constexpr Range acceleration_g{0, 200};
inline constexpr Range loudness_LUFS{-200, 20};
inline constexpr Range bytes{0, 1e15};
inline constexpr Range seed{0, 4e9};
inline constexpr Range level{1, 4};
inline constexpr Range log_seconds{0, 1e6};
inline constexpr Range log_A{-100, 100};
inline constexpr Range per_minute{0, 120};
inline constexpr Range seconds{0, 600};
inline constexpr Range day_seconds{0, 86400};
inline constexpr Range press_seconds{0, 30}; ///< of one trigger
inline constexpr Range temperature_degC{-20, 50};
inline constexpr Range pixels{1, 100000};
inline constexpr Range gauge_awg{10, 40};
inline constexpr Range buttons{0, 3};
inline constexpr Range tip_pixels{0, 64};
inline constexpr Range volts{-60, 60};
inline constexpr Range amount{0, 1e7};    ///< money
inline constexpr Range figure{-1e9, 1e9}; ///< readings and agreed values

inline constexpr std::size_t text_length = 4000;
inline constexpr std::size_t list_length = 1000; ///< parts, wires, looks ... of one job
/// Of a list of those, where it may be longer.
template <class T>
inline constexpr std::size_t longest = list_length;
inline constexpr std::size_t pictures_each = 12; ///< of one inspected item
inline constexpr std::size_t picture_bytes = 2u << 20;

} // namespace conductus::job::limits
