// SPDX-License-Identifier: GPL-3.0-or-later
// Which process made a file, told from its name, and whether that process still runs.
#pragma once

#include <string>
#include <string_view>

namespace conductus::files {

/// Marks this process among all there were, for names of files: its number, and when it began
/// ("1234_567890"). The number alone is given to another process later, after a restart above all.
std::string process_mark();

/// Whether the process of a mark may still run. False for a text that is no mark.
bool may_run(std::string_view mark);

} // namespace conductus::files
