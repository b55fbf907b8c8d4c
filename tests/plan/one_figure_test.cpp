// SPDX-License-Identifier: GPL-3.0-or-later
// One thing, one figure: whatever two answers give of the same thing is the same, on random jobs.
#include <cmath>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/plan/analyse.h"
#include "core/plan/answers.h"
#include "core/plan/figures.h"
#include "core/plan/why.h"
#include "core/power/day_run.h"
#include "core/power/film.h"
#include "core/power/peaks.h"
#include "support/fixtures.h"
#include "support/lit_jobs.h"

namespace conductus::plan {
namespace {

using namespace test;

struct State {
    circuit::Network network;
    circuit::OperatingPoint point;
    [[nodiscard]] double amps() const { return circuit::pack_amps(network, point); }
    [[nodiscard]] std::optional<double> board() const {
        if (network.sinks.empty()) return std::nullopt;
        const auto& s = network.sinks.front();
        return point.volts[s.plus] - point.volts[s.minus];
    }
};

/// As `solve JOB --state NAME` solves it.
std::optional<State> solve_command(const job::Job& job, const std::string& name,
                                   const std::string& look, double charge) {
    const auto state = power::state_named(job, parts(), name, look, charge);
    if (!state) return std::nullopt;
    auto network = power::network_of(job, parts(), *state);
    if (!network) return std::nullopt;
    auto point = circuit::solve(*network);
    if (!point) return std::nullopt;
    return State{std::move(*network), std::move(*point)};
}

void expect_one(double a, double b, double share, const std::string& what) {
    EXPECT_NEAR(a, b, share * std::max(std::abs(a), std::abs(b)) + 1e-7) << what;
}

/// Everything that two answers give of a job, with what is mated in its sockets.
void compare(const job::Job& whole, const std::string& name) {
    const Plan plan = analyse_figures(std::make_shared<const job::Job>(whole), shared_parts());
    if (plan.trouble) return; // told once, by all
    const job::Job& job = *plan.job;
    const std::string in = " in " + name;

    // The worst of the job: figure, solve, findings, harness.
    const auto worst = solve_command(job, "worst", {}, 1);
    ASSERT_TRUE(worst) << name;
    expect_one(*plan.figure("peak-current")->value, worst->amps(), 1e-6, "peak" + in);
    expect_one(plan.largest()->cell_amps(), worst->amps(), 1e-6, "largest" + in);
    // What volts depend on the current of one pack.
    if (plan.figure("board-sag")->value && worst->board()) {
        EXPECT_GE(*plan.figure("board-sag")->value + 1e-6,
                  open_at_board(worst->network) - *worst->board())
            << "sag" << in;
    }

    // Each look: the plan (and so `lights`), solve, and the mean over its film.
    for (const LookPlan& look : plan.looks) {
        const auto at = solve_command(job, look.name, {}, 1);
        ASSERT_TRUE(at) << name;
        expect_one(look.peak.value(), at->amps(), 1e-6, look.name + in);
        expect_one(look.views[full].amps.value(), at->amps(), 1e-6, look.name + in);
        if (const auto board = at->board(); board && look.views[full].board != Volt(0)) {
            EXPECT_NEAR(look.views[full].board.value(), *board, 1e-6) << look.name << in;
        }
        const power::State film{*job::find_name(job.looks, look.name)};
        expect_one(look.mean.value(), power::mean_amps(job, parts(), film)->value(), 1e-6,
                   "mean of " + look.name + in);
        EXPECT_LE(look.mean.value(), look.peak.value() * 1.001 + 1e-9) << look.name << in;
        EXPECT_LE(look.peak.value(), worst->amps() * 1.000001) << look.name << in;
    }
    for (const LookPlan& effect : plan.effects) {
        const auto at = solve_command(job, effect.name, {}, 1);
        ASSERT_TRUE(at) << name;
        // Of effects the largest of their instants counts as well.
        EXPECT_GE(effect.peak.value(), at->amps() - 1e-6) << effect.name << in;
        EXPECT_LE(effect.views[full].amps.value(), worst->amps() * 1.000001) << effect.name << in;
    }

    // The run-down, the day, and what `runtime` and `discharge` read of them, begin as solved.
    ASSERT_TRUE(plan.run);
    const power::Discharge& run = *plan.run;
    EXPECT_EQ(*plan.figure("first-crackle")->value, run.clean().value());
    EXPECT_EQ(*plan.figure("dim")->value, run.bright().value());
    const auto loads = power::loads_of(job, parts(), job.use, power::Wanted::worst);
    ASSERT_TRUE(loads) << name;
    const power::UseLoads& use = **loads;
    const auto look = power::look_named(job, job.use.look);
    const auto loudest = power::most_of_look(job, parts(), {*look});
    const auto n = power::network_of(job, parts(), *loudest);
    const auto p = circuit::solve(*n);
    ASSERT_TRUE(p) << name;
    const State peak{*n, *p};
    EXPECT_EQ(run.peak_event, loudest->effect ? loudest->effect->name : loudest->look.name);
    const bool mixed = use.pack.kind == power::Pack::Kind::mixed;
    if (!mixed) expect_one(run.peak.value(), peak.amps(), 6e-3, "peak of the run" + in);
    if (const auto board = peak.board(); board && !mixed && *board > 2.2) {
        // Where a capacitor bridges the peak, it stands higher.
        EXPECT_GE(run.samples.front().board_peak.value(), *board - 4e-3) << name;
    }
    const LookPlan& used = *plan.look(look->name);
    if (job.effects.empty() && !mixed)
        expect_one(run.samples.front().amps.value(), used.mean.value(), 8e-3,
                   "mean of the run" + in);
    if (used.views[full].foot_tint) {
        // A tip that is all but dark is read off to a few percent of the foot.
        EXPECT_NEAR(run.samples.front().tip, used.views[full].tip, 0.04) << name;
    }

    // The cell's warmth: gauge, looks, and the discharge.
    for (std::size_t i = 0; i < run.hottest.size(); ++i) {
        const auto* heat = job::find_ref(plan.heat, use.cell_refs[i]);
        ASSERT_TRUE(heat);
        EXPECT_EQ(heat->temperature, run.hottest[i]) << name;
        double warmest = -273;
        for (const power::Sample& s : run.samples)
            warmest = std::max(warmest, s.warmth.value());
        EXPECT_LE(heat->temperature.value(), warmest + 1e-9);
    }
    if (plan.figure("hottest-part")->value) {
        EXPECT_EQ(*plan.figure("hottest-part")->value, plan.heat.front().temperature.value());
    }

    // What opens: the run, the gauge, and a finding that stops.
    if (run.tripped) {
        EXPECT_FALSE(plan.figure("cells-per-day")->value) << name;
        const auto says = [&](const findings::Finding& f) {
            // Of cells in a row that carry alike any may be named.
            if (f.id == "cell.protection-trips" &&
                job::find_ref(job.parts, run.tripped->ref)->protection)
                return true;
            return f.severity == findings::Severity::stop &&
                   std::find(f.where.begin(), f.where.end(), run.tripped->ref) != f.where.end();
        };
        bool told = false;
        for (const findings::Finding& f : plan.findings) {
            told |= says(f);
            for (const findings::Finding& more : f.follows)
                told |= says(more);
        }
        EXPECT_TRUE(told) << run.tripped->why << in;
    }

    // Wires: the table, and the states it is drawn from.
    for (const harness::WireRow& w : plan.harness.wires) {
        if (w.state == "charging" || w.state == "sound peak") continue;
        double most = 0;
        for (const findings::SolvedPtr& s : plan.fresh)
            most = std::max(most, s->amps_of(w.ref));
        EXPECT_EQ(w.amps.value(), most) << w.ref << in;
        EXPECT_LE(w.rise.value(), w.rise_held.value() + 1e-9) << w.ref << in;
    }

    // Storage, percent, and what the brief agrees on.
    const auto storage = power::storage_of(job, parts());
    ASSERT_TRUE(storage && plan.storage);
    EXPECT_EQ(storage->asleep_days, plan.storage->asleep_days);
    ASSERT_FALSE(plan.percents.empty());
    const power::Percent percent = power::percent_of(look->name, power::run_down(use));
    EXPECT_EQ(percent.crackle, plan.percents.front().crackle) << name;
    if (percent.crackle) {
        EXPECT_EQ(*percent.crackle, run.clean_charge) << name;
    }
    for (const Measure& m : measures(plan))
        if (const Explained* figure = plan.figure(m.id)) {
            EXPECT_EQ(m.value, figure->value) << m.id;
        }
}

TEST(Figures, WhateverTwoAnswersGiveOfADemoJobIsTheSame) {
    for (const char* name : demo_jobs)
        compare(demo(name), name);
}

/// In shares, so that they can be tried side by side.
class OneFigure : public testing::TestWithParam<unsigned> {};

TEST_P(OneFigure, WhateverTwoAnswersGiveOfARandomJobIsTheSame) {
    std::mt19937 random(500 + GetParam());
    for (int i = 0; i < rounds(125) && !HasFatalFailure(); ++i) {
        job::Job job = random_lit_job(random);
        job.variants.clear();
        compare(job, job.name + " " + std::to_string(i));
    }
}

INSTANTIATE_TEST_SUITE_P(Random, OneFigure, testing::Range(0u, 4u));

TEST(Figures, WhyTellsTheFigureItExplains) {
    for (const char* name : {"heron", "dunlin"}) {
        const Plan planned =
            analyse_figures(std::make_shared<const job::Job>(demo(name)), shared_parts());
        for (const Explained& figure : planned.figures) {
            if (!figure.value) continue;
            const auto told = plan::why(planned, figure.id);
            ASSERT_TRUE(told) << figure.id;
            EXPECT_EQ(told->figure.value, figure.value) << figure.id;
        }
    }
}

} // namespace
} // namespace conductus::plan
