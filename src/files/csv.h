// SPDX-License-Identifier: GPL-3.0-or-later
// Tables as RFC 4180 has them, in and out.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"

namespace conductus::files {

/// One record, with CR LF at its end: quotes where a cell needs them. A cell that a spreadsheet
/// would take for a formula (it begins with = + - @, a tab or an apostrophe, and is no number) gets
/// an apostrophe in front, which read_csv takes away again.
std::string csv_record(const std::vector<std::string>& cells);

/// A cell and where it stands, for messages.
struct CsvCell {
    std::string text;
    std::size_t line = 1, column = 1;
};

/// Records of a table with comma, semicolon or tab between cells, empty ones left out; in time
/// linear in the text. Errors, each with line and column: a quote that is never closed, more than
/// `most` records.
struct CsvTable {
    std::vector<std::vector<CsvCell>> records;
    std::vector<Problem> problems;
};
CsvTable read_csv(std::string_view text, const std::string& name, std::size_t most);

/// What stands in a cell without blanks at its edges; and the same in small letters, as names of
/// columns and units are compared.
std::string cell_words(std::string_view text);
std::string cell_key(std::string_view text);

/// A number as a person or a program writes one: with point or comma, 8e-05. Nothing: it is none.
std::optional<double> cell_number(std::string_view text);

} // namespace conductus::files
