// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/csv.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace conductus::files {
namespace {

constexpr std::string_view acts_in_a_spreadsheet = "=+-@\t\r'";

bool is_number(std::string_view cell) {
    if (cell.starts_with('+')) cell.remove_prefix(1);
    double value = 0;
    const auto [end, error] = std::from_chars(cell.data(), cell.data() + cell.size(), value);
    // Not the words that also stand for a number: a table has digits.
    return error == std::errc() && end == cell.data() + cell.size() &&
           cell.find_first_not_of("-0123456789.eE+") == std::string_view::npos;
}

bool begins_so(std::string_view cell) {
    return !cell.empty() && acts_in_a_spreadsheet.find(cell.front()) != std::string_view::npos;
}

} // namespace

std::string csv_record(const std::vector<std::string>& cells) {
    std::string line;
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (i > 0) line += ',';
        const bool guard = begins_so(cells[i]) && !is_number(cells[i]);
        const std::string cell = guard ? "'" + cells[i] : cells[i];
        if (cell.find_first_of(",\"\r\n\t;") == std::string::npos) {
            line += cell;
            continue;
        }
        line += '"';
        for (const char c : cell) {
            if (c == '"') line += '"';
            line += c;
        }
        line += '"';
    }
    return line + "\r\n";
}

CsvTable read_csv(std::string_view text, const std::string& name, std::size_t most) {
    CsvTable table;
    // A tab or semicolon separates as well where the first row has no comma.
    const std::string_view head = text.substr(0, text.find_first_of("\r\n"));
    char split = ',';
    if (head.find(',') == std::string_view::npos)
        split = head.find('\t') != std::string_view::npos  ? '\t'
                : head.find(';') != std::string_view::npos ? ';'
                                                           : ',';
    std::vector<CsvCell> record;
    std::size_t line = 1, column = 1;
    bool quoted = false, closed = false;
    CsvCell cell{{}, 1, 1};
    const auto end_cell = [&] {
        if (cell.text.size() > 1 && cell.text[0] == '\'' &&
            begins_so(std::string_view(cell.text).substr(1)))
            cell.text.erase(0, 1);
        record.push_back(std::move(cell));
        closed = false;
    };
    const auto end_record = [&] {
        end_cell();
        if (record.size() > 1 || !record[0].text.empty())
            table.records.push_back(std::move(record));
        record.clear();
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '"' && i + 1 < text.size() && text[i + 1] == '"') {
                cell.text += '"';
                ++i, ++column;
            } else if (c == '"') {
                quoted = false, closed = true;
            } else {
                cell.text += c;
                if (c == '\n') ++line, column = 0;
            }
        } else if (c == '"' && cell.text.empty() && !closed) {
            quoted = true;
        } else if (c == split) {
            end_cell();
            cell = {{}, line, column + 1};
        } else if (c == '\n') {
            end_record();
            ++line, column = 0;
            cell = {{}, line, 1};
            if (table.records.size() > most) {
                table.problems.push_back(
                    {fmt::format("{}: line {}, column 1", name, line),
                     fmt::format("the table has more than {} rows", most),
                     "This is hardly the table you meant: check which file it is"});
                return table;
            }
        } else if (c != '\r') {
            cell.text += c;
        }
        ++column;
    }
    if (quoted)
        table.problems.push_back(
            {fmt::format("{}: line {}, column {}", name, cell.line, cell.column),
             "a quote is opened and never closed", "Close it, or take it out"});
    end_record();
    return table;
}

std::string cell_words(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos) return {};
    return std::string(text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1));
}

std::string cell_key(std::string_view text) {
    std::string all = cell_words(text);
    std::transform(all.begin(), all.end(), all.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return all;
}

std::optional<double> cell_number(std::string_view text) {
    std::string digits = cell_key(text);
    if (digits.starts_with('+')) digits.erase(0, 1);
    if (digits.find('.') == std::string::npos) std::replace(digits.begin(), digits.end(), ',', '.');
    double value = 0;
    const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
    if (error != std::errc() || end != digits.data() + digits.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

} // namespace conductus::files
