// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/plan/answers.h"
#include "core/plan/choices.h"
#include "core/plan/why.h"
#include "core/power/cap.h"
#include "core/power/day_run.h"
#include "core/power/percent.h"
#include "core/power/sound.h"
#include "core/power/storage.h"
#include "files/discharge_csv.h"
#include "files/json_text.h"
#include "shop/book.h"
#include "threads/side_by_side.h"

namespace conductus::cli {
namespace {

using files::Json;

Json minutes_or_null(const std::optional<Minute>& m) {
    return m ? Json(m->value()) : Json(nullptr);
}

/// The job with the use that was asked for as its own.
Result<shop::Named> in_use(const catalogue::Catalogue& parts, const std::string& name,
                           const std::string& use) {
    auto named = job_as_it_stands(parts, name);
    if (!named) return named;
    job::Job& job = named->job;
    auto chosen = power::use_named(job, use);
    if (!chosen) return tl::unexpected(chosen.error());
    std::erase_if(job.uses, [&](const job::Use& u) { return u.name == chosen->name; });
    job.use = std::move(*chosen);
    job.variants.clear();
    return named;
}

/// What is noticed of the use's look held without pause, in the order it comes.
Json run_marks(const power::Discharge& run) {
    std::vector<std::pair<double, Json>> marks;
    const auto add = [&](const char* mark, const std::optional<Minute>& at,
                         const std::string& why) {
        if (at)
            marks.emplace_back(at->value(),
                               Json{{"mark", mark}, {"at_min", at->value()}, {"why", why}});
    };
    add("crackle", run.crackle, fmt::format("sound needs {}", text(run.need)));
    add("clipping", run.clips,
        fmt::format("peaks are cut by more than {:.0f} dB", power::heard_clipping));
    add("tip dim", run.uneven,
        fmt::format("the tip shows less than {:.0f} % of the foot", power::dim_share * 100));
    add("dim", run.faded,
        fmt::format("it shines with less than {:.0f} % of its fresh light",
                    power::faded_share * 100));
    if (run.tripped)
        add("tripped", run.off, run.tripped->why.english());
    else
        add("off", run.off, run.off_because.english());
    std::stable_sort(marks.begin(), marks.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    Json list = Json::array();
    for (auto& [at, mark] : marks)
        list.push_back(std::move(mark));
    return list;
}

Json marks_json(const std::vector<power::DayMark>& marks) {
    Json list = Json::array();
    for (const power::DayMark& m : marks)
        list.push_back({{"mark", power::word(m.kind)},
                        {"at_min", m.at.value() / 60},
                        {"ignited_min", m.ignited.value()},
                        {"event", m.event},
                        {"why", m.why.english()},
                        {"cell", m.cell + 1}});
    return list;
}

} // namespace

int runtime(const catalogue::Catalogue& all_parts, const RuntimeChoice& choice) {
    const auto named = in_use(all_parts, choice.job, choice.use);
    if (!named) return refuse(named.error());
    const job::Job* job = &named->job;
    const catalogue::Catalogue& parts = *named->parts;
    const auto run = power::run_down(*job, parts);
    if (!run) return refuse(run.error());
    const auto loads = power::day_loads(*job, parts, job->use, side_by_side);
    if (!loads) return refuse(loads.error());
    const auto storage = power::storage_of(*job, parts);
    if (!storage) return refuse(storage.error());
    const auto percents = power::percents(*job, parts, side_by_side);
    if (!percents) return refuse(percents.error());
    power::DayPlan swapping, plain;
    swapping.swaps = true;
    const power::Day day = power::live(*loads, plain), busy = power::live(*loads, swapping);
    const auto many =
        power::many_days(*loads, static_cast<std::size_t>(choice.days), choice.seed, side_by_side);

    const std::string limited = run->crackle && *run->crackle <= run->off
                                    ? "crackle at " + run->peak_event
                                    : run->off_because.english();
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
        Json percent = Json::array();
        for (const power::Percent& one : *percents)
            percent.push_back({{"look", one.look},
                               {"crackle_soc", one.crackle ? Json(*one.crackle) : Json(nullptr)},
                               {"gauge", one.gauge},
                               {"change_below_percent", one.change_below()},
                               {"clean_min", one.clean.value()}});
        all["percent"] = std::move(percent);
        all["marks"] = run_marks(*run);
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
    row("off", duration(run->off) + ", " + run->off_because.english());
    row("limited by", limited);
    row("day", fmt::format("{} lit, {} clean, {:.0f} % left", duration(day.ignited),
                           duration(day.clean.value_or(day.ignited)), 100 * day.charge));
    row("cells a day", busy.hopeless ? "– a fresh cell is not clean" : std::to_string(busy.cells));
    row("storage", storage->has_kill ? fmt::format("{:.0f} days asleep, {:.0f} with the kill open",
                                                   storage->asleep_days, storage->killed_days)
                                     : fmt::format("{:.0f} days asleep", storage->asleep_days));
    if (const Message said = power::advice(*percents); !said.empty())
        row("percent", said.english() + " (on the board's own gauge, lit)");
    row("many days", fmt::format("{} to {}, half of them over {} (of {})", duration(many.p10),
                                 duration(many.p90), duration(many.p50), many.days));
    for (const power::DayMark& m : day.marks)
        fmt::print("{:>8}  {}, {}: {}\n", duration(Minute(m.at.value() / 60)), power::word(m.kind),
                   m.event, m.why.english());
    return fine;
}

int discharge(const catalogue::Catalogue& parts, const std::string& name, const std::string& use,
              const std::string& out) {
    // Asked before a day is computed that could then be written nowhere.
    if (auto ok = files::output_target(out, files::Content::text); !ok) return refuse(ok.error());
    const auto named = in_use(parts, name, use);
    if (!named) return refuse(named.error());
    const auto loads = power::day_loads(named->job, *named->parts, named->job.use, side_by_side);
    if (!loads) return refuse(loads.error());
    power::DayPlan plan;
    plan.full_record = true;
    plan.days = 60;
    const power::Day day = power::live(*loads, plan);
    if (auto ok = files::write_output(out, files::discharge_csv(day), files::Content::text); !ok)
        return refuse(ok.error());
    fmt::print("{} rows, {} of the day\n", day.samples.size(),
               duration(Minute(day.lasted.value() / 60)));
    return fine;
}

namespace {

Json choice_json(const plan::Choice& c) {
    return {{"fitted", c.fitted},
            {"best", c.best},
            {"cell", c.cell},
            {"adapter", c.adapter.empty() ? Json(nullptr) : Json(c.adapter)},
            {"protection", c.protection.empty() ? Json(nullptr) : Json(c.protection)},
            {"speaker", c.speaker.empty() ? Json(nullptr) : Json(c.speaker)},
            {"kill", c.kill.empty() ? Json(nullptr) : Json(c.kill)},
            {"strip", c.strip.empty() ? Json(nullptr) : Json(c.strip)},
            {"cap", c.cap},
            {"clean_min", c.clean.value()},
            {"dim_min", c.bright.value()},
            {"off_min", c.off.value()},
            {"crackle_margin_V", c.margin.value()},
            {"spares_per_day", c.covers ? Json(c.spares) : Json(nullptr)},
            {"clearance_mm",
             std::isfinite(c.clearance.value()) ? Json(c.clearance.value()) : Json(nullptr)},
            {"mass_g", c.mass.value()},
            {"price", c.price},
            {"light", c.light},
            {"loudness_dB", c.loudness},
            {"over_continuous", c.overloaded},
            {"changes", c.changes}};
}

} // namespace

int options(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    const auto choices = plan::choices_of(*plan, side_by_side);
    if (!choices) return refuse(choices.error());
    if (json) {
        Json all = Json::array(), gives_up = Json::array(), reach = Json::array();
        for (const plan::Choice& c : choices->all)
            all.push_back(choice_json(c));
        for (const auto& g : choices->gives_up)
            gives_up.push_back({{"text", g.text}, {"option", g.choice}});
        for (const auto& r : choices->reach)
            reach.push_back({{"text", r.text}, {"clean_min", r.clean.value()}});
        fmt::print("{}\n", Json{{"job", plan->job->name},
                                {"wanted_min", plan->job->use.clean.value()},
                                {"options", all},
                                {"gives_up", gives_up},
                                {"reach", reach}}
                               .dump(2));
        return fine;
    }
    std::size_t best = 0;
    for (const plan::Choice& c : choices->all)
        best += c.best;
    fmt::print("{} options that fit, {} of them better in something than every other\n",
               choices->all.size(), best);
    std::size_t shown = 0;
    for (const plan::Choice& c : choices->all) {
        if (!c.fitted && (!c.best || c.changes.size() > 2)) continue;
        if (++shown > 30) break;
        fmt::print(
            "{:<9} {:>8} {:>6.2f} V {:>2} spares {:>5.0f} % light {:>5.0f} g {:>6.1f} EUR  {}\n",
            c.fitted ? "as built" : "", duration(c.clean), c.margin.value(), c.spares,
            c.light * 100, c.mass.value(), c.price, fmt::join(c.changes, " + "));
    }
    for (const auto& g : choices->gives_up)
        fmt::print("given up: {}\n", g.text);
    for (const auto& r : choices->reach)
        fmt::print("to reach {}: {} ({})\n", duration(choices->wanted), r.text, duration(r.clean));
    return fine;
}

int why(const catalogue::Catalogue& parts, const std::string& name, const std::string& figure,
        bool json) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    const auto why = plan::why(*plan, figure, side_by_side);
    if (!why) return refuse(why.error());
    const Explained& e = why->figure;
    if (json) {
        Json of = Json::array(), by = Json::array();
        for (const Contribution& p : e.parts)
            of.push_back({{"label", p.label},
                          {"value", p.value},
                          {"unit", p.unit},
                          {"ref", p.ref},
                          {"source", p.source}});
        for (const plan::Sensitivity& s : why->by)
            by.push_back({{"input", s.input},
                          {"ref", s.ref},
                          {"was", s.was},
                          {"unit", s.unit},
                          {"change", s.change}});
        fmt::print("{}\n", Json{{"id", e.id},
                                {"label", e.label},
                                {"value", *e.value},
                                {"unit", e.unit},
                                {"formula", e.formula},
                                {"parts", of},
                                {"sensitivity", by}}
                               .dump(2));
        return fine;
    }
    fmt::print("{}: {}\n{}\n\n", e.label,
               e.unit == "min" ? duration(Minute(*e.value)) : with_unit(*e.value, e.unit),
               e.formula);
    for (const Contribution& p : e.parts)
        fmt::print("{:<34} {:>12}  {}\n", p.label, with_unit(p.value, p.unit), p.source);
    if (!why->by.empty()) fmt::print("\nOne tenth more of\n");
    for (const plan::Sensitivity& s : why->by)
        fmt::print("{:<34} {:>12}  {:+.3g} {}\n", s.input, with_unit(s.was, s.unit), s.change,
                   e.unit);
    return fine;
}

int cap(const catalogue::Catalogue& parts, const std::string& name, double minutes, bool json) {
    const auto named = in_use(parts, name, "");
    if (!named) return refuse(named.error());
    const auto cap = power::cap_for(named->job, *named->parts, Minute(minutes));
    if (!cap) return refuse(cap.error());
    if (json) {
        fmt::print("{}\n", Json{{"look", cap->look},
                                {"reached", cap->reached},
                                {"cap", cap->cap},
                                {"cap_now", cap->now},
                                {"effects", cap->effects},
                                {"wanted_min", minutes},
                                {"clean_min", cap->clean.value()},
                                {"clean_now_min", cap->clean_now.value()},
                                {"in_the_way", cap->in_the_way}}
                               .dump(2));
        return fine;
    }
    if (!cap->reached)
        fmt::print("{} is not to be had with any cap: {} at most; {}\n", duration(Minute(minutes)),
                   duration(cap->clean), cap->in_the_way);
    else if (cap->effects < 1)
        fmt::print(
            "Cap {} at {:.1f} % and all effects to {:.1f} % of what they are: clean for {}\n",
            cap->look, cap->cap * 100, cap->effects * 100, duration(cap->clean));
    else
        fmt::print("Cap {} at {:.1f} % (now {:.1f} %): clean for {}\n", cap->look, cap->cap * 100,
                   cap->now * 100, duration(cap->clean));
    return fine;
}

} // namespace conductus::cli
