// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/cases_csv.h"

#include <cmath>
#include <fmt/format.h>
#include <map>

#include "files/csv.h"

namespace conductus::files {

std::string cases_csv(const std::vector<diagnose::ListedCase>& cases) {
    std::string text = csv_record({"job", "level", "seed", "note"});
    for (const diagnose::ListedCase& c : cases)
        text += csv_record({c.job, std::to_string(c.level), std::to_string(c.seed), c.note});
    return text;
}

Result<std::vector<diagnose::ListedCase>> read_cases_csv(std::string_view text,
                                                         const std::string& name) {
    const CsvTable table = read_csv(text, name, 1001);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    std::map<std::string, std::size_t> at;
    if (!table.records.empty())
        for (std::size_t i = 0; i < table.records.front().size(); ++i)
            at.try_emplace(cell_key(table.records.front()[i].text), i);
    for (const char* column : {"job", "level", "seed"})
        if (!at.contains(column))
            return problem(name + " line 1", say("there is no column {}", column),
                           "Name the columns job, level, seed, note");
    std::vector<diagnose::ListedCase> cases;
    for (std::size_t r = 1; r < table.records.size(); ++r) {
        const auto& record = table.records[r];
        const auto words = [&](const char* column) {
            const auto it = at.find(column);
            return it != at.end() && it->second < record.size()
                       ? cell_words(record[it->second].text)
                       : std::string();
        };
        const auto whole = [&](const char* column, double least, double most) -> Result<double> {
            const auto value = cell_number(words(column));
            if (value && *value == std::floor(*value) && *value >= least && *value <= most)
                return *value;
            return problem(fmt::format("{} line {}", name, record.front().line),
                           say("'{}' is no {}", shown(words(column), 20), column),
                           say("It is a whole number, {} to {}", fmt::format("{:.0f}", least),
                               fmt::format("{:.0f}", most)));
        };
        const auto level = whole("level", 1, 4), seed = whole("seed", 0, 4e9);
        if (!level) return tl::unexpected(level.error());
        if (!seed) return tl::unexpected(seed.error());
        cases.push_back({words("job"), static_cast<int>(*level),
                         static_cast<unsigned long long>(*seed), words("note")});
    }
    return cases;
}

} // namespace conductus::files
