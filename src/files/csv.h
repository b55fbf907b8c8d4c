// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

namespace conductus::files {

/// One record of RFC 4180, with CR LF at its end: quotes where a cell needs them.
std::string csv_record(const std::vector<std::string>& cells);

} // namespace conductus::files
