// SPDX-License-Identifier: GPL-3.0-or-later
// Questions beside the plan, each against what follows from the plan itself, and what the plan says
// in sum for the drawings.
#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/lights/frame.h"
#include "core/plan/analyse.h"
#include "core/plan/answers.h"
#include "core/plan/compare.h"
#include "support/fixtures.h"

namespace conductus::plan {
namespace {

using namespace test;

const char* const demo_jobs[] = {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"};

Plan figures_for(job::Job job) {
    return analyse_figures(std::make_shared<const job::Job>(std::move(job)), shared_parts());
}

TEST(Film, OfASteadyLookStandsStillAndIsWhatThePlanSolved) {
    for (const char* name : demo_jobs) {
        const Plan plan = figures_for(demo(name));
        for (const LookPlan& look : plan.looks) {
            if (look.style != job::Style::steady) continue;
            const auto film = answer(FilmOf{look.name, look.name}, plan);
            ASSERT_TRUE(film) << name << ": " << film.error().text();
            for (const Frame& frame : film->frames) {
                EXPECT_NEAR(frame.amps.value(), look.mean.value(), 2e-3 * look.mean.value())
                    << name << ": " << look.name;
                EXPECT_EQ(frame.blades.size(), look.views[full].blades.size());
            }
            EXPECT_NEAR(film->lowest.value(), look.views[full].board.value(), 5e-3)
                << name << ": " << look.name;
        }
    }
}

TEST(Film, TellsItsOwnMeanPeakAndLeastAndRunsEvenly) {
    for (const char* name : {"heron", "bittern", "godwit"}) {
        const Plan plan = figures_for(demo(name));
        std::vector<std::string> all;
        for (const LookPlan& look : plan.looks)
            all.push_back(look.name);
        for (const LookPlan& effect : plan.effects)
            all.push_back(effect.name);
        for (const std::string& of : all) {
            const auto film = film_of(plan, of, plan.job->use.look);
            ASSERT_TRUE(film) << name << ": " << of;
            ASSERT_GE(film->frames.size(), 2u);
            double peak = 0, least = 1e9;
            for (std::size_t i = 0; i < film->frames.size(); ++i) {
                const Frame& frame = film->frames[i];
                peak = std::max(peak, frame.amps.value());
                least = std::min(least, frame.board.value());
                if (i > 0) {
                    EXPECT_NEAR(frame.seconds - film->frames[i - 1].seconds, 1 / film->rate, 1e-9);
                }
            }
            // Frames show lights on pads as they are on average; all on at once they draw more.
            if (plan.job->blades[0].strings.empty()) {
                EXPECT_NEAR(film->peak.value(), peak, 1e-9) << name << ": " << of;
                EXPECT_NEAR(film->lowest.value(), least, 1e-9) << name << ": " << of;
            } else {
                EXPECT_GE(film->peak.value(), peak - 1e-9) << name << ": " << of;
                EXPECT_LE(film->lowest.value(), least + 1e-9) << name << ": " << of;
            }
            EXPECT_LE(film->mean.value(), peak + 1e-9);
            // The same seed is the same film.
            const auto again = film_of(plan, of, plan.job->use.look);
            for (std::size_t i = 0; i < film->frames.size(); ++i)
                EXPECT_EQ(again->frames[i].amps, film->frames[i].amps);
        }
    }
}

TEST(Film, OfWhatIsNotThereIsRefused) {
    const Plan plan = figures_for(demo("heron"));
    EXPECT_FALSE(answer(FilmOf{"no such look", ""}, plan));
}

TEST(Answers, AMomentIsTheSampleOfTheDayItIsOf) {
    const Plan plan = figures_for(demo("heron"));
    const auto study = std::make_shared<const Result<UseStudy>>(answer(UseLivedThrough{}, plan));
    ASSERT_TRUE(*study);
    const auto& samples = (*study)->day.samples;
    // Lit without an effect it is the very state that the day went through.
    std::vector<std::size_t> steady;
    for (std::size_t i = 0; i + 1 < samples.size(); ++i)
        if (samples[i].lit && samples[i].effect < 0) steady.push_back(i);
    ASSERT_GT(steady.size(), 20u);
    for (const std::size_t i : {steady.front(), steady[steady.size() / 2], steady.back()}) {
        const auto view = answer(MomentOf{study, i}, plan);
        ASSERT_TRUE(view) << view.error().text();
        EXPECT_NEAR(view->board.value(), samples[i].board.value(), 0.03) << i;
        EXPECT_NEAR(view->amps.value(), samples[i].amps.value(),
                    0.05 * samples[i].amps.value() + 0.01)
            << i;
        // Whatever moment was asked for before, it is shown against the same white.
        const auto again = answer(MomentOf{study, i}, plan);
        ASSERT_EQ(again->paint.size(), view->paint.size());
        for (std::size_t k = 0; k < view->paint.size(); ++k)
            EXPECT_EQ(again->paint[k].r, view->paint[k].r);
    }
    EXPECT_FALSE(answer(MomentOf{study, samples.size()}, plan));
}

TEST(Answers, BuiltAgainstPlannedTellsWhatDiffers) {
    job::Job job = demo("heron");
    job.built.clear();
    auto told = answer(BuiltAgainstPlanned{}, figures_for(job));
    ASSERT_TRUE(told);
    EXPECT_FALSE(told->recorded);
    job.built = job.wires;
    told = answer(BuiltAgainstPlanned{}, figures_for(job));
    EXPECT_TRUE(told->recorded && told->same);
    EXPECT_TRUE(told->lines.empty());
    job.built[0].gauge = job.built[0].gauge == 30 ? 20 : 30;
    job.built.back().to = "K9.in"; // a part that is no longer planned
    told = answer(BuiltAgainstPlanned{}, figures_for(job));
    EXPECT_FALSE(told->same);
    const auto says = [&](const std::string& what) {
        return std::any_of(told->lines.begin(), told->lines.end(), [&](const Message& line) {
            return line.english().find(what) != std::string::npos;
        });
    };
    EXPECT_TRUE(says("K9.in is no longer there"));
    EXPECT_TRUE(says(job.built[0].ref));
}

TEST(Answers, AnotherWayOfBuildingIsTheJobBuiltThatWay) {
    job::Job job = demo("heron");
    ASSERT_TRUE(job::keep_variant("slim", "as it was")(job));
    ASSERT_FALSE(job.variants.empty());
    job.looks[0].cap = job.looks[0].cap > 0.6 ? 0.5 : 1;
    const Plan plan = figures_for(job);
    const auto other = answer(VariantBuilt{0}, plan);
    ASSERT_TRUE(other) << other.error().text();
    const Plan direct = figures_for(job::with_variant(job, 0));
    for (std::size_t i = 0; i < direct.figures.size(); ++i)
        EXPECT_EQ(other->plan->figures[i].value, direct.figures[i].value) << direct.figures[i].id;
    EXPECT_FALSE(other->difference.empty());
    EXPECT_FALSE(answer(VariantBuilt{7}, plan));
}

TEST(Answers, TheDifferenceBetweenTwoStatesTurnsRoundWithThem) {
    const auto before = std::make_shared<const job::Job>(demo("heron"));
    job::Job changed = *before;
    changed.looks[0].cap = 0.3;
    const auto after = std::make_shared<const job::Job>(changed);
    Plan bare; // a job and its parts are enough
    bare.job = before;
    bare.parts = shared_parts();
    const auto there = answer(Between{before, after}, bare),
               back = answer(Between{after, before}, bare);
    ASSERT_TRUE(there && back);
    ASSERT_EQ(there->changes.size(), back->changes.size());
    ASSERT_EQ(there->figures.size(), back->figures.size());
    EXPECT_FALSE(there->figures.empty());
    for (std::size_t i = 0; i < there->figures.size(); ++i) {
        EXPECT_EQ(there->figures[i].before, back->figures[i].after);
        EXPECT_EQ(there->figures[i].after, back->figures[i].before);
    }
    EXPECT_TRUE(answer(Between{before, before}, bare)->empty());
}

TEST(Answers, EveryArrangementIsDrawnWithAllThatLiesInTheBore) {
    const Plan plan = figures_for(demo("bittern"));
    const auto found = answer(OrdersInTheBore{}, plan);
    ASSERT_TRUE(found);
    ASSERT_FALSE(found->best.empty());
    ASSERT_EQ(found->drawn.size(), found->best.size());
    for (std::size_t i = 0; i < found->best.size(); ++i) {
        EXPECT_EQ(found->drawn[i]->fit.bodies.size(), plan.fit.bodies.size());
        for (const hilt::ArrangedPart& part : found->best[i].parts) {
            const auto* body = job::find_ref(found->drawn[i]->fit.bodies, part.ref);
            ASSERT_TRUE(body) << part.ref;
            EXPECT_NEAR(body->from.value(), part.at.value(), 1e-9) << part.ref;
        }
    }
}

TEST(Answers, ManyDaysTellHowFarTheyAreAndStopWhereTheyAreTold) {
    const auto study = answer(UseLivedThrough{}, figures_for(demo("dunlin")));
    ASSERT_TRUE(study);
    const ManyDays question{study->loads, 64, 5};
    const Plan none;
    std::size_t told = 0;
    Answering by;
    by.told = [&](std::size_t done, std::size_t all) {
        told = done;
        EXPECT_EQ(all, 64u);
    };
    const auto all = answer(question, none, by);
    ASSERT_TRUE(all);
    EXPECT_EQ(all->days, 64u);
    EXPECT_EQ(told, 64u);
    EXPECT_LE(all->p10, all->p50);
    EXPECT_LE(all->p50, all->p90);
    by.stop = [&] { return told >= 16; };
    told = 0;
    EXPECT_LT(answer(question, none, by)->days, 64u);
}

// What drawings read in sum.

TEST(PartAmps, AreTheMostOfAPartsFlagsAndOfABoardAllThatComesIn) {
    for (const char* name : demo_jobs) {
        const Plan plan = figures_for(demo(name));
        for (const LookPlan& look : plan.looks)
            for (const View& view : look.views) {
                std::size_t flags = 0;
                for (const PartAmps& part : view.part_amps) {
                    const job::Part* fitted = job::find_ref(plan.job->parts, part.ref);
                    const bool board =
                        fitted && plan.parts->find_as<catalogue::Board>(fitted->type);
                    double most = 0, sum = 0;
                    bool over = false;
                    for (const AmpFlag& flag : view.amp_flags) {
                        if (flag.ref != part.ref) continue;
                        ++flags;
                        const double amps = std::abs(flag.amps.value());
                        most = std::max(most, amps), sum += amps;
                        over = over || (flag.rated && amps > flag.rated->value());
                    }
                    EXPECT_NEAR(part.amps.value(), board ? sum : most, 1e-12) << part.ref;
                    EXPECT_EQ(part.over.has_value(), over) << name << ": " << part.ref;
                }
                EXPECT_EQ(flags, view.amp_flags.size()) << "each flag is counted once";
            }
    }
}

TEST(PartAmps, AnOverloadInThePlanIsOneInTheFindings) {
    // The pins of Heron's connector are over their rating, and the section says so where it is.
    const Plan plan = figures_for(demo("heron"));
    const bool found = std::any_of(plan.findings.begin(), plan.findings.end(),
                                   [](auto& f) { return f.id == "pins.over-current"; });
    ASSERT_TRUE(found);
    const auto* pins = job::find_ref(plan.looks[0].views[full].part_amps, "P1");
    ASSERT_TRUE(pins);
    EXPECT_TRUE(pins->over);
}

TEST(Warmth, IsOfTheDieWhereThereIsOne) {
    using power::PartHeat;
    using power::Warmth;
    EXPECT_EQ((PartHeat{"K1", Watt(1), Celsius(59.9), {}}.warmth()), Warmth::cool);
    EXPECT_EQ((PartHeat{"K1", Watt(1), Celsius(60), {}}.warmth()), Warmth::warm);
    EXPECT_EQ((PartHeat{"K1", Watt(1), Celsius(80), {}}.warmth()), Warmth::hot);
    EXPECT_EQ((PartHeat{"L1", Watt(1), Celsius(40), Celsius(85)}.warmth()), Warmth::hot);
}

TEST(Passing, KnowsWhereItsBodiesLie) {
    for (const char* name : demo_jobs) {
        const Plan plan = figures_for(demo(name));
        for (const hilt::Passing& p : plan.fit.passes) {
            double first = 1e9, last = -1e9, width = 0;
            for (const hilt::PlacedBody& b : plan.fit.bodies) {
                if (!b.in_bore || (b.carrier != p.carrier && b.ref != p.carrier)) continue;
                first = std::min(first, b.from.value()), last = std::max(last, b.to.value());
                width = std::max(width, b.need.value());
            }
            EXPECT_NEAR(p.from.value(), first, 1e-9) << name << ": " << p.carrier;
            EXPECT_NEAR(p.to.value(), last, 1e-9) << name << ": " << p.carrier;
            EXPECT_NEAR(p.width.value(), width, 1e-9) << name << ": " << p.carrier;
            if (p.reason.empty()) {
                EXPECT_NEAR(p.way().value(),
                            p.from_pommel ? last - p.in_from.value() : p.in_to.value() - first,
                            1e-9);
            }
        }
    }
}

TEST(Duties, FoldTheWhiteDieWhereThereIsNone) {
    const job::Colour mixed{0.5, 0.25, 0, 0.6};
    const auto four = lights::duties(mixed, 1, 4), three = lights::duties(mixed, 1, 3);
    EXPECT_DOUBLE_EQ(four[3], 0.6);
    EXPECT_DOUBLE_EQ(three[0], 1) << "no die gives more than all it has";
    EXPECT_DOUBLE_EQ(three[1], 0.85);
    EXPECT_DOUBLE_EQ(three[2], 0.6);
    EXPECT_DOUBLE_EQ(three[3], 0);
}

} // namespace
} // namespace conductus::plan
