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
    job::Job job = demo("heron");
    for (job::Wire& w : job.wires)
        w.length.reset();
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
    EXPECT_NE(r.why.find("118"), std::string::npos);
    // What rides together needs none of that.
    EXPECT_NEAR(route_of(job, "W1").slack.value(), 15, 1e-9);
    // The speaker is on the way out: the board passes it.
    const double before =
        std::abs(route_of(job, "W10").from.value() - route_of(job, "W10").to.value());
    const double after =
        std::abs(route_of(job, "W10").from.value() - 118 - route_of(job, "W10").to.value());
    EXPECT_NEAR(route_of(job, "W10").slack.value(), std::max(0.0, after - before) + 15, 1e-9);
}

TEST(Routes, ADockCutsAWireInTwoWithoutSlack) {
    job::Job job = heron();
    job.hilt.carriers[0].kind = job::CarrierKind::removable;
    job::Part dock;
    dock.ref = "DK1";
    dock.type = "connector.dock-6";
    dock.at = Millimetre(158); // to 164
    job.parts.push_back(dock);
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

TEST(Routes, WhatWasMeasuredGoesBeforeTheRoute) {
    job::Job job = heron();
    const Lengths by_route = lengths_of(job, parts());
    EXPECT_NEAR(by_route.at("W3").value(), 142.7, 1e-9);
    job::find_ref(job.wires, "W3")->length = Millimetre(160);
    job::find_ref(job.wires, "W1")->loop = Millimetre(12);
    const Lengths lengths = lengths_of(job, parts());
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
