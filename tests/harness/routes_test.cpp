// SPDX-License-Identifier: GPL-3.0-or-later
// Lengths worked by hand for each school of chassis.
#include "core/hilt/route.h"

#include <cmath>
#include <numbers>

#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;

/// Heron: cell 22 to 90.2 with its protection, kill 96 to 108, board 112 to 152, connector from
/// 218; ring of 25.2 bore between 150 and 168.
job::Job heron() {
    job::Job job = one_button_heron();
    for (job::Joint& joint : job.hilt.joints) // turns have a test of their own
        joint.engaged = Millimetre(0);
    return job;
}

Route route_of(const job::Job& job, const std::string& ref) {
    return Router(job, parts()).route(*job::find_ref(job.wires, ref));
}

TEST(Routes, WithNothingBetweenAWireGoesStraight) {
    const job::Job job = heron();
    const Route r = route_of(job, "W1"); // B1.plus to K1.in
    EXPECT_TRUE(r.straight);
    EXPECT_NEAR(r.along.value(), 96 - 90.2, 1e-9);
    EXPECT_NEAR(r.length().value(), 5.8 + 10 + 15, 1e-9);
}

TEST(Routes, AFixedChassisGoesAlongTheWallWithOneServiceLoop) {
    const job::Job job = heron();
    const Route r = route_of(job, "W3"); // U1.bat to P1.plus, past the ring
    EXPECT_FALSE(r.straight);
    EXPECT_NEAR(r.from.value(), 114, 1e-9); // two off the board's end, one off its edge
    const double wall = 25.2 / 2 - 1.5;
    EXPECT_NEAR(r.along.value(), (218 - 114) + (wall - 8.5) + wall, 1e-9);
    EXPECT_NEAR(r.around.value(), 0, 1e-9); // the connector's terminal is on the axis
    EXPECT_NEAR(r.slack.value(), 15, 1e-9);
    EXPECT_NEAR(r.length().value(), 104 + 2.6 + 11.1 + 10 + 15, 1e-9);
}

TEST(Routes, RoundTheBoreItIsAnArc) {
    job::Job job = heron();
    const Route was = route_of(job, "W3");
    job::find_ref(job.wires, "W3")->turn = Degree(0); // from the side, -90, to the top
    const Route r = route_of(job, "W3");
    EXPECT_NEAR(r.around.value(), 11.1 * std::numbers::pi / 2, 1e-9);
    EXPECT_NEAR(r.along.value(), was.along.value(), 1e-9);
    // The button sits at the top, a half bore from the pads on the edge.
    const Route button = route_of(job, "W8");
    EXPECT_GT(button.around.value(), 5);
}

TEST(Routes, ASlideOutChassisTakesItsWithdrawalAndACoil) {
    job::Job job = heron();
    job.hilt.carriers[0].kind = job::CarrierKind::slide_out;
    // The carrier's far end, 152, comes out at the pommel's joint, 34: 118 farther from P1.
    const Route r = route_of(job, "W3");
    EXPECT_NEAR(r.slack.value(), 118 + 15, 1e-9);
    EXPECT_NE(r.why.english().find("118"), std::string::npos);
    // What rides together needs none of that.
    EXPECT_NEAR(route_of(job, "W1").slack.value(), 15, 1e-9);
    // The speaker is on the way out: the board passes it.
    const double before =
        std::abs(route_of(job, "W10").from.value() - route_of(job, "W10").to.value());
    const double after =
        std::abs(route_of(job, "W10").from.value() - 118 - route_of(job, "W10").to.value());
    EXPECT_NEAR(route_of(job, "W10").slack.value(), std::max(0.0, after - before) + 15, 1e-9);
}

TEST(Routes, ThroughAThreadAWireHasWhatTheTurnsTake) {
    job::Job job = heron();
    const Millimetre before = route_of(job, "W3").length();
    job::Joint& box = *job::find_name(job.hilt.joints, "box"); // at 168
    box.pitch = Millimetre(1), box.engaged = Millimetre(12);
    // Through it go W3 and W5 to W9: 20 AWG, 22, 22 and three of 28, each with 0.5 mm around it.
    double area = 0;
    for (const double bare : {0.8118, 0.6438, 0.6438, 0.3211, 0.3211, 0.3211})
        area += std::numbers::pi / 4 * (bare + 1) * (bare + 1);
    const double radius = std::sqrt(area / std::numbers::pi) / 2;
    const double taken =
        std::hypot(before.value(), 2 * std::numbers::pi * radius * 12) - before.value();
    const Route r = route_of(job, "W3");
    EXPECT_NEAR(r.twist.value(), taken, 0.01);
    EXPECT_NEAR(r.length().value(), before.value() + taken, 0.01);
    EXPECT_GT(taken, 5);
    EXPECT_NE(r.why.english().find("turns"), std::string::npos);
    // What does not go through it has nothing of it.
    EXPECT_EQ(route_of(job, "W1").twist, Millimetre(0));
    // More turns, more wire; a way that is longer is wound up less.
    box.engaged = Millimetre(20);
    EXPECT_GT(route_of(job, "W3").twist, r.twist);
    EXPECT_GT(wound_up(100, 2, 5), wound_up(200, 2, 5));
    EXPECT_EQ(wound_up(100, 2, 0), 0);
}

