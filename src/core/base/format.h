// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers as a person reads them: three figures, a thin space, the unit.
#pragma once

#include <string>
#include <string_view>

#include "core/base/quantity.h"

namespace conductus {

/// Three significant figures, never an exponent; "0.6", "5.35", "119", "3500". Not finite: "–".
std::string three_figures(double value);

/// Value and unit with a thin space that does not break. Below 1, V, A, W and Ω become mV, mA, mW
/// and mΩ. A minus sign is a true minus. `unit` is ASCII: "V", "A", "Ohm", "mm", "degC", "min", "%"
/// ...
std::string with_unit(double value, std::string_view unit);

inline std::string text(Volt v) { return with_unit(v.value(), "V"); }
inline std::string text(Ampere v) { return with_unit(v.value(), "A"); }
inline std::string text(Ohm v) { return with_unit(v.value(), "Ohm"); }
inline std::string text(Watt v) { return with_unit(v.value(), "W"); }
inline std::string text(Millimetre v) { return with_unit(v.value(), "mm"); }
inline std::string text(Celsius v) { return with_unit(v.value(), "degC"); }
inline std::string text(MilliAmpereHour v) { return with_unit(v.value(), "mAh"); }

/// So many places after the point; a minus sign is a true minus.
std::string decimals(double value, int places);

/// Hours and minutes: "1 h 28", "44 min". Negative or not finite: "–".
std::string duration(Minute t);

} // namespace conductus
