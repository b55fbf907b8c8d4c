// SPDX-License-Identifier: GPL-3.0-or-later
// Days of use, storage, charging, and the cap for a runtime.
#include <atomic>
#include <cmath>
#include <thread>

#include "core/circuit/solver.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/power/cap.h"
#include "core/power/charging.h"
#include "core/power/day_run.h"
#include "core/power/storage.h"
#include "support/fixtures.h"

namespace conductus::power {
namespace {

using namespace test;
using job::EffectKind;
using job::PhaseKind;

double seconds_of(const std::vector<Stretch>& day, Stretch::Shows shows) {
    double sum = 0;
    for (const Stretch& s : day)
        if (s.shows == shows) sum += s.lasts.value();
    return sum;
}

int count_of(const std::vector<Stretch>& day, const job::Job& job, EffectKind kind) {
    int n = 0;
    for (const Stretch& s : day)
        n += s.effect >= 0 && job.effects[static_cast<std::size_t>(s.effect)].kind == kind;
    return n;
}

TEST(UseDay, LaidOutHasTheMinutesAndRatesOfItsPhases) {
    const job::Job job = demo("bittern"); // has every kind of effect
    for (const job::Use& use : usual_days()) {
        const auto phases = phases_of(use);
        const Minutes sum = minutes_of(phases);
        EXPECT_NEAR((sum.ignited + sum.idle + sum.stored).value(), 1440, 1e-9) << use.name;
        EXPECT_EQ(sum.ignited, use.ignited);
        const auto day = day_of(phases, job.effects, {});
        const double lit =
            seconds_of(day, Stretch::Shows::look) + seconds_of(day, Stretch::Shows::effect);
        EXPECT_NEAR(lit / 60, sum.ignited.value(), 1e-6) << use.name;
        EXPECT_NEAR(seconds_of(day, Stretch::Shows::idle) / 60, sum.idle.value(), 1e-6);
        for (const job::Rate& r : mean_rates(phases))
            EXPECT_NEAR(count_of(day, job, r.kind), r.per_minute * sum.ignited.value(),
                        0.03 * r.per_minute * sum.ignited.value() + 1.01)
                << use.name;
        int spells = 0;
        for (const job::Phase& p : phases)
            if (p.kind == PhaseKind::ignited) spells += p.times;
        EXPECT_EQ(count_of(day, job, EffectKind::ignition), spells);
        EXPECT_EQ(count_of(day, job, EffectKind::retraction), spells);
    }
}

TEST(UseDay, AtRandomHasTheSameMeansAndTheSameSeedTheSameDay) {
    const job::Job job = demo("bittern");
    const auto phases = phases_of(*job::find_name(usual_days(), "bout evening"));
    const auto plain = day_of(phases, job.effects, {});
    double lit = 0, flashes = 0;
    constexpr int days = 200;
    for (std::uint64_t seed = 1; seed <= days; ++seed) {
        const auto day = day_of(phases, job.effects, seed),
                   again = day_of(phases, job.effects, seed);
        ASSERT_EQ(day.size(), again.size());
        EXPECT_EQ(day.back().lasts, again.back().lasts);
        lit += seconds_of(day, Stretch::Shows::look) + seconds_of(day, Stretch::Shows::effect);
        flashes += count_of(day, job, EffectKind::flash);
    }
    const double plainly =
        seconds_of(plain, Stretch::Shows::look) + seconds_of(plain, Stretch::Shows::effect);
    EXPECT_NEAR(lit / days / plainly, 1, 0.02);
    // Some come while another lasts and the spell ends: those are lost.
    EXPECT_NEAR(flashes / days / count_of(plain, job, EffectKind::flash), 1, 0.03);
}

TEST(UseDay, WithoutPhasesFollowsFromTheMinutes) {
    job::Use use;
    use.ignited = Minute(80);
    use.idle = Minute(120);
    const auto phases = phases_of(use);
    const Minutes sum = minutes_of(phases);
    EXPECT_NEAR(sum.ignited.value(), 80, 1e-9);
    EXPECT_NEAR(sum.idle.value(), 120, 1e-9);
    EXPECT_NEAR(sum.stored.value(), 1240, 1e-9);
    use.ignited = Minute(0);
    EXPECT_EQ(phases_of(use).front().kind, PhaseKind::idle);
}

TEST(UseDay, PhasesFollowMinutesThatAreSet) {
    job::Job job = demo("heron");
    job::Use& use = job.use;
    ASSERT_FALSE(use.day.empty());
    use.ignited = Minute(40);
    use.idle = Minute(300);
    stretch_day(use);
    EXPECT_NEAR(minutes_of(use.day).ignited.value(), 40, 1e-9);
    EXPECT_NEAR(minutes_of(use.day).idle.value(), 300, 1e-9);
    EXPECT_TRUE(job::validate(job, parts()));
    use.idle = Minute(0);
    stretch_day(use);
    EXPECT_NEAR(minutes_of(use.day).idle.value(), 0, 1e-9);
    use.idle = Minute(60); // no phase to put it in: told by the minutes alone from here on
    stretch_day(use);
    EXPECT_TRUE(use.day.empty());
    EXPECT_NEAR(minutes_of(phases_of(use)).idle.value(), 60, 1e-9);
}

TEST(UseDay, NamedAmongTheJobsAndTheUsual) {
    job::Job job = demo("heron");
    job.uses.push_back(job.use);
    job.uses.back().name = "parade";
    job.uses.back().volume = 0.4;
    EXPECT_EQ(use_named(job, "")->name, job.use.name);
    EXPECT_EQ(use_named(job, "parade")->volume, 0.4);
    EXPECT_EQ(use_named(job, "festival day")->temperature, Celsius(10));
    EXPECT_EQ(use_named(job, "festival day")->look, job.use.look);
    // What a job calls a name goes before the usual day of that name.
    EXPECT_EQ(job.use.name, "stage run");
    EXPECT_EQ(use_named(job, "stage run")->ignited, job.use.ignited);
    const auto none = use_named(job, "parade ground");
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().mend.english().find("parade"), std::string::npos);
}

TEST(UseDay, ADayIsJudgedWhenItIsRead) {
    auto refused = [](auto&& change) {
        job::Job job = demo("heron");
        job.use.day = {
            {PhaseKind::ignited, Minute(10), 2, Minute(5), {{EffectKind::flash, 2}}, {}, {}}};
        EXPECT_TRUE(job::validate(job, parts()));
        change(job.use.day.front());
        const auto ok = job::validate(job, parts());
        EXPECT_FALSE(ok);
        return ok ? std::string() : ok.error().where;
    };
    EXPECT_EQ(refused([](job::Phase& p) { p.lasts = Minute(0); }), "/use/day/0/lasts_min");
    EXPECT_EQ(refused([](job::Phase& p) { p.times = 200; }), "/use/day");
    EXPECT_EQ(refused([](job::Phase& p) { p.kind = PhaseKind::idle; }), "/use/day/0/rates");
    EXPECT_EQ(refused([](job::Phase& p) {
                  p.rates.push_back({EffectKind::flash, 1});
              }),
              "/use/day/0/rates/1/kind");
    EXPECT_EQ(refused([](job::Phase& p) { p.rates[0].kind = EffectKind::ignition; }),
              "/use/day/0/rates/0/kind");
}

TEST(Day, MarksComeInOrderAndSayWhatDidIt) {
    const job::Job job = demo("heron");
    const auto loads = day_loads(job, parts(), job.use);
    ASSERT_TRUE(loads);
    DayPlan plan;
    plan.days = 10;
    plan.full_record = true;
    const Day day = live(*loads, plan);
    ASSERT_TRUE(day.clean && day.off);
    EXPECT_EQ(day.first_crackle, "clash flash");
    EXPECT_LT(*day.clean, *day.off);
    for (std::size_t i = 1; i < day.marks.size(); ++i)
        EXPECT_GE(day.marks[i].at, day.marks[i - 1].at);
    // At the first crackle the record says the same: clean before, short of it after.
    const double need = sound_of(job, parts()).need.value();
    for (const DaySample& s : day.samples) {
        if (s.shows == "idle" || s.shows == "stored") continue;
        const double ignited_at = s.at.value();
        for (const DayMark& m : day.marks)
            if (m.kind == DayMark::Kind::crackle && ignited_at < m.at.value()) {
                EXPECT_GE(s.audio.value(), need - 1e-6) << ignited_at;
            }
        EXPECT_LE(s.audio, s.board + Volt(1e-9));
    }
}

TEST(Day, CellsAreChangedAsOftenAsTheDayAsks) {
    job::Job job = demo("heron");
    job.use.day.clear();
    auto cells = [&](double ignited) {
        job.use.ignited = Minute(ignited);
        const auto loads = day_loads(job, parts(), job.use);
        DayPlan plan;
        plan.swaps = true;
        const Day day = live(*loads, plan);
        EXPECT_NEAR(day.ignited.value(), ignited, 1e-6); // all of it is lit
        int swaps = 0;
        for (const DayMark& m : day.marks)
            swaps += m.kind == DayMark::Kind::swap;
        EXPECT_EQ(day.cells, swaps + 1);
        return day.cells;
    };
    const double clean = run_down(job, parts())->clean().value();
    job.use.idle = Minute(0);
    EXPECT_EQ(cells(clean * 0.8), 1);
    EXPECT_EQ(cells(clean * 1.5), 2);
    EXPECT_EQ(cells(clean * 3.5), 4);
    job::find_ref(job.parts, "K1")->measured.resistance = Ohm(1); // never clean
    const auto loads = day_loads(job, parts(), job.use);
    DayPlan plan;
    plan.swaps = true;
    EXPECT_TRUE(live(*loads, plan).hopeless);
}

TEST(Day, AnEmptyCellEndsItInWhateverIsShownThen) {
    // Flashes so often that the last charge goes in one of them.
    for (const char* name : {"dunlin", "heron", "curlew"}) {
        job::Job job = demo(name);
        job.use = *job::find_name(usual_days(), "bout evening");
        job.use.look = demo(name).use.look;
        for (job::Part& part : job.parts)
            if (parts().find_as<catalogue::Cell>(part.type))
                part.measured.resistance = Ohm(0.001); // no cut-off comes first
        for (const double rate : {15.0, 100.0}) {
            job.use.day[0].rates[0].per_minute = rate;
            const auto loads = day_loads(job, parts(), job.use);
            ASSERT_TRUE(loads);
            DayPlan plan;
            plan.days = 30;
            plan.full_record = true;
            const Day day = live(*loads, plan);
            EXPECT_TRUE(day.off) << name;
            EXPECT_LT(day.samples.size(), 200000u);
        }
    }
}

TEST(Day, LookedAtSeldomItIsTheSameAsLookedAtAlways) {
    for (const char* name : {"heron", "dunlin", "bittern"}) {
        const job::Job job = demo(name);
        const auto loads = day_loads(job, parts(), job.use);
        ASSERT_TRUE(loads);
        for (std::uint64_t seed = 1; seed <= 4; ++seed) {
            DayPlan plan;
            plan.seed = seed;
            plan.days = 20;
            const Day seldom = live(*loads, plan);
            plan.full_record = true; // every moment is looked at
            const Day always = live(*loads, plan);
            ASSERT_EQ(seldom.clean.has_value(), always.clean.has_value());
            if (always.clean) {
                EXPECT_NEAR(seldom.clean->value(), always.clean->value(), 1e-6);
            }
            EXPECT_EQ(seldom.first_crackle, always.first_crackle);
            EXPECT_NEAR(seldom.off->value(), always.off->value(), 1e-6);
            ASSERT_EQ(seldom.marks.size(), always.marks.size());
            for (std::size_t i = 0; i < seldom.marks.size(); ++i)
                EXPECT_EQ(seldom.marks[i].kind, always.marks[i].kind);
        }
    }
}

TEST(Day, TripsWhereTheProtectionDoes) {
    job::Job job = demo("heron");
    job.parts[1].protection = "protection.5a";
    for (auto& strip : job.blades[0].strips)
        strip.rail = OhmPerMetre(0.02);
    const auto loads = day_loads(job, parts(), job.use);
    ASSERT_TRUE(loads);
    const Day day = live(*loads, {});
    ASSERT_FALSE(day.marks.empty());
    EXPECT_EQ(day.marks.front().kind, DayMark::Kind::tripped);
    EXPECT_EQ(day.marks.front().event, "clash flash");
}

TEST(ManyDays, AreTheSameOnAnyNumberOfThreads) {
    const job::Job job = demo("bittern");
    const auto loads = day_loads(job, parts(), job.use);
    ASSERT_TRUE(loads);
    const auto side_by_side = [](std::size_t count, const std::function<void(std::size_t)>& task) {
        std::atomic<std::size_t> next{0};
        std::vector<std::thread> threads;
        for (int t = 0; t < 3; ++t)
            threads.emplace_back([&] {
                for (std::size_t i = next++; i < count; i = next++)
                    task(count - 1 - i);
            });
        for (auto& t : threads)
            t.join();
    };
    const auto days = static_cast<std::size_t>(rounds(120));
    const Percentiles one = many_days(*loads, days, 7),
                      three = many_days(*loads, days, 7, side_by_side);
    EXPECT_EQ(one.clean, three.clean);
    EXPECT_EQ(one.events, three.events);
    EXPECT_EQ(one.days, days);
    EXPECT_LE(one.p10, one.p50);
    EXPECT_LE(one.p50, one.p90);
    EXPECT_NE(one.clean, many_days(*loads, days, 8).clean);
    int lived = 0;
    const auto stopped = many_days(*loads, days, 7, one_by_one, [&] { return ++lived > 5; });
    EXPECT_LT(stopped.days, days);
}

TEST(Storage, DeepSleepIsCapacityOverCurrent) {
    job::Job job = demo("heron");
    const auto s = storage_of(job, parts());
    ASSERT_TRUE(s);
    EXPECT_TRUE(s->has_kill);
    // 60 µA (1 − e^−V) of the standard board, a few µA of leaks, and self-discharge at 20 °C.
    EXPECT_NEAR(s->asleep.value(), 60e-6 * (1 - std::exp(-3.7)), 9e-6);
    const double a_day = s->asleep.value() * 24 / 3 + 0.02 / 30 * std::exp2(-0.5);
    EXPECT_NEAR(s->asleep_days * a_day, 1, 0.005);
    EXPECT_GT(s->killed_days, s->asleep_days);
    EXPECT_LT(s->killed_days, s->pulled_days);
    EXPECT_NEAR(s->pulled_days, 30 / 0.02 * std::exp2(0.5), 1e-6);
    job.use.temperature = Celsius(30);
    EXPECT_LT(storage_of(job, parts())->pulled_days, s->pulled_days);
}

TEST(Charging, TakesAsLongAsTheChargeAtThatCurrent) {
    CellFigures cell;
    cell.capacity = MilliAmpereHour(3000);
    cell.resistance = Ohm(0.02);
    const auto [first, then] = charge_minutes(cell, Ampere(1), 0, Celsius(25));
    // 43 mV over its resistances: constant current holds until OCV is 4.157 V, 97.7 % full.
    EXPECT_NEAR(first.value(), 180 * 0.977, 1);
    EXPECT_GT(then, Minute(0));
    EXPECT_LT(then, Minute(20));
    const auto [half, rest] = charge_minutes(cell, Ampere(1), 0.5, Celsius(25));
    EXPECT_NEAR((first - half).value(), 90, 0.2);
    EXPECT_NEAR(rest.value(), then.value(), 0.2);
}

TEST(Charging, WhatMustNotBeIsAFault) {
    job::Job job = demo("heron");
    auto faults = [&] {
        std::vector<std::string> ids;
        for (const auto& f : charging_of(job, parts()).faults)
            ids.push_back(f.id);
        return ids;
    };
    job.charger.clear();
    EXPECT_TRUE(charging_of(job, parts()).charger.empty());
    job.charger = "charger.bay-1a";
    EXPECT_TRUE(faults().empty());
    job.charger = "charger.jack-1a";
    EXPECT_EQ(faults(), std::vector<std::string>{"charge.no-port"});
    job::Part port;
    port.ref = "J1";
    port.type = "port.charge-2p1";
    job.parts.push_back(port);
    EXPECT_TRUE(faults().empty());
    job::find_ref(job.parts, "B1")->protection.reset();
    EXPECT_EQ(faults(), std::vector<std::string>{"charge.bare-in-hilt"});
    job::find_ref(job.parts, "B1")->protection = "protection.8a";
    job.charger = "charger.jack-2s-1a";
    EXPECT_EQ(faults(), std::vector<std::string>{"charge.cells"});
    job.charger = "charger.bays-2a";
    EXPECT_TRUE(faults().empty()) << "2 A into a cell that is rated for 3";
    job::fit_type("B1", "cell.18350")(job);
    EXPECT_EQ(faults(), std::vector<std::string>{"charge.too-fast"});
    job::fit_type("B1", "cell.18650-capacity")(job);
    job.charger = "charger.bay-0a5"; // 3500 mAh at 0.5 A: its timer ends first
    EXPECT_EQ(faults(), std::vector<std::string>{"charge.timer"});
}

TEST(Cap, IsWhatRunsJustAsLong) {
    for (const char* name : {"heron", "bittern", "dunlin"}) {
        job::Job job = demo(name);
        const double now = run_down(job, parts())->clean().value();
        for (const double times : {1.2, 2.0}) {
            const auto cap = cap_for(job, parts(), Minute(now * times));
            ASSERT_TRUE(cap) << cap.error().text();
            ASSERT_TRUE(cap->reached) << name;
            job::Job with = job;
            cap->edit(with);
            const double then = run_down(with, parts())->clean().value();
            EXPECT_NEAR(then / (now * times), 1, 0.002) << name << " × " << times;
            EXPECT_NEAR(then, cap->clean.value(), 1e-9);
            EXPECT_LT(cap->cap, cap->now);
        }
        const auto never = cap_for(job, parts(), Minute(9000));
        EXPECT_FALSE(never->reached);
        EXPECT_FALSE(never->in_the_way.empty());
        const auto at_once = cap_for(job, parts(), Minute(1));
        EXPECT_EQ(at_once->cap, 1);
    }
}

} // namespace
} // namespace conductus::power
