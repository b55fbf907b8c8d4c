// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/discharge_log_csv.h"

#include <cmath>
#include <fmt/format.h>
#include <optional>

#include "files/csv.h"

namespace conductus::files {
namespace {

struct LogColumn {
    std::string_view name;
    double times;
};
constexpr LogColumn time_columns[] = {
    {"time_s", 1}, {"time", 1}, {"seconds", 1}, {"time_min", 60}, {"minutes", 60}};
constexpr LogColumn volt_columns[] = {
    {"cell_v", 1}, {"volts", 1}, {"board_v", 1}, {"volts_mv", 1e-3}};
constexpr LogColumn amp_columns[] = {{"amps_a", 1}, {"amps", 1}, {"amps_ma", 1e-3}};

} // namespace

Result<ReadDischarge> read_discharge_log(std::string_view text, const std::string& name) {
    const CsvTable table = read_csv(text, name, 200001);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    ReadDischarge read;
    struct Found {
        std::size_t at;
        double times;
    };
    const auto find = [&](const auto& names) -> std::optional<Found> {
        if (table.records.empty()) return std::nullopt;
        const auto& head = table.records.front();
        for (const LogColumn& one : names)
            for (std::size_t i = 0; i < head.size(); ++i)
                if (cell_key(head[i].text) == one.name) return Found{i, one.times};
        return std::nullopt;
    };
    const auto time = find(time_columns), volts = find(volt_columns), amps = find(amp_columns);
    for (const auto& [column, what] :
         {std::pair{&time, "time_s"}, {&volts, "volts"}, {&amps, "amps"}})
        if (!*column)
            return problem(name + " line 1", say("there is no column {}", what),
                           "Name the columns time_s, volts, amps; or cell_V or board_V, which say "
                           "where the volts were read");
    if (cell_key(table.records.front()[volts->at].text) == "board_v")
        read.at = job::DischargeAt::board;
    for (std::size_t r = 1; r < table.records.size(); ++r) {
        const auto& record = table.records[r];
        const auto number = [&](const Found& column) -> Result<double> {
            if (column.at >= record.size())
                return problem(fmt::format("{} line {}", name, record.front().line),
                               "the row is too short", "Give every row its three numbers");
            const CsvCell& cell = record[column.at];
            const auto value = cell_number(cell_words(cell.text));
            if (!value || !std::isfinite(*value))
                return problem(fmt::format("{} line {}, column {}", name, cell.line, cell.column),
                               say("'{}' is no number", shown(cell.text, 40)),
                               "Write it like 3.71");
            return *value * column.times;
        };
        const auto s = number(*time), v = number(*volts), a = number(*amps);
        for (const auto* one : {&s, &v, &a})
            if (!*one) return tl::unexpected(one->error());
        read.points.push_back({*s, *v, *a});
    }
    return read;
}

} // namespace conductus::files
