// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/message_format.h"
#include "core/plan/analyse.h"
#include "core/plan/answers.h"
#include "core/plan/plan.h"

#include <cmath>
#include <fmt/format.h>

#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/plan/pixel_seen.h"
#include "core/power/cell_model.h"
#include "core/power/state.h"
#include "support/fixtures.h"

namespace conductus::plan {
namespace {

using namespace test;

TEST(Plan, HasTheEightFiguresInOrder) {
    const std::vector<std::string> ids{"peak-current",  "board-sag",   "tip-brightness",
                                       "first-crackle", "dim",         "cells-per-day",
                                       "tightest-fit",  "hottest-part"};
    for (const char* name : {"heron", "dunlin"}) {
        const Plan plan = plan_of(demo(name));
        ASSERT_EQ(plan.figures.size(), ids.size());
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const Explained& e = plan.figures[i];
            EXPECT_EQ(e.id, ids[i]);
            ASSERT_TRUE(e.value) << e.id << " " << e.reason;
            EXPECT_TRUE(std::isfinite(*e.value));
            EXPECT_FALSE(e.formula.empty()) << e.id;
            EXPECT_FALSE(e.parts.empty()) << e.id;
            EXPECT_FALSE(e.label.empty()) << e.id;
            for (const Contribution& c : e.parts)
                EXPECT_FALSE(c.source.empty()) << e.id << " " << c.label;
        }
    }
}

/// What a person reads of a plan, to hold one against another.
std::string told(const Plan& plan) {
    std::string all;
    for (const Explained& e : plan.figures) {
        all += fmt::format("{} {} {}\n", e.id, e.label, e.value.value_or(-1));
        for (const Contribution& c : e.parts)
            all += fmt::format("  {} {}\n", c.label, c.value);
    }
    for (const auto& f : plan.findings)
        all += f.id + " " + f.text.english() + " " + f.detail.english() + "\n";
    for (const auto* list : {&plan.looks, &plan.effects})
        for (const LookPlan& l : *list) {
            all += fmt::format("{} {} {}\n", l.name, l.mean.value(), l.peak.value());
            for (const View& v : l.views)
                all += fmt::format("  {} {} {} {}\n", v.amps.value(), v.tip, v.tint_shift,
                                   v.blades.size());
            for (const auto& h : l.heat)
                all += fmt::format("  {} {}\n", h.ref, h.temperature.value());
        }
    for (const Load& l : plan.lights.loads)
        all += fmt::format("{} {} {}\n", l.ref, l.most.value(), l.in);
    if (plan.run) all += fmt::format("{} {}\n", plan.run->off.value(), plan.run->clean().value());
    for (const auto& h : plan.heat)
        all += fmt::format("{} {}\n", h.ref, h.temperature.value());
    return all;
}

TEST(Plan, WhatIsTakenFromThePlanBeforeIsWhatWouldBeSolvedAnew) {
    const std::vector<std::pair<const char*, job::Edit>> edits{
        {"colour", [](job::Job& j) { j.looks.back().colour.green = 0.33; }},
        {"the use's look", [](job::Job& j) { j.looks.front().colour.blue = 0.2; }},
        {"style", [](job::Job& j) { j.looks[1].style = job::Style::pulse; }},
        {"another look used", [](job::Job& j) { j.use.look = j.looks.back().name; }},
        {"name", [](job::Job& j) { j.looks.back().name = "Another"; }},
        {"order", [](job::Job& j) { std::swap(j.looks[1], j.looks[2]); }},
        {"one less", [](job::Job& j) { j.looks.pop_back(); }},
        {"effect", [](job::Job& j) { j.effects.front().lasts = Second(0.4); }},
        {"no effects", [](job::Job& j) { j.effects.clear(); }},
        {"volume", [](job::Job& j) { j.use.volume = 0.2; }},
        {"temperature", [](job::Job& j) { j.use.temperature = Celsius(5); }},
        {"gauge", [](job::Job& j) { j.wires.front().gauge = 30; }},
        {"programmed",
         [](job::Job& j) {
             j.lines = {{"U1.d1", 60}};
         }},
        {"measured", [](job::Job& j) { j.parts.front().measured.resistance = Ohm(0.09); }},
        {"nothing", [](job::Job&) {}}};
    for (const char* name : {"heron", "bittern", "godwit"}) {
        const auto base = std::make_shared<const job::Job>(demo(name));
        const Plan before = analyse_figures(base, shared_parts());
        for (const auto& [what, edit] : edits) {
            auto next = std::make_shared<job::Job>(*base);
            edit(*next);
            const Plan anew = analyse_figures(next, shared_parts());
            const Plan kept = analyse_figures(next, shared_parts(), &before);
            EXPECT_EQ(told(kept), told(anew)) << name << ", " << what;
        }
        // Dragging one look solves that look, not its neighbours.
        auto next = std::make_shared<job::Job>(*base);
        next->looks.back().cap = 0.5;
        const Plan kept = analyse_figures(next, shared_parts(), &before);
        EXPECT_EQ(kept.looks.front().fresh, before.looks.front().fresh);
        EXPECT_NE(kept.looks.back().fresh, before.looks.back().fresh);
    }
}

TEST(PixelSeen, RunsFromTheFootToWhatTheViewSaysOfTheTip) {
    const Plan heron = plan_of(demo("heron"));
    const LookPlan& look = *heron.look("Moonrise");
    for (const Charge charge : {full, half, low}) {
        const View& view = look.views[charge];
        const std::size_t n = view.pixel_volts.size();
        const auto foot = pixel_seen(heron, look, charge, 0, 0);
        const auto tip = pixel_seen(heron, look, charge, 0, n - 1);
        ASSERT_TRUE(foot && tip);
        EXPECT_EQ(foot->brightness, 1);
        EXPECT_EQ(foot->tint_shift, 0);
        EXPECT_NEAR(tip->brightness, view.tip, 1e-12);
        EXPECT_NEAR(tip->tint_shift, view.tint_shift, 1e-12);
        EXPECT_EQ(tip->volts, view.last_pixel);
        // Neither brightness nor amps grow on the way.
        for (std::size_t k = 1; k < n; ++k) {
            const auto here = pixel_seen(heron, look, charge, 0, k);
            const auto before = pixel_seen(heron, look, charge, 0, k - 1);
            EXPECT_LE(here->brightness, before->brightness + 1e-12);
            EXPECT_LE(here->amps, before->amps);
        }
        EXPECT_FALSE(pixel_seen(heron, look, charge, 0, n));
        EXPECT_FALSE(pixel_seen(heron, look, charge, 1, 0));
    }
}

TEST(Plan, TasksInAnyOrderGiveTheSamePlan) {
    const auto job = std::make_shared<const job::Job>(demo("heron"));
    const ParallelFor backward = [](std::size_t n, const std::function<void(std::size_t)>& task) {
        while (n-- > 0)
            task(n);
    };
    EXPECT_EQ(told(analyse_figures(job, shared_parts(), nullptr, backward)),
              told(analyse_figures(job, shared_parts())));
    Plan one = analyse_figures(job, shared_parts()), other = one;
    ASSERT_TRUE(add_options(one) && add_options(other, {}, backward));
    ASSERT_EQ(one.options.size(), other.options.size());
    for (std::size_t i = 0; i < one.options.size(); ++i) {
        EXPECT_EQ(one.options[i].type, other.options[i].type);
        EXPECT_EQ(one.options[i].off, other.options[i].off);
    }
}

TEST(Plan, FiguresMeanWhatTheySay) {
    const job::Job job = demo("heron");
    const Plan plan = plan_of(job);
    double most = 0, lowest = 9, dimmest = 9;
    auto amps_of = [&](const power::State& state, double& board) {
        const auto n = power::network_of(job, parts(), state);
        const auto p = circuit::solve(*n);
        board = p->volts[n->sinks[0].plus] - p->volts[n->sinks[0].minus];
        return p->source_amps[0];
    };
    double board = 0;
    for (const auto& look : job.looks) {
        most = std::max(most, amps_of({look, {}, {}, power::Loudness::hum, 1}, board));
        lowest = std::min(lowest, board);
        dimmest = std::min(dimmest, plan.look(look.name)->views[half].tip);
    }
    for (const auto& effect : job.effects) {
        most = std::max(most, amps_of({job.looks[0], effect, {}, power::Loudness::peak, 1}, board));
        lowest = std::min(lowest, board);
    }
    EXPECT_NEAR(*plan.figure("peak-current")->value, most, 1e-7);
    EXPECT_NEAR(*plan.figure("board-sag")->value, 4.18 - lowest, 1e-7);
    EXPECT_NEAR(*plan.figure("tip-brightness")->value, dimmest * 100, 1e-7);
    EXPECT_NEAR(*plan.figure("first-crackle")->value, plan.run->clean().value(), 1e-9);
    EXPECT_NEAR(*plan.figure("dim")->value, plan.run->bright().value(), 1e-9);
    EXPECT_EQ(*plan.figure("cells-per-day")->value,
              std::ceil(*plan.figure("cells-per-day")->value));
    EXPECT_EQ(plan.figure("nonsense"), nullptr);
}

TEST(Plan, PeakCurrentIsTheSumOfItsParts) {
    const Plan plan = plan_of(demo("heron"));
    const Explained* e = plan.figure("peak-current");
    double sum = 0;
    for (const auto& c : e->parts)
        if (c.source == "solved network") sum += c.value;
    EXPECT_NEAR(sum, *e->value, 1e-6);
}

TEST(Plan, VoltStepsTelescope) {
    for (const char* name : {"heron", "dunlin"}) {
        const Plan plan = plan_of(demo(name));
        for (const auto& look : plan.looks)
            for (const View& view : look.views) {
                double volts = power::open_circuit(view.charge).value();
                for (const VoltStep& step : view.steps)
                    volts -= step.drop.value();
                EXPECT_NEAR(volts, view.last_pixel.value(), 1e-6) << look.name;
            }
    }
}

TEST(Plan, VoltStepsOfCellsInARowTelescopeToTheLed) {
    const Plan plan = plan_of(demo("godwit"));
    for (const auto& look : plan.looks) {
        const auto& fresh = *look.fresh;
        double most = 0, across = 0;
        for (std::size_t i = 0; i < fresh.network.diodes.size(); ++i)
            if (const auto& d = fresh.network.diodes[i]; fresh.point.diode_amps[i] > most) {
                most = fresh.point.diode_amps[i];
                across = fresh.point.volts[d.plus] - fresh.point.volts[d.minus];
            }
        ASSERT_GT(most, 0);
        double volts = 2 * power::open_circuit(1).value();
        for (const VoltStep& step : look.views[0].steps)
            volts -= step.drop.value();
        EXPECT_NEAR(volts, across, 1e-6) << look.name;
        EXPECT_NEAR(look.views[0].across_led.value(), across, 1e-9);
    }
}

TEST(Plan, LowerChargeIsNeverBrighter) {
    const Plan plan = plan_of(demo("heron"));
    for (const auto& look : plan.looks) {
        EXPECT_LE(look.mean.value(), look.peak.value() + 1e-12);
        for (std::size_t i = 1; i < look.views.size(); ++i) {
            EXPECT_LT(look.views[i].last_pixel, look.views[i - 1].last_pixel);
            EXPECT_LT(look.views[i].board, look.views[i - 1].board);
        }
    }
}

TEST(Plan, OptionsAreTheFittedCellFirstThenWhatFits) {
    const Plan plan = plan_of(demo("heron"));
    ASSERT_EQ(plan.options.size(), parts().all<catalogue::Cell>().size());
    EXPECT_TRUE(plan.options[0].fitted);
    EXPECT_EQ(plan.options[0].clean, plan.run->clean());
    bool fits = true;
    for (std::size_t i = 1; i < plan.options.size(); ++i) {
        EXPECT_FALSE(plan.options[i].fitted);
        EXPECT_TRUE(fits || !plan.options[i].fits) << "those that fit come first";
        fits = plan.options[i].fits;
        EXPECT_FALSE(plan.options[i].remark.empty());
    }
}

TEST(Plan, AnOptionIsWhatThePlanSaysOnceFitted) {
    const job::Job heron = demo("heron");
    const Plan plan = plan_of(heron);
    for (const CellOption& option : plan.options) {
        job::Job with = heron;
        fit_option(parts(), option)(with);
        const Plan after = plan_of(with);
        EXPECT_NEAR(after.run->clean().value(), option.clean.value(), 1e-9) << option.name;
        EXPECT_NEAR(after.run->off.value(), option.off.value(), 1e-9);
        EXPECT_NEAR(after.fit.of("B1")->spare.value(), option.clearance.spare.value(), 1e-9);
    }
}

TEST(Plan, TheSameJobGivesTheSamePlan) {
    const Plan a = plan_of(demo("heron")), b = plan_of(demo("heron"));
    for (std::size_t i = 0; i < a.figures.size(); ++i)
        EXPECT_EQ(a.figures[i].value, b.figures[i].value);
}

TEST(Plan, WhatCanNotBeComputedSaysWhy) {
    job::Job job = demo("heron");
    job.wires.clear();
    const Plan plan = plan_of(job);
    ASSERT_TRUE(plan.trouble);
    for (const Explained& e : plan.figures) {
        if (e.id == "tightest-fit") {
            EXPECT_TRUE(e.value);
            continue;
        }
        EXPECT_FALSE(e.value) << e.id;
        EXPECT_FALSE(e.reason.empty()) << e.id;
    }
    job.hilt.sections.clear();
    job.looks.clear();
    job.use.look.clear();
    const Plan bare = plan_of(job);
    EXPECT_FALSE(bare.figure("tightest-fit")->value);
    EXPECT_FALSE(bare.figure("tightest-fit")->reason.empty());
}

TEST(Plan, AnyValidJobIsAnalysed) {
    std::mt19937 random(31);
    for (int i = 0; i < rounds(60); ++i) {
        const Plan plan = plan_of(random_job(random));
        EXPECT_FALSE(plan.trouble) << plan.trouble->text();
        for (const Explained& e : plan.figures) {
            if (e.value) {
                EXPECT_TRUE(std::isfinite(*e.value)) << e.id;
            } else {
                EXPECT_FALSE(e.reason.empty()) << e.id;
            }
        }
    }
}

TEST(Plan, ABlankJobIsAnalysed) {
    job::Job job;
    job.name = "blank";
    const Plan plan = plan_of(job);
    EXPECT_TRUE(plan.trouble);
    EXPECT_EQ(plan.figures.size(), 8u);
}

TEST(Loads, EachWhereItDrawsMost) {
    const plan::Plan bittern = plan_of(demo("bittern"));
    ASSERT_EQ(bittern.lights.loads.size(), 6u);
    for (const Load& l : bittern.lights.loads) {
        EXPECT_EQ(l.kind, Load::Kind::strip);
        EXPECT_EQ(l.line, "U1.d1");
        EXPECT_GT(l.most, Ampere(0));
        EXPECT_GT(l.across, Volt(3));
        EXPECT_FALSE(l.in.empty());
        ASSERT_TRUE(l.hottest);
    }
    EXPECT_EQ(bittern.lights.loads[0].pads, "l1, l2"); // its return is shared between two
    EXPECT_EQ(bittern.lights.loads[2].pads, "l3");
    const plan::Plan led = plan_of(job::with_variant(demo("curlew"), 0));
    ASSERT_EQ(led.lights.loads.size(), 1u);
    EXPECT_EQ(led.lights.loads[0].kind, Load::Kind::led);
    EXPECT_EQ(led.lights.loads[0].pads, "l1, l2, l3, l4");
}

TEST(Options, StoppedInBetweenTheyAreNotWhole) {
    const auto job = std::make_shared<const job::Job>(demo("heron"));
    plan::Plan plan = analyse_figures(job, shared_parts());
    int asked = 0;
    EXPECT_FALSE(add_options(plan, [&] { return ++asked > 3; }));
    EXPECT_LE(plan.options.size(), 3u);
    plan::Plan whole = analyse_figures(job, shared_parts());
    EXPECT_TRUE(add_options(whole));
    EXPECT_EQ(whole.lights.what_ifs.size(), job->looks.size());
}

} // namespace
} // namespace conductus::plan
