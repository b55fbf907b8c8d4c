// SPDX-License-Identifier: GPL-3.0-or-later
// Readings off the meters as a table. docs/job-format.md, "Readings".
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/bench/characterise.h"

namespace conductus::files {

/// Most lines of one table: a day's discharge, one a second.
inline constexpr std::size_t most_readings = 100000;

/// Readings of a table with the columns' names in its first row, in any order and any of their
/// usual spellings: time, volts (or drop, foot), amps, tip, charge, colour (or state), pixels,
/// length; units after the name: "drop, mV", "amps_mA", "time min". A column of amps may say its
/// colour or state itself: "red_A", "idle mA". Lines that begin with # may say "pixels 117" or
/// "length 813 mm". Errors: a column that is not known or not there, what is no number; `name` with
/// line and column.
Result<bench::Readings> read_readings(std::string_view text, const std::string& name);

/// The same table: what read_readings() gives back equal readings of.
std::string readings_csv(const bench::Readings& readings);

} // namespace conductus::files
