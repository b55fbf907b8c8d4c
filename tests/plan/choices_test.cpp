// SPDX-License-Identifier: GPL-3.0-or-later
// Options and why: every choice against the job built that way, the best against each other, and
// sensitivities against the analysis of a job changed by hand.
#include "core/plan/analyse.h"
#include "core/plan/answers.h"
#include "core/plan/choices.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/plan/use_study.h"
#include "core/plan/why.h"
#include "support/fixtures.h"

namespace conductus::plan {
namespace {

using namespace test;

Plan figures_of_demo(const char* name) {
    return analyse_figures(std::make_shared<const job::Job>(demo(name)), shared_parts());
}

TEST(Choices, AreWhatTheJobBuiltThatWaySays) {
    const Plan plan = figures_of_demo("heron");
    const auto choices = choices_of(plan);
    ASSERT_TRUE(choices) << choices.error().text();
    ASSERT_GT(choices->all.size(), 100u);
    const Choice& now = choices->all.front();
    ASSERT_TRUE(now.fitted);
    EXPECT_NEAR(now.clean.value(), plan.run->clean().value(), 1e-6);
    EXPECT_EQ(now.light, 1);
    EXPECT_EQ(now.spares + 1, *plan.figure("cells-per-day")->value);
    std::mt19937 random(63);
    for (int i = 0; i < rounds(40); ++i) {
        const Choice& c = choices->all[std::uniform_int_distribution<std::size_t>(
            0, choices->all.size() - 1)(random)];
        job::Job job = demo("heron");
        take_choice(parts(), c)(job);
        const auto valid = job::validate(job, parts());
        ASSERT_TRUE(valid) << valid.error().text();
        const auto run = power::run_down(job, parts());
        ASSERT_TRUE(run);
        // What stands ahead of the curves is the same as what stands in the network.
        EXPECT_NEAR(c.clean.value(), run->clean().value(), 8e-3 * run->off.value());
        // A board that hovers just over its cut-off makes a millivolt a percent of the time.
        EXPECT_NEAR(c.off / run->off, 1, 2e-2)
            << c.cell << " " << c.adapter << " " << c.protection << " " << c.strip << " " << c.cap
            << " " << run->off_because << " " << run->off.value();
        EXPECT_NEAR(c.margin.value(), (run->samples.front().board_peak - run->need).value(), 1e-3);
        const hilt::Fit fit = hilt::fit(job, parts());
        EXPECT_GE(fit.tightest()->spare, job.hilt.clearance - Millimetre(1e-9))
            << c.cell << " " << c.adapter << " " << c.protection << " " << c.speaker << " "
            << c.kill;
    }
}

TEST(Choices, TheBestAreThoseThatNothingBeats) {
    const auto choices = choices_of(figures_of_demo("dunlin"));
    ASSERT_TRUE(choices);
    auto beats = [](const Choice& a, const Choice& b) {
        bool better = false;
        for (const Axis axis : axes) {
            const double sign = more_is_better(axis) ? 1 : -1;
            const double x = sign * value_of(a, axis), y = sign * value_of(b, axis);
            const double hair =
                axis == Axis::loudness ? 0.5 : 0.02 * std::max(std::abs(x), std::abs(y)) + 1e-9;
            if (x < y - hair) return false;
            better |= x > y + hair;
        }
        return better;
    };
    int best = 0;
    for (const Choice& c : choices->all) {
        if (!c.covers || c.overloaded) {
            EXPECT_FALSE(c.best);
            continue;
        }
        const bool beaten =
            std::any_of(choices->all.begin(), choices->all.end(),
                        [&](const Choice& o) { return o.covers && !o.overloaded && beats(o, c); });
        EXPECT_EQ(c.best, !beaten);
        best += c.best;
    }
    EXPECT_GT(best, 3);
    for (const auto& g : choices->gives_up)
        EXPECT_FALSE(choices->all[g.choice].fitted);
}

TEST(Choices, WaysToALongerRuntimeLeadThere) {
    job::Job job = demo("heron");
    job.use.clean = Minute(90);
    const Plan plan = analyse_figures(std::make_shared<const job::Job>(job), shared_parts());
    const auto choices = choices_of(plan);
    ASSERT_TRUE(choices);
    ASSERT_GE(choices->reach.size(), 2u); // the cap, and something that is changed
    EXPECT_NE(choices->reach.front().text.english().find("capped at"), std::string::npos);
    for (const Reach& r : choices->reach) {
        EXPECT_GE(r.clean, Minute(89.9)) << r.text;
        if (!r.edit) continue;
        job::Job with = job;
        (*r.edit)(with);
        EXPECT_GE(power::run_down(with, parts())->clean(), Minute(89.9)) << r.text;
    }
    job.use.clean = Minute(20); // it runs that long as it is
    EXPECT_TRUE(choices_of(analyse_figures(std::make_shared<const job::Job>(job), shared_parts()))
                    ->reach.empty());
}

TEST(Choices, ACellThatIsALittleTooWideAsksForABoredSection) {
    job::Job job = demo("heron");
    job::Job wider = job;
    job::fit_cells("cell.26650", "", parts())(wider);
    job.use.clean = Minute(power::run_down(wider, parts())->clean().value() - 0.5);
    const auto choices =
        choices_of(analyse_figures(std::make_shared<const job::Job>(job), shared_parts()));
    ASSERT_TRUE(choices);
    const auto bored =
        std::find_if(choices->reach.begin(), choices->reach.end(), [](const Reach& r) {
            return r.text.english().find("26650") != std::string::npos && !r.edit;
        });
    ASSERT_NE(bored, choices->reach.end());
    EXPECT_GE(bored->clean, job.use.clean);
    const std::string found = bored->text.english();
    double by = 0;
    char section[32] = {};
    ASSERT_EQ(
        std::sscanf(found.c_str() + found.find(" if ") + 4, "%31s is bored %lf", section, &by), 2)
        << found;
    // Bored so much wider it fits; a tenth less, and it does not.
    for (const double much : {by, by - 0.1}) {
        job::Job with = job;
        for (job::BoreSection& s : with.hilt.sections)
            if (s.name == section) s.bore += Millimetre(much);
        const auto trial = hilt::try_cells(with, parts(), "cell.26650", "");
        EXPECT_EQ(trial.trial.clearance.spare >= job.hilt.clearance - Millimetre(1e-9), much == by)
            << much;
    }
}

TEST(Choices, CanBeStoppedAndTellHowFarTheyAre) {
    const Plan plan = figures_of_demo("heron");
    std::size_t told = 0, of = 0;
    const auto choices = choices_of(
        plan, one_by_one, [&] { return told >= 3; },
        [&](std::size_t done, std::size_t all) { told = done, of = all; });
    ASSERT_TRUE(choices);
    EXPECT_FALSE(choices->whole);
    EXPECT_EQ(told, 3u);
    EXPECT_GT(of, 10u);
    EXPECT_FALSE(choices->all.empty());
}

TEST(Choices, TwoCellsAreChangedTogether) {
    const Plan plan = figures_of_demo("godwit");
    const auto choices = choices_of(plan);
    ASSERT_TRUE(choices) << choices.error().text();
    for (const Choice& c : choices->all) {
        job::Job job = demo("godwit");
        take_choice(parts(), c)(job);
        EXPECT_EQ(job::find_ref(job.parts, "B1")->type, job::find_ref(job.parts, "B2")->type);
        const hilt::Fit fit = hilt::fit(job, parts());
        EXPECT_GE(fit.tightest()->spare, job.hilt.clearance - Millimetre(1e-9)) << c.cell;
        // An LED string's light is in proportion to what flows, a little less than the cap.
        EXPECT_NEAR(c.light, c.cap, 0.1) << c.cap;
    }
}

TEST(Why, EveryFigureOpensIntoPartsAndItsTenthsAreThoseOfTheJobChanged) {
    const Plan plan = figures_of_demo("heron");
    for (const std::string& id : figures_to_ask()) {
        const auto w = why(plan, id);
        ASSERT_TRUE(w) << id << ": " << w.error().text();
        EXPECT_FALSE(w->figure.parts.empty()) << id;
        EXPECT_FALSE(w->figure.formula.empty()) << id;
        for (std::size_t i = 1; i < w->by.size(); ++i)
            EXPECT_LE(std::abs(w->by[i].change), std::abs(w->by[i - 1].change)) << id;
    }
    const auto w = why(plan, "first-crackle");
    auto change = [&](const std::string& input) {
        for (const Sensitivity& s : w->by)
            if (s.input == input) return s.change;
        ADD_FAILURE() << input;
        return 0.0;
    };
    job::Job more = demo("heron");
    job::find_ref(more.parts, "B1")->measured.capacity = MilliAmpereHour(3300);
    const double then = power::run_down(more, parts())->clean().value();
    EXPECT_NEAR(change("capacity of B1"), then - plan.run->clean().value(), 1e-6);
    EXPECT_LT(change("pixels"), 0);
    EXPECT_LT(change("brightness of Tidewater"), 0); // dimmed by a tenth, and the sign turned
    const auto none = why(plan, "first-crakle");
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().mend.english().find("first-crackle"), std::string::npos);
}

TEST(UseStudy, AMomentIsTheNetworkWithTheCellsAsTheyAreThen) {
    const Plan plan = figures_of_demo("heron");
    const auto study = use_study(*plan.job, parts(), {Celsius(0), Celsius(30)});
    ASSERT_TRUE(study);
    ASSERT_EQ(study->at.size(), 2u);
    // Cold, resistance rises by more than half: less is drawn, and the crackle comes at more
    // charge.
    EXPECT_GT(study->at[0].run.clean_charge, study->at[1].run.clean_charge);
    int seen = 0;
    for (std::size_t i = 0; i < study->day.samples.size(); i += 97) {
        const power::DaySample& s = study->day.samples[i];
        double white = 0;
        const auto view = moment_of(plan, *study, s, white);
        ASSERT_TRUE(view) << view.error().text();
        if (!s.lit || s.effect >= 0) continue;
        ++seen; // a steady look: what the curve told is what the network solves
        EXPECT_NEAR(view->board.value(), s.board.value(), 1.5e-3);
        EXPECT_NEAR(view->last_pixel.value(), s.pixel.value(), 2e-3);
        EXPECT_NEAR(view->amps.value(), s.amps.value(), 0.01);
    }
    EXPECT_GT(seen, 3);
}

TEST(UseStudy, SparesFollowFromDaysAndNights) {
    const Plan plan = figures_of_demo("heron");
    auto study = use_study(*plan.job, parts(), {});
    ASSERT_TRUE(study);
    const int a_day = study->swapped.cells;
    EXPECT_GT(a_day, 1);
    EXPECT_EQ(spares_for(*study, 3, false, 1).sets, 3 * a_day);
    const Spares nightly = spares_for(*study, 3, true, 1);
    EXPECT_EQ(nightly.sets, a_day);
    EXPECT_NEAR(nightly.overnight / nightly.charging, a_day, 1e-9);
    EXPECT_NEAR(spares_for(*study, 3, true, a_day).overnight / nightly.charging, 1, 1e-9);
}

} // namespace
} // namespace conductus::plan
