// SPDX-License-Identifier: GPL-3.0-or-later
// Rows of a database file read page by page, past whatever is broken in it: neither the schema nor
// the trees above the rows are needed. The layout is that of the SQLite file format, version 3.
#pragma once

#include <cstdint>
#include <functional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace conductus::shop {

/// A value of a row: nothing, a whole number, a text, bytes.
struct Bytes {
    std::string bytes;
};
using Value = std::variant<std::monostate, std::int64_t, std::string, Bytes>;

/// Calls `row` for every row that can be made out in any leaf page of a table, with its number in
/// the table. Rows with numbers that are not whole are left out: our tables have none.
void each_row(std::string_view file,
              const std::function<void(std::int64_t number, const std::vector<Value>&)>& row);

} // namespace conductus::shop
