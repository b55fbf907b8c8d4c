// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/plan.h"

#include <cmath>

#include "core/circuit/solver.h"
#include "core/job/lookup.h"
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
        fit_option(heron, parts(), option)(with);
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

} // namespace
} // namespace conductus::plan
