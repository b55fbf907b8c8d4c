// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/trace_csv.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <optional>

#include "core/base/nearest.h"
#include "core/job/words.h"
#include "files/csv.h"

namespace conductus::files {
namespace {

constexpr std::size_t most_rows = 200000;
constexpr double g = 9.80665, degrees = 180 / 3.14159265358979323846;

struct TraceColumn {
    std::string_view name;
    double motion::Sample::*member;
    double times;
};
using S = motion::Sample;
constexpr std::array<TraceColumn, 16> trace_columns{{{"time_s", &S::t, 1},
                                                     {"time_ms", &S::t, 1e-3},
                                                     {"t", &S::t, 1},
                                                     {"time", &S::t, 1},
                                                     {"ax_g", &S::ax, 1},
                                                     {"ay_g", &S::ay, 1},
                                                     {"az_g", &S::az, 1},
                                                     {"ax_m_s2", &S::ax, 1 / g},
                                                     {"ay_m_s2", &S::ay, 1 / g},
                                                     {"az_m_s2", &S::az, 1 / g},
                                                     {"gx_deg_s", &S::gx, 1},
                                                     {"gy_deg_s", &S::gy, 1},
                                                     {"gz_deg_s", &S::gz, 1},
                                                     {"gx_rad_s", &S::gx, degrees},
                                                     {"gy_rad_s", &S::gy, degrees},
                                                     {"gz_rad_s", &S::gz, degrees}}};

std::string place(const std::string& name, const CsvCell& cell) {
    return fmt::format("{} line {}, column {}", name, cell.line, cell.column);
}

} // namespace

Result<motion::Trace> read_trace_csv(std::string_view text, const std::string& name) {
    const CsvTable table = read_csv(text, name, most_rows);
    if (!table.problems.empty()) return tl::unexpected(table.problems.front());
    if (table.records.size() < 2)
        return problem(name, "there are no samples in it",
                       "Give a line of names and a line for each sample");
    struct Use {
        std::size_t at = 0;
        const TraceColumn* column = nullptr; // null: what is meant
    };
    std::vector<Use> uses;
    const auto& head = table.records.front();
    std::array<bool, 7> there{};
    const std::array members{&S::t, &S::ax, &S::ay, &S::az, &S::gx, &S::gy, &S::gz};
    for (std::size_t i = 0; i < head.size(); ++i) {
        const std::string column = cell_key(head[i].text);
        if (column == "meant" || column == "wanted") uses.push_back({i, nullptr});
        for (const TraceColumn& c : trace_columns)
            if (c.name == column) {
                uses.push_back({i, &c});
                there[static_cast<std::size_t>(std::find(members.begin(), members.end(), c.member) -
                                               members.begin())] = true;
            }
    }
    constexpr std::array names{"time_s",   "ax_g",     "ay_g",    "az_g",
                               "gx_deg_s", "gy_deg_s", "gz_deg_s"};
    for (std::size_t i = 0; i < there.size(); ++i)
        if (!there[i])
            return problem(name + " line 1", say("there is no column {}", names[i]),
                           "Name the columns time_s, ax_g, ay_g, az_g, gx_deg_s, gy_deg_s, "
                           "gz_deg_s; m_s2 and rad_s are read as well");
    motion::Trace trace;
    trace.name = name.substr(name.rfind('/') + 1);
    if (trace.name.ends_with(".csv")) trace.name.resize(trace.name.size() - 4);
    std::replace(trace.name.begin(), trace.name.end(), '-', ' ');
    job::Felt meant = job::Felt::nothing;
    for (std::size_t r = 1; r < table.records.size(); ++r) {
        const auto& record = table.records[r];
        motion::Sample sample;
        job::Felt now = job::Felt::nothing;
        for (const Use& use : uses) {
            if (use.at >= record.size()) {
                if (!use.column) continue;
                return problem(fmt::format("{} line {}", name, record.front().line),
                               say("the cell of {} is missing", use.column->name),
                               "Give every sample a value in each column");
            }
            const CsvCell& cell = record[use.at];
            if (use.column) {
                const auto value = cell_number(cell.text);
                if (!value)
                    return problem(place(name, cell),
                                   say("'{}' is no number", shown(cell.text, 40)),
                                   "Write it like -0.981");
                sample.*(use.column->member) = *value * use.column->times;
            } else if (!cell_key(cell.text).empty()) {
                const auto felt = job::from_word<job::Felt>(cell_key(cell.text));
                if (!felt)
                    return problem(place(name, cell),
                                   say("'{}' is nothing a board feels", shown(cell.text, 40)),
                                   "It is swing, twist, roll, thrust, tap, clash or nothing");
                now = *felt;
            }
        }
        if (!trace.samples.empty() && sample.t <= trace.samples.back().t)
            return problem(fmt::format("{} line {}", name, record.front().line),
                           "the time does not go on", "Put the samples in the order of time");
        if (now != meant && meant != job::Felt::nothing)
            trace.meant.back().to = trace.samples.back().t;
        if (now != meant && now != job::Felt::nothing)
            trace.meant.push_back({sample.t, sample.t, now});
        meant = now;
        if (now != job::Felt::nothing) trace.meant.back().to = sample.t;
        trace.samples.push_back(sample);
    }
    return trace;
}

std::string trace_csv(const motion::Trace& trace) {
    std::string text = "time_s,ax_g,ay_g,az_g,gx_deg_s,gy_deg_s,gz_deg_s,meant\r\n";
    for (const motion::Sample& s : trace.samples) {
        // A swing that ends in a blow: what is shorter is told.
        const motion::Meant* meant = nullptr;
        for (const motion::Meant& m : trace.meant)
            if (s.t >= m.from && s.t <= m.to && (!meant || m.to - m.from < meant->to - meant->from))
                meant = &m;
        text += fmt::format("{:.3f},{:.3f},{:.3f},{:.3f},{:.1f},{:.1f},{:.1f},{}\r\n", s.t, s.ax,
                            s.ay, s.az, s.gx, s.gy, s.gz,
                            meant ? job::word(meant->what) : std::string_view());
    }
    return text;
}

} // namespace conductus::files
