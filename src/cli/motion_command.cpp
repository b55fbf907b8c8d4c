// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/job/words.h"
#include "core/motion/felt.h"
#include "files/disk.h"
#include "files/json_text.h"
#include "files/trace_csv.h"

namespace conductus::cli {
namespace {

using files::Json;

/// The thresholds of the job; those that were not entered are as usual.
job::MotionSettings settings_of(const job::Job& job, bool& entered) {
    entered = job.config.motion != job::MotionSettings{};
    return entered ? job.config.motion : motion::usual_settings();
}

} // namespace

int motion(const catalogue::Catalogue& parts, const std::string& name, const std::string& file,
           bool json) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    const auto text = files::read_text(file);
    if (!text) return refuse(text.error());
    const auto trace = files::read_trace_csv(*text, file);
    if (!trace) return refuse(trace.error());
    bool entered = false;
    const job::MotionSettings settings = settings_of(*plan->whole, entered);
    const motion::Understood u = motion::understood(*trace, settings);
    std::vector<motion::Trace> all = motion::made_up_set();
    all.push_back(*trace);
    const auto partings = motion::partings(all, settings);
    if (json) {
        Json events = Json::array(), missed = Json::array(), thresholds = Json::array(), set;
        for (const motion::Event& e : u.events)
            events.push_back({{"at_s", e.at},
                              {"what", job::word(e.what)},
                              {"most", e.most},
                              {"unit", motion::unit_of(e.what)},
                              {"threshold", motion::threshold_of(settings, e.what)},
                              {"meant", e.meant}});
        for (const motion::Meant& m : u.missed)
            missed.push_back({{"from_s", m.from}, {"to_s", m.to}, {"what", job::word(m.what)}});
        for (const motion::Parting& p : partings) {
            Json one{{"what", job::word(p.what)}, {"unit", motion::unit_of(p.what)},
                     {"parts", p.parts()},        {"above", p.above},
                     {"above_of", p.highest},     {"below", p.below},
                     {"below_of", p.lowest},      {"loose", p.loose}};
            if (p.parts()) one["lively"] = p.lively(), one["calm"] = p.calm();
            thresholds.push_back(std::move(one));
        }
        for (const auto& [felt, word] : job::Words<job::Felt>::table)
            if (felt != job::Felt::nothing)
                set[std::string(word)] = motion::threshold_of(settings, felt);
        fmt::print("{}\n", Json{{"trace", trace->name},
                                {"settings", entered ? "the job's" : "usual"},
                                {"set", set},
                                {"events", events},
                                {"missed", missed},
                                {"loose", u.loose},
                                {"thresholds", thresholds}}
                               .dump(2));
        return fine;
    }
    fmt::print("{}, thresholds {}\n", trace->name,
               entered ? "of the job" : "as usual: the job has none");
    for (const motion::Event& e : u.events)
        fmt::print("  {:>6.2f} s  {:<7} {:>7.1f} {}, from {:.1f} on{}\n", e.at, job::word(e.what),
                   e.most, motion::unit_of(e.what), motion::threshold_of(settings, e.what),
                   e.meant ? "" : "   not meant");
    for (const motion::Meant& m : u.missed)
        fmt::print("  {:>6.2f} s  {:<7} was missed\n", m.from, job::word(m.what));
    if (u.events.empty() && u.missed.empty()) fmt::print("  it is taken for nothing\n");
    if (u.loose)
        fmt::print(
            "  blow after blow while nothing moves: look for a loose board or speaker before "
            "a threshold is changed\n");
    fmt::print("thresholds that part it and the usual movements\n");
    for (const motion::Parting& p : partings)
        if (p.parts())
            fmt::print("  {:<7} lively {:.1f}, calm {:.1f} {}\n", job::word(p.what), p.lively(),
                       p.calm(), motion::unit_of(p.what));
        else
            fmt::print("  {:<7} no threshold does: {} reaches {:.1f} {}, {} only {:.1f}{}\n",
                       job::word(p.what), p.highest, p.above, motion::unit_of(p.what), p.lowest,
                       p.below, p.loose ? ": the board is loose" : "");
    return fine;
}

} // namespace conductus::cli
