// SPDX-License-Identifier: GPL-3.0-or-later
#include <atomic>
#include <fmt/format.h>
#include <thread>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/power/day_run.h"
#include "core/power/storage.h"
#include "files/discharge_csv.h"
#include "files/json_text.h"
#include "shop/book.h"

namespace conductus::cli {
namespace {

using files::Json;

/// As many threads as the machine has; each takes the next task.
void side_by_side(std::size_t count, const std::function<void(std::size_t)>& task) {
    std::atomic<std::size_t> next{0};
    auto work = [&] {
        for (std::size_t i = next++; i < count; i = next++)
            task(i);
    };
    std::vector<std::thread> others;
    const std::size_t threads = std::min<std::size_t>(std::thread::hardware_concurrency(), count);
    for (std::size_t i = 1; i < threads; ++i)
        others.emplace_back(work);
    work();
    for (auto& t : others)
        t.join();
}

Json minutes_or_null(const std::optional<Minute>& m) {
    return m ? Json(m->value()) : Json(nullptr);
}

/// The job with the use that was asked for as its own.
Result<job::Job> in_use(const catalogue::Catalogue& parts, const std::string& name,
                        const std::string& use) {
    auto job = shop::job_named(name, parts);
    if (!job) return tl::unexpected(job.error());
    auto chosen = power::use_named(*job, use);
    if (!chosen) return tl::unexpected(chosen.error());
    std::erase_if(job->uses, [&](const job::Use& u) { return u.name == chosen->name; });
    job->use = std::move(*chosen);
    job->variants.clear();
    return job;
}

Json marks_json(const std::vector<power::DayMark>& marks) {
    Json list = Json::array();
    for (const power::DayMark& m : marks)
        list.push_back({{"mark", power::word(m.kind)},
                        {"at_min", m.at.value() / 60},
                        {"ignited_min", m.ignited.value()},
                        {"event", m.event},
                        {"why", m.why},
                        {"cell", m.cell + 1}});
    return list;
}

} // namespace

int runtime(const catalogue::Catalogue& parts, const RuntimeChoice& choice) {
    const auto job = in_use(parts, choice.job, choice.use);
    if (!job) return refuse(job.error());
    const auto run = power::run_down(*job, parts);
    if (!run) return refuse(run.error());
    const auto loads = power::day_loads(*job, parts, job->use, side_by_side);
    if (!loads) return refuse(loads.error());
    const auto storage = power::storage_of(*job, parts);
    if (!storage) return refuse(storage.error());
    power::DayPlan swapping, plain;
    swapping.swaps = true;
    const power::Day day = power::live(*loads, plain), busy = power::live(*loads, swapping);
    const auto many =
        power::many_days(*loads, static_cast<std::size_t>(choice.days), choice.seed, side_by_side);

    const std::string limited = run->crackle && *run->crackle <= run->off
                                    ? "crackle at " + run->peak_event
                                    : run->off_because;
    const std::string first = !day.first_crackle.empty() ? day.first_crackle
                              : run->crackle             ? run->peak_event
                                                         : std::string();
    if (choice.json) {
        Json all{{"job", job->name},
                 {"use", job->use.name},
                 {"clean_min", run->clean().value()},
                 {"dim_min", run->bright().value()},
                 {"off_min", run->off.value()},
                 {"limited_by", limited},
                 {"first_crackle_event", first.empty() ? Json(nullptr) : Json(first)},
                 {"cells_per_day", busy.hopeless ? Json(nullptr) : Json(busy.cells)},
                 {"storage_days", storage->days()},
                 {"p10", many.p10.value()},
                 {"p50", many.p50.value()},
                 {"p90", many.p90.value()},
                 {"days", many.days},
                 {"seed", choice.seed}};
        Json events = Json::array();
        for (const auto& [event, count] : many.events)
            events.push_back({{"event", event}, {"days", count}});
        all["events"] = std::move(events);
        all["storage"] = {{"asleep_days", storage->asleep_days},
                          {"killed_days", storage->killed_days},
                          {"pulled_days", storage->pulled_days},
                          {"asleep_A", storage->asleep.value()},
                          {"killed_A", storage->killed.value()}};
        all["day"] = {{"ignited_min", day.ignited.value()},
                      {"clean_min", minutes_or_null(day.clean)},
                      {"bright_min", minutes_or_null(day.bright)},
                      {"off_min", minutes_or_null(day.off)},
                      {"charge_left", day.charge},
                      {"marks", marks_json(day.marks)},
                      {"with_swaps", marks_json(busy.marks)}};
        fmt::print("{}\n", all.dump(2));
        return fine;
    }
    auto row = [](const char* name, const std::string& value) {
        fmt::print("{:<16}{}\n", name, value);
    };
    row("use", job->use.name);
    row("clean", duration(run->clean()));
    row("bright", duration(run->bright()));
    row("off", duration(run->off) + ", " + run->off_because);
    row("limited by", limited);
    row("day", fmt::format("{} lit, {} clean, {:.0f} % left", duration(day.ignited),
                           duration(day.clean.value_or(day.ignited)), 100 * day.charge));
    row("cells a day", busy.hopeless ? "– a fresh cell is not clean" : std::to_string(busy.cells));
    row("storage", fmt::format("{:.0f} days", storage->days()));
    row("many days", fmt::format("{} to {}, half of them over {} (of {})", duration(many.p10),
                                 duration(many.p90), duration(many.p50), many.days));
    for (const power::DayMark& m : day.marks)
        fmt::print("{:>8}  {}, {}: {}\n", duration(Minute(m.at.value() / 60)), power::word(m.kind),
                   m.event, m.why);
    return fine;
}

int discharge(const catalogue::Catalogue& parts, const std::string& name, const std::string& use,
              const std::string& out) {
    const auto job = in_use(parts, name, use);
    if (!job) return refuse(job.error());
    const auto loads = power::day_loads(*job, parts, job->use, side_by_side);
    if (!loads) return refuse(loads.error());
    power::DayPlan plan;
    plan.full_record = true;
    plan.days = 60;
    const power::Day day = power::live(*loads, plan);
    if (auto ok = files::write_text(out, files::discharge_csv(day)); !ok)
        return refuse(ok.error());
    fmt::print("{} rows, {} of the day\n", day.samples.size(),
               duration(Minute(day.lasted.value() / 60)));
    return fine;
}

} // namespace conductus::cli
