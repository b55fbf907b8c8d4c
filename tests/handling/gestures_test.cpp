// SPDX-License-Identifier: GPL-3.0-or-later
// What a board makes of presses and motions, event by event.
#include "core/handling/gestures.h"

#include <gtest/gtest.h>

#include "support/hand_maps.h"

namespace conductus::handling {
namespace {

using test::map_of;

/// Names of what is understood of events like "S1 0.1" (down), "-S1 0.2" (up), "twist left 0.3".
std::vector<std::string> heard(const job::Handling& map, const std::vector<Event>& events,
                               double until = 100) {
    Listener listener(map, "lit", {});
    std::vector<std::string> names;
    const auto take = [&](const std::vector<Understood>& all) {
        for (const Understood& u : all) {
            std::string name;
            for (const std::size_t c : u.commands)
                name += (name.empty() ? "" : "|") + map.commands[c].name;
            names.push_back(name);
        }
    };
    for (const Event& e : events)
        take(listener.hear(e));
    take(listener.wait_until(until));
    return names;
}

Event down(const char* b, double at) { return {EventKind::down, b, {}, {}, at}; }
Event up(const char* b, double at) { return {EventKind::up, b, {}, {}, at}; }
Event move(job::Motion m, job::Side side, double at) {
    return {EventKind::motion, "", m, side, at};
}
using Names = std::vector<std::string>;

TEST(Gestures, PressTwiceAndHoldAreToldApart) {
    const auto map = map_of({"S1", "S1 twice", "S1 held 1 s"});
    EXPECT_EQ(heard(map, {down("S1", 0), up("S1", 0.1)}), Names{"S1"});
    EXPECT_EQ(heard(map, {down("S1", 0), up("S1", 0.1), down("S1", 0.3), up("S1", 0.4)}),
              Names{"S1 twice"});
    EXPECT_EQ(heard(map, {down("S1", 0), up("S1", 0.1), down("S1", 0.6), up("S1", 0.7)}),
              (Names{"S1", "S1"}))
        << "0.5 s apart are two presses";
    EXPECT_EQ(heard(map, {down("S1", 0), up("S1", 1.2)}), Names{"S1 held 1 s"});
    EXPECT_EQ(heard(map, {down("S1", 0)}), Names{"S1 held 1 s"}) << "known before it goes up";
}

TEST(Gestures, WhenTheBoardKnows) {
    const auto map = map_of({"S1", "S1 twice", "S2", "S1 held 1 s", "S1 held 3 s"});
    Listener one(map, "lit", {});
    one.hear(down("S2", 0));
    const auto at_once = one.hear(up("S2", 0.1));
    ASSERT_EQ(at_once.size(), 1u);
    EXPECT_EQ(at_once[0].late, 0);
    Listener waits(map, "lit", {});
    waits.hear(down("S1", 0));
    EXPECT_TRUE(waits.hear(up("S1", 0.1)).empty());
    ASSERT_TRUE(waits.due());
    EXPECT_NEAR(*waits.due(), 0.5, 1e-12);
    const auto later = waits.wait_until(0.5);
    ASSERT_EQ(later.size(), 1u);
    EXPECT_NEAR(later[0].late, 0.4, 1e-12);
    Listener held(map, "lit", {});
    held.hear(down("S1", 0));
    EXPECT_NEAR(*held.due(), 3, 1e-12) << "the longest answers by itself";
    const auto shorter = held.hear(up("S1", 1.4));
    ASSERT_EQ(shorter.size(), 1u);
    EXPECT_EQ(map.commands[shorter[0].commands[0]].name, "S1 held 1 s");
    EXPECT_NEAR(shorter[0].late, 0.4, 1e-12);
}

TEST(Gestures, ChordsGoByTheirOrderAndLongerOnesAreWaitedFor) {
    const auto map = map_of({"S1 then S2", "S2 then S1", "S1 then S2 then S3", "S1"});
    EXPECT_EQ(heard(map, {down("S1", 0), down("S2", 0.1), up("S2", 0.2), up("S1", 0.3)}),
              Names{"S1 then S2"});
    EXPECT_EQ(heard(map, {down("S2", 0), down("S1", 0.1), up("S2", 0.2), up("S1", 0.3)}),
              Names{"S2 then S1"});
    EXPECT_EQ(heard(map, {down("S1", 0), down("S2", 0.1), down("S3", 0.2), up("S1", 0.3)}),
              Names{"S1 then S2 then S3"});
    EXPECT_EQ(heard(map, {down("S3", 0), down("S1", 0.1), up("S1", 0.2), up("S3", 0.3)}), Names{})
        << "no chord begins so";
}

TEST(Gestures, AMotionIsAloneOrWithItsButton) {
    const auto map = map_of({"twist left", "twist", "S1 with twist", "S1", "S1 held 1 s"});
    using job::Motion, job::Side;
    EXPECT_EQ(heard(map, {move(Motion::twist, Side::left, 0)}), Names{"twist left"})
        << "what asks for more goes before";
    EXPECT_EQ(heard(map, {move(Motion::twist, Side::right, 0)}), Names{"twist"});
    EXPECT_EQ(heard(map, {down("S1", 0), move(Motion::twist, Side::left, 0.2), up("S1", 2)}),
              Names{"S1 with twist"});
    EXPECT_EQ(heard(map, {down("S1", 0), move(Motion::swing, Side::left, 0.2), up("S1", 0.3)}),
              Names{"S1"})
        << "a motion that means nothing is not heard";
    EXPECT_EQ(heard(map, {down("S1", 0), move(Motion::twist, Side::left, 1.5), up("S1", 2)}),
              Names{"S1 held 1 s"})
        << "the hold was there before";
}

TEST(Gestures, AttitudeBladeAndPresetDecideWhatIsUnderstood) {
    auto map = map_of({"S1", "S1, blade down", "S1"});
    map.commands[2].name = "in one preset", map.commands[2].preset = "Fog horn";
    const auto first = [&](const Circumstance& now) {
        Listener l(map, "lit", now);
        l.hear(down("S1", 0));
        const auto all = l.hear(up("S1", 0.1));
        return all.empty() ? std::string() : map.commands[all[0].commands[0]].name;
    };
    EXPECT_EQ(first({job::Attitude::level, true, ""}), "S1");
    EXPECT_EQ(first({job::Attitude::down, true, ""}), "S1, blade down");
    EXPECT_EQ(first({job::Attitude::level, true, "Fog horn"}), "in one preset");
    map.commands[0].blade = job::BladeThere::in;
    EXPECT_EQ(first({job::Attitude::level, false, ""}), "") << "the blade is out";
}

TEST(Gestures, LatenessIsWhatTheMachineWaits) {
    const auto map = map_of({"S1", "S1 twice", "S1 held 1 s", "S1 held 3 s", "S2", "S2 then S1"});
    const auto of = [&](std::size_t c) { return lateness(map, map.commands[c], {}); };
    EXPECT_NEAR(of(0), 0.4 + 0.15, 1e-12) << "until no second press comes";
    EXPECT_EQ(of(1), 0);
    EXPECT_NEAR(of(2), 2, 1e-12) << "it may still become the longer one";
    EXPECT_EQ(of(3), 0);
    EXPECT_NEAR(of(4), 0.15, 1e-12) << "a chord begins with it";
    EXPECT_EQ(of(5), 0);
}

} // namespace
} // namespace conductus::handling
