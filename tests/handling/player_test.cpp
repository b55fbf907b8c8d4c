// SPDX-License-Identifier: GPL-3.0-or-later
// A hilt that is played goes where its commands lead; its tour can be played to the end.
#include "core/handling/player.h"

#include <gtest/gtest.h>

#include "core/handling/buttons.h"
#include "core/handling/tour.h"
#include "core/job/lookup.h"
#include "support/fixtures.h"

namespace conductus::handling {
namespace {

using test::demo;
using test::parts;

/// Does what a trigger asks, and waits until it is understood.
std::vector<Said> make(Player& player, const job::Trigger& t, double& at) {
    std::vector<Said> all;
    const auto add = [&](std::vector<Said> more) {
        all.insert(all.end(), more.begin(), more.end());
    };
    const auto event = [&](EventKind kind, const std::string& button) {
        add(player.hear({kind, button, t.motion,
                         t.side == job::Side::right ? job::Side::right : job::Side::left, at}));
    };
    player.hold(t.attitude == job::Attitude::any ? job::Attitude::level : t.attitude, true);
    const int presses = t.press == job::Press::twice         ? 2
                        : t.press == job::Press::three_times ? 3
                                                             : 1;
    if (t.press == job::Press::none) event(EventKind::motion, "");
    for (int i = 0; t.press != job::Press::none && i < presses; ++i) {
        for (const job::TriggerButton& b : t.buttons)
            event(EventKind::down, b.button), at += 0.1;
        if (t.motion != job::Motion::none) event(EventKind::motion, ""), at += 0.1;
        at += t.held.value();
        for (const job::TriggerButton& b : t.buttons)
            event(EventKind::up, b.button), at += 0.1;
    }
    at += 0.6;
    add(player.wait_until(at));
    return all;
}

TEST(Player, TheTourOfEverySchemeIsUnderstoodStepByStep) {
    int steps = 0;
    for (const char* name : {"heron", "bittern", "avocet", "godwit"})
        for (const Scheme scheme : {Scheme::presses, Scheme::chords, Scheme::motions}) {
            job::Job job = demo(name);
            ASSERT_TRUE(begin_with(scheme, parts())(job));
            Player player(job);
            double at = 0;
            for (const TourStep& step : shortest_tour(job).steps) {
                ASSERT_EQ(player.state(), step.from) << name;
                if (step.kind == TourStep::Kind::wait) {
                    at = *player.due() + 0.01;
                    const auto said = player.wait_until(at);
                    ASSERT_EQ(said.size(), 1u);
                    EXPECT_EQ(said[0].kind, Said::Kind::left);
                } else {
                    ASSERT_EQ(step.kind, TourStep::Kind::command);
                    const auto said = make(player, job.handling.commands[step.command].trigger, at);
                    ASSERT_EQ(said.size(), 1u) << name << " " << step.command;
                    ASSERT_EQ(said[0].kind, Said::Kind::understood);
                    EXPECT_EQ(said[0].commands.front(), step.command)
                        << name << " " << job.handling.commands[step.command].name;
                }
                ++steps;
            }
        }
    EXPECT_GT(steps, 120);
}

TEST(Player, SaysWhenNothingIsUnderstoodAndWhenItIsTwoThings) {
    job::Job job = demo("heron");
    ASSERT_TRUE(begin_with(Scheme::presses, parts())(job));
    Player player(job);
    const auto swung = player.hear({EventKind::motion, "", job::Motion::swing, job::Side::left, 1});
    ASSERT_EQ(swung.size(), 1u);
    EXPECT_EQ(swung[0].kind, Said::Kind::nothing);
    job.handling.commands.push_back(job.handling.commands.front());
    job.handling.commands.back().name = "another";
    Player twice(job);
    double at = 0;
    const auto said = make(twice, job.handling.commands.front().trigger, at);
    ASSERT_EQ(said.size(), 1u);
    EXPECT_EQ(said[0].kind, Said::Kind::several);
    EXPECT_EQ(twice.state(), "idle") << "nobody knows which: it stays";
}

} // namespace
} // namespace conductus::handling
