// SPDX-License-Identifier: GPL-3.0-or-later
// Readings at a hilt that has something wrong. docs/job-format.md, "Bench readings".
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/diagnose/finder.h"

namespace conductus::files {

/// A table with the columns state, from, to, value, unit and, if wanted, turned (yes or no). Units:
/// V, mV, A, mA, Ohm, mOhm, kOhm, pixels; the value "open" is of ohms. Error, with line and column:
/// a column is missing, a value or a unit can not be read.
Result<std::vector<diagnose::Reading>> read_bench_csv(std::string_view text,
                                                      const std::string& name);

} // namespace conductus::files
