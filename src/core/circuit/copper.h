// SPDX-License-Identifier: GPL-3.0-or-later
// Wires: docs/models.md, "Wires".
#pragma once

#include <algorithm>
#include <cmath>

#include "core/base/quantity.h"
#include "core/base/wire_gauge.h"

namespace conductus::circuit {

using conductus::wire_diameter;

/// Times its resistance at 20 °C that copper has: 0.393 % more for each kelvin.
inline constexpr double copper_a_kelvin = 0.00393;
inline double copper_at(Celsius t) { return 1 + copper_a_kelvin * (t.value() - 20); }

/// Copper at 20 °C, 1.72e-8 Ω·m.
inline OhmPerMetre wire_resistance(int gauge) {
    const double metres = wire_diameter(gauge).value() * 1e-3;
    return OhmPerMetre(1.72e-8 / (3.14159265358979323846 / 4 * metres * metres));
}

inline Ohm operator*(OhmPerMetre r, Millimetre length) {
    return Ohm(r.value() * length.value() * 1e-3);
}

/// What a wire of that gauge is usually given to carry inside a case: 20 AWG 11 A, 22 7, 24 3.5,
/// 26 2.2, 28 1.4, 30 0.86; between and beyond them evenly in the logarithm.
inline Ampere usual_limit(int gauge) {
    constexpr double known[] = {11, 7, 3.5, 2.2, 1.4, 0.86}; // of 20, 22 ... 30
    const double at = (gauge - 20) / 2.0;
    const int i = std::min(4, std::max(0, static_cast<int>(std::floor(at))));
    return Ampere(known[i] * std::pow(known[i + 1] / known[i], at - i));
}

/// Steady rise above the air of the hilt: I²R' / (h·π·d), h = 12 W/m²K, d with its insulation, R'
/// as warm as the wire gets. Beyond what copper stands: 2000 K.
inline Kelvin wire_rise(int gauge, double amps, Celsius air) {
    constexpr double most = 2000; // K
    const double around = 3.14159265358979323846 * insulated_diameter(gauge).value() * 1e-3;
    const double cold = amps * amps * wire_resistance(gauge).value() / (12 * around);
    const double left = 1 - cold * copper_a_kelvin; // each kelvin of rise brings on more
    return Kelvin(left > 0 ? std::min(most, cold * copper_at(air) / left) : most);
}

/// How long a wire takes to warm through, s: its copper's heat over what its insulation gives off.
inline double wire_time(int gauge) {
    const double metres = wire_diameter(gauge).value() * 1e-3;
    const double copper = 3.14159265358979323846 / 4 * metres * metres * 8960 * 385;
    return copper / (12 * 3.14159265358979323846 * insulated_diameter(gauge).value() * 1e-3);
}

} // namespace conductus::circuit
