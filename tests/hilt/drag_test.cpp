// SPDX-License-Identifier: GPL-3.0-or-later
// A part moved by hand: what it snaps to.
#include "core/hilt/drag.h"

#include "core/hilt/body.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;

Snap snapped(const job::Job& job, const char* ref, double wanted, double within = 1.5) {
    return snap_along(job, parts(), ref, Millimetre(wanted), Millimetre(within));
}

TEST(Drag, SnapsToShouldersNeighboursAndEnds) {
    const job::Job job = demo("heron");
    // The ring begins at 150 mm; the board, 40 mm long, comes to lie with its end there.
    const Snap ring = snapped(job, "U1", 109.2);
    EXPECT_NEAR(ring.at.value(), 110, 1e-9);
    EXPECT_EQ(ring.to, "the shoulder at " + text(Millimetre(150)));
    const PlacedBody cell = place(*job::find_ref(job.parts, "B1"), job.hilt, parts());
    const Snap beside = snapped(job, "K1", cell.to.value() + 0.7);
    EXPECT_NEAR(beside.at.value(), cell.to.value(), 1e-9);
    EXPECT_EQ(beside.to, "the end of B1");
    EXPECT_EQ(snapped(job, "SP1", 0.4).to, "the pommel end");
    // The kill has its slot at 102 mm, and is 12 mm long.
    const Snap slot = snapped(job, "K1", 95.3, 1);
    EXPECT_EQ(slot.to, "the middle of kill slot");
    EXPECT_NEAR(slot.at.value(), 96, 1e-9);
}

TEST(Drag, FarFromEverythingItLiesWhereItWasWanted) {
    const job::Job job = demo("heron");
    const Snap free = snapped(job, "U1", 60.04, 0.5);
    EXPECT_TRUE(free.to.empty());
    EXPECT_NEAR(free.at.value(), 60.0, 1e-9);
    EXPECT_EQ(snapped(job, "SP1", -7, 0.5).at, Millimetre(0));
}

TEST(Drag, NudgesAddUpAndStayInTheHilt) {
    job::Job job = demo("heron");
    const job::Part was = *job::find_ref(job.parts, "U1");
    for (int i = 0; i < 10; ++i)
        ASSERT_TRUE(nudge_part("U1", Millimetre(0.1), Millimetre(-0.1), Degree(0))(job));
    const job::Part& now = *job::find_ref(job.parts, "U1");
    EXPECT_DOUBLE_EQ(now.at.value(), was.at.value() + 1);
    EXPECT_DOUBLE_EQ(now.off_axis.value(), was.off_axis.value() - 1);
    ASSERT_TRUE(move_part("U1", place_of(was))(job));
    EXPECT_EQ(*job::find_ref(job.parts, "U1"), was);
    ASSERT_TRUE(nudge_part("SP1", Millimetre(-100), Millimetre(0), Degree(0))(job));
    EXPECT_EQ(job::find_ref(job.parts, "SP1")->at, Millimetre(0));
    EXPECT_TRUE(job::validate(job, parts()));
    EXPECT_FALSE(move_part("X9", {})(job));
}

} // namespace
} // namespace conductus::hilt
