// SPDX-License-Identifier: GPL-3.0-or-later
// How the board is set. docs/job-format.md, "Harness files".
#pragma once

#include <string>

#include "core/harness/harness.h"
#include "files/json_text.h"

namespace conductus::files {

/// The configuration as decided, in words no program owns: lines with their lights, buttons, looks.
Json config_json(const job::Job& job, const harness::DataMap& map);
std::string config_text(const job::Job& job, const harness::DataMap& map);

} // namespace conductus::files
