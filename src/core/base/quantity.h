// SPDX-License-Identifier: GPL-3.0-or-later
// Physical quantities as types: a length can not be passed where a voltage is meant.
#pragma once

#include <compare>

namespace conductus {

/// A number with its unit in the type. The unit is the one the type's name says; no scaling
/// happens.
template <class Unit>
class Quantity {
public:
    constexpr Quantity() = default;
    constexpr explicit Quantity(double v) : value_(v) {}
    [[nodiscard]] constexpr double value() const { return value_; }

    constexpr auto operator<=>(const Quantity&) const = default;
    constexpr Quantity operator-() const { return Quantity(-value_); }
    constexpr Quantity operator+(Quantity o) const { return Quantity(value_ + o.value_); }
    constexpr Quantity operator-(Quantity o) const { return Quantity(value_ - o.value_); }
    constexpr Quantity operator*(double k) const { return Quantity(value_ * k); }
    constexpr Quantity operator/(double k) const { return Quantity(value_ / k); }
    constexpr double operator/(Quantity o) const { return value_ / o.value_; }
    constexpr Quantity& operator+=(Quantity o) { return value_ += o.value_, *this; }
    constexpr Quantity& operator-=(Quantity o) { return value_ -= o.value_, *this; }

private:
    double value_ = 0;
};

using Volt = Quantity<struct VoltUnit>;
using Ampere = Quantity<struct AmpereUnit>;
using Ohm = Quantity<struct OhmUnit>;
using OhmPerMetre = Quantity<struct OhmPerMetreUnit>;
using Watt = Quantity<struct WattUnit>;
using MilliAmpereHour = Quantity<struct MilliAmpereHourUnit>;
using Millimetre = Quantity<struct MillimetreUnit>;
using PerMetre = Quantity<struct PerMetreUnit>;
using Farad = Quantity<struct FaradUnit>;
using Gram = Quantity<struct GramUnit>;
using Second = Quantity<struct SecondUnit>;
using Minute = Quantity<struct MinuteUnit>;
using Celsius = Quantity<struct CelsiusUnit>; ///< a temperature, not a difference
using Kelvin = Quantity<struct KelvinUnit>;   ///< a difference of temperatures
using KelvinPerWatt = Quantity<struct KelvinPerWattUnit>;
using Degree = Quantity<struct DegreeUnit>;

constexpr Volt operator*(Ampere i, Ohm r) { return Volt(i.value() * r.value()); }
constexpr Ampere operator/(Volt v, Ohm r) { return Ampere(v.value() / r.value()); }
constexpr Watt operator*(Volt v, Ampere i) { return Watt(v.value() * i.value()); }
constexpr Kelvin operator*(Watt p, KelvinPerWatt r) { return Kelvin(p.value() * r.value()); }
constexpr Celsius operator+(Celsius t, Kelvin d) { return Celsius(t.value() + d.value()); }

} // namespace conductus
