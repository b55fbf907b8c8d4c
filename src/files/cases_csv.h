// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/diagnose/practice.h"

namespace conductus::files {

/// A teacher's list of hidden cases as RFC 4180: job, level, seed, note.
std::string cases_csv(const std::vector<diagnose::ListedCase>& cases);
/// The same read. Errors with line and column: a column that is missing, a level that is not 1 to
/// 4, a seed that is no whole number of 0 to 4,000,000,000.
Result<std::vector<diagnose::ListedCase>> read_cases_csv(std::string_view text,
                                                         const std::string& name);

} // namespace conductus::files
