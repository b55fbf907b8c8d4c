// SPDX-License-Identifier: GPL-3.0-or-later
// What is asked for next.
#include "core/handling/quiz.h"

#include <map>
#include <set>

#include "support/fixtures.h"

namespace conductus::handling {
namespace {

job::Handling map_of(int commands) {
    job::Handling map;
    map.states.push_back({"idle", job::StateKind::idle, {}, {}, {}});
    for (int i = 0; i < commands; ++i) {
        job::Command c;
        c.name = "command " + std::to_string(i);
        c.state = "idle";
        map.commands.push_back(c);
    }
    return map;
}

TEST(Quiz, AsksForEveryCommandAndNeverTheSameTwiceRunning) {
    const job::Handling map = map_of(7);
    for (unsigned seed = 1; seed <= 20; ++seed) {
        Quiz quiz(map, "owner", seed);
        std::set<std::size_t> seen;
        std::optional<std::size_t> last;
        for (int i = 0; i < 7 * 6; ++i) {
            const auto asked = quiz.asked();
            ASSERT_TRUE(asked);
            EXPECT_NE(asked, last);
            last = asked;
            seen.insert(*asked);
            quiz.answered(true, 1);
        }
        EXPECT_EQ(seen.size(), 7u) << seed;
        EXPECT_EQ(quiz.known(), 7u);
    }
}

TEST(Quiz, WhatFailsComesAgainSoonerThanWhatIsKnown) {
    const job::Handling map = map_of(12);
    Quiz quiz(map, "owner", 5);
    std::map<std::size_t, int> asked;
    for (int i = 0; i < 120; ++i) {
        const std::size_t now = *quiz.asked();
        ++asked[now];
        quiz.answered(now != 3 && now != 8, 1.5);
    }
    int most_known = 0;
    for (const auto& [command, times] : asked)
        if (command != 3 && command != 8) most_known = std::max(most_known, times);
    EXPECT_GT(asked[3], 2 * most_known);
    EXPECT_GT(asked[8], 2 * most_known);
    EXPECT_EQ(quiz.known(), 10u);
}

TEST(Quiz, ResultsAreKeptByWhoAndBeginTheNextOne) {
    job::Handling map = map_of(5);
    Quiz quiz(map, "owner", 1);
    for (int i = 0; i < 5; ++i) {
        const std::size_t now = *quiz.asked();
        quiz.answered(now != 2, 2.5);
    }
    map.rehearsed = quiz.results("2026-11-29");
    ASSERT_EQ(map.rehearsed.size(), 5u);
    const auto all = learned(map);
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].who, "owner");
    EXPECT_EQ(all[0].right, 4u);
    EXPECT_EQ(all[0].of, 5u);
    EXPECT_EQ(all[0].on, "2026-11-29");
    for (unsigned seed = 1; seed < 10; ++seed) {
        EXPECT_EQ(Quiz(map, "owner", seed).asked(), 2u) << "what failed comes first";
        Quiz shop(map, "shop", seed);
        shop.answered(true, 1);
        EXPECT_EQ(shop.results("2026-11-30").size(), 6u) << "beside what the owner learned";
    }
    // What was kept in the meantime is added to, not written over.
    const job::Handling alike = map_of(5);
    Quiz more(alike, "owner", 3);
    more.answered(true, 1);
    const auto added = more.results("2026-12-01", map.rehearsed);
    ASSERT_EQ(added.size(), 5u);
    int tries = 0;
    for (const job::Rehearsed& r : added)
        tries += r.right + r.wrong;
    EXPECT_EQ(tries, 6);
    // A command that is gone counts no more.
    map.commands.pop_back();
    EXPECT_EQ(learned(map)[0].of, 4u);
    EXPECT_LE(learned(map)[0].right, 4u);
}

TEST(Quiz, AnEmptyMapAsksNothing) {
    const job::Handling map = map_of(0);
    Quiz quiz(map, "owner", 1);
    EXPECT_FALSE(quiz.asked());
    quiz.answered(true, 1);
    EXPECT_TRUE(quiz.results("2026-11-29").empty());
}

} // namespace
} // namespace conductus::handling
