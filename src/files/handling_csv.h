// SPDX-License-Identifier: GPL-3.0-or-later
// Commands and presets as a person has them in a table or a text: taken in by the names of the
// columns. docs/job-format.md, "Tables of commands and presets".
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"

namespace conductus::files {

/// Commands in a table with the columns command, state, trigger, and if wanted does, what, leads,
/// preset, blade, source; or, without such a line of names, a line each like
/// "lit: A held 0.6 s: put out > idle". Buttons are named by their letters (A is nearest to the
/// emitter), by their parts, or by where they are ("near the emitter"). What a command does follows
/// from its name where it is not said. Error, with line and column: what can not be understood.
Result<std::vector<job::Command>> read_commands(std::string_view text, const std::string& name,
                                                const job::Job& job,
                                                const catalogue::Catalogue& parts);

/// Takes them in behind those that are there; states that are missing come with them.
job::Edit take_commands(std::vector<job::Command> commands);

/// Presets as found or as asked for: columns name (or preset), font, look, tracks, note; or,
/// without a line of names, these in that order.
Result<std::vector<job::PresetTold>> read_presets_told(std::string_view text,
                                                       const std::string& name);

/// The map of commands as such a table.
std::string commands_csv(const job::Handling& map);

} // namespace conductus::files
