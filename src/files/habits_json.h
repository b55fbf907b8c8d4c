// SPDX-License-Identifier: GPL-3.0-or-later
// A shop's habits as JSON.
#pragma once

#include <string>

#include "core/base/problem.h"
#include "core/job/habits.h"

namespace conductus::files {

std::string habits_text(const job::Habits& habits);
/// Error: it is no JSON, or says what no habit can be.
Result<job::Habits> parse_habits(const std::string& text);

} // namespace conductus::files