TEST(Routes, ADockCutsAWireInTwoWithoutSlack) {
    job::Job job = docked_heron();
    job.hilt.joints = heron().hilt.joints;
    ASSERT_TRUE(job::validate(job, parts()));
    const Route r = route_of(job, "W3");
    ASSERT_EQ(r.docks, std::vector<std::string>{"DK1"});
    ASSERT_EQ(r.pieces.size(), 2u);
    const double wall = 25.2 / 2 - 1.5;
    // To the dock past the board's end and the ring; on past the button to the connector.
    EXPECT_NEAR(r.pieces[0].value(), (158 - 114) + (wall - 8.5) + wall + 10, 1e-9);
    EXPECT_NEAR(r.slack.value(), 0, 1e-9);
    EXPECT_NEAR(r.length().value(), r.pieces[0].value() + r.pieces[1].value(), 1e-9);
    EXPECT_GE(r.pieces[1].value(), 218 - 164 + 10);
    // What does not cross it is whole.
    EXPECT_TRUE(route_of(job, "W1").docks.empty());
    // Without a dock a removable chassis wants its wires long enough to come out.
    job.parts.pop_back();
    EXPECT_NEAR(route_of(job, "W3").slack.value(), 118 + 15, 1e-9);
}

/// Contacts of a wire across the dock.
std::vector<std::string> pins_of(const job::Job& job, const std::string& wire) {
    for (const Rail& rail : runs_of(job, parts()).rails)
        if (rail.wire == wire) return rail.pins;
    return {"does not cross it"};
}

TEST(Docks, ContactsGoToWiresOfTheirPoleAndWhatIsLeftToTheThickest) {
    using Pins = std::vector<std::string>;
    job::Job job = docked_heron();
    // 2 plus, 3 minus, 1 data for one supply, two switched negatives, data, both sides of a
    // button.
    EXPECT_EQ(pins_of(job, "W3"), Pins{"plus1"});
    EXPECT_EQ(pins_of(job, "W5"), Pins{"minus1"});
    EXPECT_EQ(pins_of(job, "W6"), Pins{"minus2"});
    EXPECT_EQ(pins_of(job, "W9"), Pins{"plus2"});
    EXPECT_EQ(pins_of(job, "W7"), Pins{"data1"});
    EXPECT_EQ(pins_of(job, "W8"), Pins{"minus3"}); // no data contact is left for the button
    EXPECT_EQ(pins_of(job, "W1"), Pins{"does not cross it"});
    std::erase_if(job.wires, [](const job::Wire& w) { return w.ref == "W8" || w.ref == "W9"; });
    EXPECT_EQ(pins_of(job, "W3"), (Pins{"plus1", "plus2"}));
    EXPECT_EQ(pins_of(job, "W5"), (Pins{"minus1", "minus3"}));
    job::find_ref(job.wires, "W6")->gauge = 20; // thicker than W5
    EXPECT_EQ(pins_of(job, "W6"), (Pins{"minus2", "minus3"}));
    // A wire whose length was measured crosses it all the same.
    job::find_ref(job.wires, "W3")->length = Millimetre(170);
    EXPECT_EQ(pins_of(job, "W3"), (Pins{"plus1", "plus2"}));
    // Where no carrier is listed the school says what docks.
    job.hilt.carriers.clear();
    for (job::Part& part : job.parts)
        part.carrier.clear();
    job.hilt.chassis = job::Chassis::removable;
    EXPECT_EQ(pins_of(job, "W3"), (Pins{"plus1", "plus2"}));
    job.hilt.chassis = job::Chassis::fixed;
    EXPECT_EQ(pins_of(job, "W3"), Pins{"does not cross it"});
}

TEST(Routes, WhatWasMeasuredGoesBeforeTheRoute) {
    job::Job job = heron();
    const Lengths by_route = runs_of(job, parts()).lengths;
    EXPECT_NEAR(by_route.at("W3").value(), 142.7, 1e-9);
    job::find_ref(job.wires, "W3")->length = Millimetre(160);
    job::find_ref(job.wires, "W1")->loop = Millimetre(12);
    const Lengths lengths = runs_of(job, parts()).lengths;
    EXPECT_EQ(lengths.at("W3"), Millimetre(160));
    EXPECT_NEAR((lengths.at("W1") - by_route.at("W1")).value(), 12, 1e-9);
    EXPECT_EQ(lengths.at("W4"), by_route.at("W4"));
}

TEST(Routes, ACellTurnedRoundChangesItsEnds) {
    job::Job job = heron();
    const Route was = route_of(job, "W4"); // B1.minus at the pommel side
    EXPECT_NEAR(was.from.value(), 22, 1e-9);
    job::find_ref(job.parts, "B1")->minus_faces = job::End::emitter;
    EXPECT_NEAR(route_of(job, "W4").from.value(), 90.2, 1e-9);
    EXPECT_LT(route_of(job, "W4").length(), was.length());
}

TEST(Routes, NeverShorterThanTheWayBetweenItsEnds) {
    std::mt19937 random(71);
    for (int i = 0; i < rounds(200); ++i) {
        job::Job job = random_job(random);
        const Router router(job, parts());
        for (const job::Wire& w : job.wires) {
            const Route r = router.route(w);
            const auto a = router.spot(w.from), b = router.spot(w.to);
            if (!a || !b) continue;
            EXPECT_GE(r.length().value(), std::abs(a->z - b->z) + 10 - 1e-9) << w.ref;
            Millimetre sum;
            for (const Millimetre p : r.pieces)
                sum += p;
            EXPECT_NEAR(sum.value(), r.length().value(), 1e-9);
        }
    }
}

} // namespace
} // namespace conductus::hilt
