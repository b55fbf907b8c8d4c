// SPDX-License-Identifier: GPL-3.0-or-later
// A log for whoever has to find out afterwards what went wrong: when the program began and ended,
// what it refused or could not keep, what the toolkit warned of. What jobs say is not in it.
#pragma once

#include <filesystem>
#include <string_view>

namespace conductus::app {

/// Begins to write into that file; at a megabyte it becomes FILE.1 and a new one is begun. Warnings
/// of the toolkit go there, too. What can not be written is not logged, and nothing else happens.
void open_log(const std::filesystem::path& file);

/// A line with its time. From any thread; nothing before open_log().
void log_line(std::string_view line);

} // namespace conductus::app
