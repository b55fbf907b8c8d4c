// SPDX-License-Identifier: GPL-3.0-or-later
// The shortest tour against every walk there is.
#include "core/handling/tour.h"

#include <gtest/gtest.h>
#include <map>
#include <queue>

#include "core/job/lookup.h"
#include "support/fixtures.h"
#include "support/hand_maps.h"

namespace conductus::handling {
namespace {

using test::map_of;
using test::random_map;

/// Commands without attitudes, presets and conditions: states and commands alone.
job::Job plain(job::Handling map) {
    job::Job job;
    for (job::Command& c : map.commands)
        c.preset.clear(), c.blade = job::BladeThere::any, c.trigger.attitude = {};
    job.handling = std::move(map);
    return job;
}

/// The least steps of a walk with every reachable command, by trying all; a restart costs five.
int by_trying(const job::Job& job) {
    const auto& map = job.handling;
    const auto state = [&](const std::string& name) {
        return static_cast<int>(job::find_name(map.states, name) - map.states.data());
    };
    using At = std::pair<int, unsigned>; // where, and which commands were tried
    std::map<At, int> best;
    std::priority_queue<std::pair<int, At>, std::vector<std::pair<int, At>>, std::greater<>> open;
    open.push({0, {0, 0U}});
    // What can be reached without starting again.
    std::set<int> there{0};
    for (bool more = true; more;) {
        more = false;
        for (const job::Command& c : map.commands)
            if (there.contains(state(c.state)) && !c.leads.empty())
                more = there.insert(state(c.leads)).second || more;
        for (const job::HandState& s : map.states)
            if (there.contains(state(s.name)) && !s.then.empty())
                more = there.insert(state(s.then)).second || more;
    }
    unsigned all = 0;
    for (std::size_t i = 0; i < map.commands.size(); ++i)
        if (there.contains(state(map.commands[i].state))) all |= 1U << i;
    while (!open.empty()) {
        const auto [cost, at] = open.top();
        open.pop();
        if (at.second == all) return cost;
        if (!best.try_emplace(at, cost).second) continue;
        const auto go = [&](int to, unsigned tried, int more) {
            const At next{to, tried};
            if (!best.contains(next)) open.push({cost + more, next});
        };
        for (std::size_t i = 0; i < map.commands.size(); ++i) {
            const job::Command& c = map.commands[i];
            if (state(c.state) == at.first)
                go(c.leads.empty() ? at.first : state(c.leads), at.second | (1U << i), 1);
        }
        const job::HandState& s = map.states[static_cast<std::size_t>(at.first)];
        if (!s.then.empty()) go(state(s.then), at.second, 1);
        go(0, at.second, 5);
    }
    return 0;
}

/// Whether the steps hang together and try all that can be reached.
void walk(const job::Job& job, const Tour& tour) {
    std::string at = job.handling.states.front().name;
    std::set<std::size_t> tried;
    int cost = 0;
    for (const TourStep& s : tour.steps) {
        ASSERT_EQ(s.from, at);
        if (s.kind == TourStep::Kind::command) {
            const job::Command& c = job.handling.commands[s.command];
            ASSERT_EQ(c.state, at);
            ASSERT_EQ(s.to, c.leads.empty() ? at : c.leads);
            ASSERT_EQ(s.first, tried.insert(s.command).second);
        }
        cost += s.kind == TourStep::Kind::restart ? 5 : 1;
        at = s.to;
    }
    EXPECT_EQ(cost, tour.cost);
    EXPECT_EQ(tried.size() + tour.left_out.size(), job.handling.commands.size());
}

TEST(Tour, IsTheShortestOfAllOnSmallMaps) {
    std::mt19937 random(5);
    int longer = 0, joined = 0;
    for (int round = 0; round < test::rounds(300); ++round) {
        const job::Job job = plain(random_map(random, 4, 8));
        const Tour tour = shortest_tour(job);
        ASSERT_EQ(tour.cost, by_trying(job)) << "round " << round;
        EXPECT_TRUE(tour.shortest);
        EXPECT_GE(tour.cost, tour.least);
        longer += tour.cost > static_cast<int>(job.handling.commands.size());
        joined += std::any_of(tour.steps.begin(), tour.steps.end(),
                              [](const TourStep& s) { return s.kind == TourStep::Kind::restart; });
        walk(job, tour);
    }
    EXPECT_GT(longer, 20);
    EXPECT_GT(joined, 20) << "in some the hilt has to be started again";
}

TEST(Tour, OnLargeMapsIsWithinATwentiethOfTheBound) {
    std::mt19937 random(6);
    int large = 0;
    for (int round = 0; round < test::rounds(200); ++round) {
        const job::Job job = plain(random_map(random, 12, 80));
        const Tour tour = shortest_tour(job);
        EXPECT_LE(tour.cost, 1.05 * tour.least) << "round " << round;
        walk(job, tour);
        large += job.handling.commands.size() > 30;
    }
    EXPECT_GT(large, test::rounds(200) / 3);
}

TEST(Tour, TriesExceptionsInTheirPresetsAndTheBladeOut) {
    job::Job job;
    job.looks.resize(1);
    for (const char* name : {"Signal lamp", "Fog horn", "Low tide"})
        job.presets.push_back({name, "", "", {}, {}, {}});
    job.handling = map_of({"S1", "S2", "S1", "S2 twice"});
    auto& c = job.handling.commands;
    c[1].does = job::Does::next_preset;
    c[2].preset = "Low tide";
    c[3].blade = job::BladeThere::out;
    const Tour tour = shortest_tour(job);
    walk(job, tour);
    // Each once, one more step to the third preset, the blade out and in again before the first is
    // left.
    EXPECT_EQ(tour.cost, 4 + 1 + 2);
    for (const TourStep& s : tour.steps)
        if (s.kind == TourStep::Kind::command && s.command == 2) {
            EXPECT_EQ(s.preset, "Low tide");
        }
}

} // namespace
} // namespace conductus::handling
