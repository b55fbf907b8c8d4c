// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/bench_csv.h"

#include <fmt/format.h>
#include <map>

#include "files/csv.h"

namespace conductus::files {
namespace {

using diagnose::Quantity;

struct BenchUnit {
    std::string_view word;
    Quantity what;
    double times;
};
constexpr BenchUnit bench_units[] = {
    {"v", Quantity::volts, 1},     {"mv", Quantity::volts, 1e-3},  {"a", Quantity::amps, 1},
    {"ma", Quantity::amps, 1e-3},  {"ohm", Quantity::ohms, 1},     {"mohm", Quantity::ohms, 1e-3},
    {"kohm", Quantity::ohms, 1e3}, {"ω", Quantity::ohms, 1},       {"mω", Quantity::ohms, 1e-3},
    {"kω", Quantity::ohms, 1e3},   {"Ω", Quantity::ohms, 1},       {"mΩ", Quantity::ohms, 1e-3},
    {"kΩ", Quantity::ohms, 1e3},   {"pixels", Quantity::pixels, 1}};

} // namespace

Result<std::vector<diagnose::Reading>> read_bench_csv(std::string_view text,
                                                      const std::string& name) {
    const CsvTable table = read_csv(text, name, 1000);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    std::map<std::string, std::size_t> at;
    if (!table.records.empty())
        for (std::size_t i = 0; i < table.records.front().size(); ++i)
            at.try_emplace(cell_key(table.records.front()[i].text), i);
    for (const char* column : {"state", "from", "value", "unit"})
        if (!at.contains(column))
            return problem(name + " line 1", say("there is no column {}", column),
                           "Name the columns state, from, to, value, unit");
    std::vector<diagnose::Reading> all;
    for (std::size_t r = 1; r < table.records.size(); ++r) {
        const auto& record = table.records[r];
        const auto cell = [&](const char* column) -> const CsvCell* {
            const auto it = at.find(column);
            return it != at.end() && it->second < record.size() ? &record[it->second] : nullptr;
        };
        const auto words = [&](const char* column) {
            const CsvCell* c = cell(column);
            return c ? cell_words(c->text) : std::string();
        };
        const auto place = [&](const char* column) {
            const CsvCell* c = cell(column);
            return c ? fmt::format("{} line {}, column {}", name, c->line, c->column)
                     : fmt::format("{} line {}", name, record.front().line);
        };
        const std::string unit = words("unit");
        const BenchUnit* known = nullptr;
        for (const BenchUnit& u : bench_units)
            if (u.word == unit || u.word == cell_key(unit)) known = &u;
        if (!known)
            return problem(place("unit"), say("'{}' is no unit of a reading", shown(unit, 20)),
                           "It is V, mV, A, mA, Ohm, mOhm, kOhm or pixels");
        diagnose::Reading reading;
        reading.measure = {known->what, words("state"), words("from"), words("to")};
        const std::string value = cell_key(words("value"));
        if (known->what == Quantity::ohms && (value == "open" || value == "ol")) {
            reading.value = 1e6;
        } else if (const auto number = cell_number(value)) {
            reading.value = *number * known->times;
        } else {
            return problem(place("value"), say("'{}' is no number", shown(value, 40)),
                           "Write it like 3.71, or open");
        }
        const std::string turned = cell_key(words("turned"));
        reading.turned = turned == "yes" || turned == "turned" || turned == "1";
        if (reading.measure.state.empty() || reading.measure.from.empty())
            return problem(place("state"), "state and from are missing",
                           "Say in which state, and between which points it was read");
        all.push_back(std::move(reading));
    }
    return all;
}

} // namespace conductus::files
