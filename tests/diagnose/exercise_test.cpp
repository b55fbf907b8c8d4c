// SPDX-License-Identifier: GPL-3.0-or-later
// A hidden case in the hands of a person, policies against each other, and a teacher's list.
#include <gtest/gtest.h>

#include "cli/cli.h"
#include "core/diagnose/practice.h"
#include "files/cases_csv.h"
#include "files/json_text.h"
#include "support/fixtures.h"
#include "support/sample_bench.h"

namespace conductus::diagnose {
namespace {

using test::parts;

const Finder& heron_case() {
    static const Finder one(test::demo("heron"), parts());
    return one;
}

TEST(Exercise, WhatWouldBurnABoardIsStopped) {
    int burnt = 0;
    for (unsigned seed = 1; seed < 120 && burnt < 3; ++seed) {
        Exercise e(heron_case(), 1, seed);
        Finder finder = heron_case();
        ASSERT_EQ(e.hidden().size(), 1u);
        const bool burns = finder.burns(e.hidden()[0], "idle");
        const Measure volts{Quantity::volts, "idle", "B1.plus", "B1.minus"};
        const auto& t = e.measure(volts, false, false);
        EXPECT_EQ(!t.stopped.empty(), burns) << finder.faults()[e.hidden()[0]].id;
        if (!burns) continue;
        ++burnt;
        EXPECT_FALSE(t.value);
        EXPECT_EQ(t.stopped.english().find(finder.faults()[e.hidden()[0]].id), std::string::npos)
            << "it does not tell what is wrong";
        // From a supply that is limited nothing burns.
        EXPECT_TRUE(e.measure(volts, false, true).value);
        EXPECT_TRUE(e.mend(e.hidden()[0]));
        EXPECT_TRUE(e.solved());
        EXPECT_FALSE(e.right()) << "it was nearly burnt";
    }
    EXPECT_GT(burnt, 0);
    Exercise live(heron_case(), 1, 2);
    EXPECT_FALSE(live.measure({Quantity::ohms, "idle", "W1", "W2"}, false, false).stopped.empty());
}

TEST(Exercise, MinutesAddUpAndWhatWasWorthItIsKnown) {
    Exercise e(heron_case(), 2, 5), same(heron_case(), 2, 5);
    EXPECT_EQ(e.hidden(), same.hidden());
    EXPECT_FALSE(e.seen().empty());
    double minutes = 0;
    Finder mind = heron_case();
    mind.take(e.seen(), {});
    for (int k = 0; k < 5; ++k) {
        const auto next = mind.next(1);
        if (next.empty()) break;
        const Candidate& c = mind.candidates()[next[0].candidate];
        const auto& t = e.measure(c.measure, c.turned, next[0].limited);
        minutes += t.minutes;
        EXPECT_GE(t.minutes, 0.3);
        if (t.value) mind.read({c.measure, *t.value, c.turned});
    }
    EXPECT_NEAR(e.minutes(), minutes, 1e-9);
    const std::size_t wrong = e.hidden()[0] == 0 ? 1 : 0;
    EXPECT_FALSE(e.mend(wrong));
    EXPECT_NEAR(e.minutes(), minutes + 3, 1e-9);
    EXPECT_FALSE(e.solved());
    EXPECT_TRUE(e.mend(e.hidden()[0]));
    EXPECT_TRUE(e.solved());
    EXPECT_FALSE(e.right());
    EXPECT_TRUE(e.seen().empty());
    job::Job job;
    for (int i = 0; i < 1003; ++i)
        ASSERT_TRUE(keep_practised({double(i), 1, true, 4, 3, "2026-11-20"})(job));
    EXPECT_EQ(job.bench.practised.size(), 1000u);
    EXPECT_EQ(job.bench.practised.back().seed, 1002);
}

TEST(Exercise, TheFourthLevelHidesTwoThatComeAndGo) {
    const Finder bittern(test::demo("bittern"), parts());
    for (unsigned seed = 1; seed < 6; ++seed) {
        const Exercise e(bittern, 4, seed);
        ASSERT_EQ(e.hidden().size(), 2u);
        for (const std::size_t f : e.hidden())
            EXPECT_TRUE(bittern.faults()[f].turned);
    }
}

TEST(Policies, TheFinderIsQuickerThanHabitAndHalving) {
    double minutes[3] = {};
    int right[3] = {};
    const int cases = test::rounds(16);
    for (int p = 0; p < 3; ++p)
        for (int i = 0; i < cases; ++i) {
            const Played played =
                play(heron_case(), 2, static_cast<unsigned>(i) + 300, static_cast<Policy>(p));
            minutes[p] += played.minutes;
            right[p] += played.right;
        }
    EXPECT_GE(right[0], right[1]);
    EXPECT_GE(right[0], right[2]);
    EXPECT_LT(minutes[0] * 1.5, minutes[1]) << minutes[0] << " " << minutes[1];
    EXPECT_LT(minutes[0] * 1.5, minutes[2]) << minutes[0] << " " << minutes[2];
}

TEST(CasesCsv, IsReadBackAsItWasWritten) {
    const std::vector<ListedCase> cases{{"Heron", 1, 3, "begin here"},
                                        {"Bittern", 4, 4000000000ULL, ""}};
    const auto read = files::read_cases_csv(files::cases_csv(cases), "cases.csv");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*read, cases);
    for (const char* wrong : {"job,level\nHeron,1\n", "job,level,seed\nHeron,7,1\n",
                              "job,level,seed\nHeron,1,many\n", "job,level,seed\nHeron,1.5,2\n"})
        EXPECT_FALSE(files::read_cases_csv(wrong, "cases.csv")) << wrong;
}

TEST(CliPractice, HasItsPolicies) {
    using namespace test;
    for (const char* policy : {"finder", "halving", "habit"}) {
        const Ran ran =
            cli("practice " + heron() + " --seed 3 --level 1 --policy " + policy + " --json");
        ASSERT_EQ(ran.code, 0) << ran.err;
        const auto json = files::Json::parse(ran.out);
        EXPECT_GT(json["minutes"].get<double>(), 0);
        EXPECT_FALSE(json["measurements"].empty());
    }
    EXPECT_EQ(cli("practice " + heron() + " --seed 3 --policy luck").code, 2);
    EXPECT_EQ(cli("practice " + heron() + " --seed 3 --level 9").code, 2);
}

} // namespace
} // namespace conductus::diagnose
