// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/readings_csv.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <optional>

#include "core/base/nearest.h"
#include "files/csv.h"
#include "files/disk.h"

namespace conductus::files {
namespace {

using bench::Reading;
using bench::Readings;

enum class Column { time, volts, rest, amps, tip, charge, condition, pixels, length, note };

struct ColumnWord {
    std::string_view word;
    Column column;
};
constexpr ColumnWord column_words[] = {
    {"time", Column::time},        {"seconds", Column::time},    {"minutes", Column::time},
    {"t", Column::time},           {"volts", Column::volts},     {"volt", Column::volts},
    {"voltage", Column::volts},    {"drop", Column::volts},      {"foot", Column::volts},
    {"rest", Column::rest},        {"amps", Column::amps},       {"amp", Column::amps},
    {"current", Column::amps},     {"load", Column::amps},       {"tip", Column::tip},
    {"last", Column::tip},         {"charge", Column::charge},   {"soc", Column::charge},
    {"colour", Column::condition}, {"color", Column::condition}, {"channel", Column::condition},
    {"look", Column::condition},   {"state", Column::condition}, {"condition", Column::condition},
    {"mode", Column::condition},   {"lit", Column::condition},   {"pixels", Column::pixels},
    {"length", Column::length},    {"note", Column::note},       {"notes", Column::note},
    {"remark", Column::note}};

struct UnitWord {
    std::string_view word;
    double times;  ///< to SI
    Column column; ///< that a column of this unit alone is
};
constexpr UnitWord unit_words[] = {
    {"v", 1, Column::volts},          {"mv", 1e-3, Column::volts}, {"uv", 1e-6, Column::volts},
    {"a", 1, Column::amps},           {"ma", 1e-3, Column::amps},  {"ua", 1e-6, Column::amps},
    {"µa", 1e-6, Column::amps},       {"s", 1, Column::time},      {"ms", 1e-3, Column::time},
    {"min", 60, Column::time},        {"h", 3600, Column::time},   {"mm", 1e-3, Column::length},
    {"cm", 1e-2, Column::length},     {"m", 1, Column::length},    {"in", 0.0254, Column::length},
    {"percent", 1e-2, Column::charge}};

struct ConditionWord {
    std::string_view word, means;
};
constexpr ConditionWord condition_words[] = {{"red", "red"},
                                             {"r", "red"},
                                             {"green", "green"},
                                             {"g", "green"},
                                             {"blue", "blue"},
                                             {"b", "blue"},
                                             {"white", "white"},
                                             {"rgb", "mixed white"},
                                             {"mixed white", "mixed white"},
                                             {"white die", "white die"},
                                             {"w", "white die"},
                                             {"all", "all"},
                                             {"dark", "dark"},
                                             {"off", "dark"},
                                             {"none", "dark"},
                                             {"black", "dark"},
                                             {"active", "active"},
                                             {"on", "active"},
                                             {"idle", "idle"},
                                             {"standby", "idle"},
                                             {"asleep", "asleep"},
                                             {"sleep", "asleep"},
                                             {"deep sleep", "asleep"},
                                             {"stored", "asleep"}};

std::string lower(std::string_view text) {
    std::string all;
    for (const char c : text)
        all += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto first = all.find_first_not_of(" \t\r");
    if (first == std::string::npos) return {};
    return all.substr(first, all.find_last_not_of(" \t\r") - first + 1);
}

/// Words of a column's name: letters and digits that stand together; % is one by itself.
std::vector<std::string> words_of(std::string_view name) {
    std::vector<std::string> words(1);
    for (const char c : lower(name)) {
        const auto u = static_cast<unsigned char>(c);
        if (c == '%')
            words.emplace_back("percent"), words.emplace_back();
        else if (std::isalnum(u) || u >= 0x80)
            words.back() += c;
        else if (!words.back().empty())
            words.emplace_back();
    }
    std::erase(words, "");
    return words;
}

struct Header {
    Column column = Column::note;
    double times = 1;
    std::string condition; ///< of a column of amps that says it itself
};

std::optional<Header> header_of(std::string_view name) {
    Header header;
    std::optional<Column> by_name, by_unit;
    for (const std::string& word : words_of(name)) {
        for (const ColumnWord& w : column_words)
            if (w.word == word && (!by_name || w.column == Column::tip || w.column == Column::rest))
                by_name = w.column;
        for (const UnitWord& w : unit_words)
            if (w.word == word) by_unit = w.column, header.times = w.times;
        for (const ConditionWord& w : condition_words)
            if (w.word == word && word.size() > 1) header.condition = w.means;
    }
    if (!by_name && !by_unit) return std::nullopt;
    header.column = by_name.value_or(by_unit.value_or(Column::note));
    if (header.column == Column::length && !by_unit) header.times = 1e-3; // mm
    if (header.column == Column::time && !by_unit &&
        lower(name).find("minute") != std::string::npos)
        header.times = 60;
    if (header.column != Column::amps) header.condition.clear();
    return header;
}

Result<double> number(const CsvCell& cell, const std::string& name) {
    if (const auto read = cell_number(cell.text)) return *read;
    return problem(fmt::format("{}:{}:{}", name, cell.line, cell.column),
                   say("'{}' is no number", shown(cell.text, 40)),
                   "Write digits alone, with the unit in the column's name");
}

/// "pixels 117", "length: 813 mm": what a line that begins with # says.
void take_comment(std::string_view line, Readings& readings) {
    std::vector<std::string> words(1);
    for (const char c : lower(line))
        if (std::string_view(" \t#:;=").find(c) == std::string_view::npos)
            words.back() += c;
        else if (!words.back().empty())
            words.emplace_back();
    for (std::size_t i = 0; i + 1 < words.size(); ++i) {
        const auto value = cell_number(words[i + 1]);
        if (!value || !(*value > 0)) continue;
        if (words[i] == "pixels") readings.pixels = static_cast<int>(std::lround(*value));
        if (words[i] != "length") continue;
        double times = 1e-3;
        if (i + 2 < words.size())
            for (const UnitWord& w : unit_words)
                if (w.word == words[i + 2] && w.column == Column::length) times = w.times;
        readings.metres = *value * times;
    }
}

} // namespace

Result<Readings> read_readings(std::string_view text, const std::string& name) {
    const auto utf8 = as_utf8(std::string(text), name);
    if (!utf8) return tl::unexpected(utf8.error());
    if (const auto nul = utf8->find('\0'); nul != std::string::npos)
        return problem(place_in(*utf8, nul, name), "this is not text", "Save the table as CSV");
    Readings readings;
    CsvTable table = read_csv(*utf8, name, most_readings + 1);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    std::erase_if(table.records, [&](const std::vector<CsvCell>& row) {
        const bool comment = lower(row.front().text).starts_with('#');
        std::string whole;
        for (const CsvCell& cell : row)
            whole += cell.text + " ";
        if (comment) take_comment(whole, readings);
        return comment;
    });
    if (table.records.empty())
        return problem(name, "the file is empty", "Write the columns' names in the first row");
    std::vector<Header> headers;
    bool any_number = false;
    for (const CsvCell& cell : table.records.front()) {
        any_number = any_number || cell_number(cell.text).has_value();
        const auto header = header_of(cell.text);
        if (!header && !lower(cell.text).empty() && !any_number) {
            std::vector<std::string> known;
            for (const ColumnWord& w : column_words)
                known.emplace_back(w.word);
            const std::string near = nearest_word(lower(cell.text), known);
            return problem(fmt::format("{}:{}:{}", name, cell.line, cell.column),
                           say("there is no column '{}'", shown(cell.text, 40)),
                           near.empty()
                               ? Message("Columns are time, volts, amps, tip, charge, colour, "
                                         "state, pixels, length and note")
                               : say("Did you mean '{}'?", near));
        }
        headers.push_back(header.value_or(Header{}));
    }
    if (any_number)
        return problem(fmt::format("{}:{}", name, table.records.front().front().line),
                       "the columns have no names",
                       "Write them in the first row: colour, volts, amps");
    bool percent = false;
    for (std::size_t i = 1; i < table.records.size(); ++i) {
        const auto& row = table.records[i];
        Reading shared;
        shared.line = row.front().line;
        std::optional<double> rest;
        std::vector<Reading> wide; // of columns of amps that say their colour
        for (std::size_t c = 0; c < row.size(); ++c) {
            if (lower(row[c].text).empty()) continue;
            if (c >= headers.size())
                return problem(fmt::format("{}:{}:{}", name, row[c].line, row[c].column),
                               "this cell has no column", "Give the column a name, or clear it");
            const Header& header = headers[c];
            if (header.column == Column::note) continue;
            if (header.column == Column::condition) {
                shared.condition = lower(row[c].text);
                for (const ConditionWord& w : condition_words)
                    if (w.word == shared.condition) {
                        shared.condition = w.means;
                        break;
                    }
                continue;
            }
            const auto value = number(row[c], name);
            if (!value) return tl::unexpected(value.error());
            const double si = *value * header.times;
            switch (header.column) {
            case Column::time:
                shared.seconds = si;
                break;
            case Column::volts:
                shared.volts = si;
                break;
            case Column::rest:
                rest = si;
                break;
            case Column::amps:
                if (header.condition.empty()) {
                    shared.amps = si;
                } else {
                    Reading one;
                    one.condition = header.condition, one.amps = si;
                    wide.push_back(std::move(one));
                }
                break;
            case Column::tip:
                shared.tip = si;
                break;
            case Column::charge:
                shared.charge = si;
                percent = percent || si > 1.5;
                break;
            case Column::pixels:
                if (si < 1 || si > 1e6)
                    return problem(fmt::format("{}:{}:{}", name, row[c].line, row[c].column),
                                   say("a strip does not have {} pixels", *value), "Count them");
                readings.pixels = static_cast<int>(std::lround(si));
                break;
            case Column::length:
                readings.metres = si;
                break;
            case Column::condition:
            case Column::note:
                break;
            }
        }
        if (rest) {
            Reading at_rest = shared;
            at_rest.volts = rest, at_rest.amps = 0;
            readings.rows.push_back(std::move(at_rest));
            if (!shared.volts && !shared.amps && wide.empty()) continue;
        }
        if (wide.empty()) {
            readings.rows.push_back(std::move(shared));
            continue;
        }
        for (Reading& one : wide) {
            Reading whole = shared;
            whole.condition = std::move(one.condition), whole.amps = one.amps;
            readings.rows.push_back(std::move(whole));
        }
    }
    if (percent)
        for (Reading& r : readings.rows)
            if (r.charge) *r.charge /= 100;
    return readings;
}

std::string readings_csv(const Readings& readings) {
    const auto any = [&](const auto& has) {
        return std::any_of(readings.rows.begin(), readings.rows.end(), has);
    };
    struct Written {
        const char* name;
        std::optional<double> Reading::*value;
    };
    std::vector<Written> columns;
    for (const Written w : {Written{"time_s", &Reading::seconds},
                            {"volts_V", &Reading::volts},
                            {"amps_A", &Reading::amps},
                            {"tip_V", &Reading::tip},
                            {"charge", &Reading::charge}})
        if (any([&](const Reading& r) { return (r.*w.value).has_value(); })) columns.push_back(w);
    const bool conditions = any([](const Reading& r) { return !r.condition.empty(); });
    std::string text;
    if (readings.pixels) text += fmt::format("# pixels {}\r\n", *readings.pixels);
    if (readings.metres) text += fmt::format("# length {} m\r\n", *readings.metres);
    std::vector<std::string> cells;
    if (conditions) cells.emplace_back("condition");
    for (const Written& w : columns)
        cells.emplace_back(w.name);
    text += csv_record(cells);
    for (const Reading& r : readings.rows) {
        cells.clear();
        if (conditions) cells.push_back(r.condition);
        for (const Written& w : columns)
            cells.push_back(r.*w.value ? fmt::format("{}", *(r.*w.value)) : "");
        text += csv_record(cells);
    }
    return text;
}

} // namespace conductus::files
