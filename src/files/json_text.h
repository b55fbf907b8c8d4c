// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

#include "core/base/problem.h"
#include "files/disk.h"

namespace conductus::files {

using Json = nlohmann::ordered_json;

/// Told how far a long reading is, 0 to 1; false stops it. Empty: nobody asks.
using GoOn = std::function<bool(double share)>;

/// Most values (texts, numbers, objects, lists) a JSON text may have.
inline constexpr std::size_t most_values = 4'000'000;

/// Parses strict JSON in time linear in its length. Errors carry line and column: syntax, another
/// encoding, a key twice, nested deeper than 64, more than `most_values`, nothing in it.
Result<Json> parse_json(std::string_view text, const std::string& name, const GoOn& go_on = {});

/// The line of a text on which the value of a JSON pointer begins; 0 where it is not in the text.
std::size_t line_of(std::string_view text, std::string_view pointer);

/// Indented JSON text. Text that is not UTF-8 is written with replacement characters.
std::string json_text(const Json& json);

/// JSON for a number: whole numbers without a point; every double reads back the same.
Json json_number(double value);

} // namespace conductus::files
