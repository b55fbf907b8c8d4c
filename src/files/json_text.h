// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

#include "core/base/problem.h"

namespace conductus::files {

using Json = nlohmann::ordered_json;

/// Largest file any importer reads.
inline constexpr std::uintmax_t largest_file = 64u << 20;

/// Reads a whole file. Errors: not there, a folder, unreadable, larger than `largest_file`.
Result<std::string> read_text(const std::filesystem::path& path);

/// Writes beside the file and renames, so that a crash or a full disk leaves the old file whole.
Result<void> write_text(const std::filesystem::path& path, std::string_view text);

/// Parses strict JSON. Errors carry line and column: syntax, not UTF-8, a key twice, nested deeper
/// than 64, nothing in it.
Result<Json> parse_json(std::string_view text, const std::string& name);

/// JSON for a number: whole numbers without a point; every double reads back the same.
Json json_number(double value);

} // namespace conductus::files
