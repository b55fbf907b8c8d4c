// SPDX-License-Identifier: GPL-3.0-or-later
// What is proved of a map, against every input up to six events.
#include "core/handling/prove.h"

#include <gtest/gtest.h>

#include "core/job/lookup.h"
#include "support/fixtures.h"
#include "support/hand_maps.h"

namespace conductus::handling {
namespace {

using test::demo;
using test::map_of;
using test::random_map;
using Pairs = std::set<std::pair<std::size_t, std::size_t>>;

/// Plays every sequence of up to six events, and keeps which commands one of them meant alike.
class EveryInput {
public:
    EveryInput(const job::Handling& map, const std::string& state) : map_(map), state_(state) {
        for (const job::Command& c : map.commands) {
            if (c.state != state) continue;
            for (const job::TriggerButton& b : c.trigger.buttons)
                buttons_.insert(b.button);
            if (c.trigger.motion != job::Motion::none) motions_.insert(c.trigger.motion);
            if (c.trigger.held > Second(0)) gaps_.insert(c.trigger.held.value() + 0.01);
        }
        gaps_.insert(0.05);
        gaps_.insert(map.again.value() + 0.01);
    }
    Pairs alike;
    std::set<std::size_t> meant;

    void play(const Circumstance& now) { go(Listener(map_, state_, now), {}, 0, 0); }

private:
    /// True where something was understood: what comes then begins anew.
    bool take(const std::vector<Understood>& all) {
        for (const Understood& u : all)
            for (std::size_t a = 0; a < u.commands.size(); ++a) {
                meant.insert(u.commands[a]);
                for (std::size_t b = a + 1; b < u.commands.size(); ++b)
                    alike.insert({u.commands[a], u.commands[b]});
            }
        return !all.empty();
    }

    void go(const Listener& so_far, const std::set<std::string>& down, double at, int events) {
        Listener waits = so_far;
        take(waits.wait_until(at + 1000));
        // From rest all begins anew; what is understood by then was played with fewer events.
        if (events == 6 || (events > 0 && so_far.at_rest())) return;
        for (const double gap : gaps_) {
            const auto hear = [&](const Event& e, const std::set<std::string>& then) {
                Listener next = so_far;
                if (!take(next.hear(e))) go(next, then, at + gap, events + 1);
            };
            for (const std::string& b : buttons_) {
                auto then = down;
                const bool up = then.erase(b) > 0;
                if (!up) then.insert(b);
                hear({up ? EventKind::up : EventKind::down, b, {}, {}, at + gap}, then);
            }
            // A motion that means nothing leaves all as it was.
            for (const job::Motion m : motions_)
                for (const job::Side side : {job::Side::left, job::Side::right}) {
                    Listener next = so_far;
                    take(next.hear({EventKind::motion, "", m, side, at + gap}));
                }
            if (events == 0) break; // when the first comes does not matter
        }
    }

    const job::Handling& map_;
    std::string state_;
    std::set<std::string> buttons_;
    std::set<job::Motion> motions_;
    std::set<double> gaps_;
};

TEST(Proved, ConflictsAreThoseOfEveryInputOfSixEvents) {
    std::mt19937 random(22);
    int alike = 0, never = 0;
    for (int round = 0; round < test::rounds(500); ++round) {
        const job::Handling map = random_map(random, 2, 6);
        Pairs played;
        std::set<std::size_t> meant;
        for (const job::HandState& s : map.states) {
            EveryInput every(map, s.name);
            for (const Circumstance& now : circumstances(map))
                every.play(now);
            played.insert(every.alike.begin(), every.alike.end());
            meant.insert(every.meant.begin(), every.meant.end());
        }
        Pairs proved;
        for (const Conflict& c : conflicts(map))
            proved.insert({c.one, c.other});
        ASSERT_EQ(proved, played) << "round " << round;
        alike += static_cast<int>(proved.size());
        for (const std::size_t i : masked(map)) {
            ASSERT_FALSE(meant.contains(i)) << "round " << round;
            ++never;
        }
    }
    EXPECT_GT(alike, 20);
    EXPECT_GT(never, 0);
}

TEST(Proved, WaysInAndOut) {
    job::Handling map = map_of({"S1", "S2"});
    for (const char* name : {"menu", "cellar"}) {
        job::HandState s;
        s.name = name;
        map.states.push_back(s);
    }
    EXPECT_EQ(reached(map), std::set<std::string>{"lit"});
    map.commands[0].leads = "menu";
    EXPECT_EQ(reached(map), (std::set<std::string>{"lit", "menu"}));
    EXPECT_EQ(without_way_out(map), std::vector<std::string>{"menu"});
    map.states[1].then = "lit", map.states[1].limit = Second(10);
    EXPECT_TRUE(without_way_out(map).empty());
}

TEST(Proved, SlipsThatDoHarm) {
    auto map = map_of({"S1 then S2", "S2 then S1", "S1", "S1 held 0.4 s"});
    for (std::size_t i = 0; i < 4; ++i)
        map.commands[i].does = job::Does::effect, map.commands[i].what = std::to_string(i);
    auto all = slips(map);
    ASSERT_EQ(all.size(), 1u) << "two effects beside each other do no harm";
    EXPECT_EQ(all[0].slip, Slip::mirrored);
    map.commands[3].does = job::Does::put_out;
    ASSERT_EQ(slips(map).size(), 2u);
    map.commands[3].trigger.held = Second(0.8);
    EXPECT_EQ(slips(map).size(), 1u) << "long enough";
}

TEST(Proved, WhatNothingReaches) {
    job::Job job = demo("avocet");
    ASSERT_GT(job.presets.size(), 1u);
    job.handling = map_of({"S1", "S2"});
    const auto names = [&](Unreached::Kind kind) {
        std::vector<std::string> all;
        for (const Unreached& u : unreached(job))
            if (u.kind == kind) all.push_back(u.name);
        return all;
    };
    EXPECT_EQ(names(Unreached::Kind::preset).size(), job.presets.size() - 1);
    job.handling.commands[0].does = job::Does::next_preset;
    EXPECT_TRUE(names(Unreached::Kind::preset).empty());
    const auto effects = names(Unreached::Kind::effect);
    ASSERT_FALSE(effects.empty());
    job.handling.commands[1].does = job::Does::effect;
    job.handling.commands[1].what = effects[0];
    EXPECT_EQ(names(Unreached::Kind::effect).size(), effects.size() - 1);
}

} // namespace
} // namespace conductus::handling
