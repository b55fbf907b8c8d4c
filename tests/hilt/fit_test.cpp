// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/fit.h"

#include <cmath>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;

/// One plain tube of 100 mm, bore 30, with one part.
job::Job tube(const std::string& type, double at) {
    job::Job job;
    job.name = "tube";
    job.hilt.sections = {{"tube", Millimetre(0), Millimetre(100), Millimetre(30), Millimetre(35)}};
    job.hilt.chassis_wall = Millimetre(1);
    job.parts = {{"X1", type, Millimetre(at), Millimetre(0), {}, job::CellTop::flat, {}}};
    return job;
}

TEST(Fit, CylinderByHand) {
    const Fit f = fit(tube("cell.18650-power", 10), parts());
    ASSERT_EQ(f.clearances.size(), 1u);
    EXPECT_NEAR(f.clearances[0].spare.value(), 30 - 18.5 - 2, 1e-9); // a wall on either side
    EXPECT_EQ(f.clearances[0].against, "tube");
    EXPECT_NEAR(f.bodies[0].to.value(), 75.2, 1e-9);
}

TEST(Fit, OffTheAxisItStillNeedsItsOwnCircle) {
    // What lies off the axis can be moved; where it is as placed is another figure.
    job::Job job = tube("speaker.28-4ohm", 10);
    for (const double off : {1.5, -1.5}) {
        job.parts[0].off_axis = Millimetre(off);
        const Fit f = fit(job, parts());
        EXPECT_NEAR(f.clearances[0].spare.value(), 30 - 28, 1e-9); // no wall round a speaker
        EXPECT_NEAR(f.passes[0].as_placed.value(), 30 - 28 - 3, 1e-9);
        EXPECT_NEAR(f.passes[0].move_up.value(), -off, 1e-9);
    }
}

TEST(Fit, BoxNeedsItsDiagonal) {
    const Fit f = fit(tube("board.standard", 10), parts());
    EXPECT_NEAR(f.bodies[0].need.value(), std::hypot(19, 6.5) + 2, 1e-9);
}

TEST(Fit, ProtectionAndButtonTopLengthenTheCell) {
    job::Job job = tube("cell.18350", 0);
    job.parts[0].protection = "protection.8a";
    job.parts[0].top = job::CellTop::button;
    EXPECT_NEAR(fit(job, parts()).bodies[0].body.length.value(), 35 + 3 + 1.8, 1e-9);
}

TEST(Fit, OutOfTheEnd) {
    const Fit f = fit(tube("cell.18650-power", 50), parts());
    EXPECT_NEAR(f.tightest()->spare.value(), -15.2, 1e-9);
    EXPECT_EQ(f.tightest()->against, "end of the hilt");
}

TEST(Fit, PartsInEachOthersWay) {
    job::Job job = tube("cell.18350", 10);
    job.parts.push_back(
        {"K1", "kill.slide-5a", Millimetre(40), Millimetre(0), {}, job::CellTop::flat, {}});
    const Fit f = fit(job, parts());
    EXPECT_NEAR(f.of("X1")->spare.value(), -5, 1e-9);
    EXPECT_EQ(f.of("X1")->against, "K1");
    EXPECT_EQ(f.of("K1")->against, "X1");
    // Beside it, they pass each other.
    job.parts[1].off_axis = Millimetre(12.2);
    EXPECT_NE(fit(job, parts()).of("X1")->against, "K1");
}

TEST(Fit, WhatRidesInMustPassTheRing) {
    job::Job job = tube("cell.26650", 30);
    job.hilt.sections = {{"mouth", Millimetre(0), Millimetre(10), Millimetre(24), Millimetre(35)},
                         {"tube", Millimetre(10), Millimetre(100), Millimetre(30), Millimetre(35)}};
    const Fit in = fit(job, parts());
    EXPECT_NEAR(in.tightest()->spare.value(), 24 - 28.2, 1e-9);
    EXPECT_TRUE(in.tightest()->on_the_way);
    EXPECT_EQ(in.tightest()->against, "mouth");
    job.hilt.opens = job::End::emitter; // from the other end nothing is in the way
    EXPECT_NEAR(fit(job, parts()).tightest()->spare.value(), 30 - 28.2, 1e-9);
}

TEST(Fit, OpeningABoreNeverMakesItWorse) {
    std::mt19937 random(21);
    for (int i = 0; i < rounds(200); ++i) {
        job::Job job = random_job(random);
        const Fit before = fit(job, parts());
        auto& s = job.hilt.sections[random() % job.hilt.sections.size()];
        s.bore += Millimetre(2);
        s.outer += Millimetre(2);
        if (s.bore_end) *s.bore_end += Millimetre(2);
        const Fit after = fit(job, parts());
        EXPECT_GE(after.tightest()->spare, before.tightest()->spare - Millimetre(1e-9));
        for (const Clearance& c : before.clearances)
            if (job::find_ref(before.bodies, c.ref)) {
                EXPECT_GE(after.of(c.ref)->spare, c.spare - Millimetre(1e-9)) << c.ref;
            }
    }
}

TEST(Fit, TakingAPartOutNeverMakesItWorse) {
    std::mt19937 random(23);
    for (int i = 0; i < rounds(200); ++i) {
        job::Job job = random_job(random);
        const Fit before = fit(job, parts());
        const std::size_t k = random() % job.parts.size();
        const std::string gone = job.parts[k].ref + " " + job.parts[k].type;
        job.parts.erase(job.parts.begin() + static_cast<std::ptrdiff_t>(k));
        const Fit after = fit(job, parts());
        for (const Clearance& c : after.clearances)
            if (job::find_ref(after.bodies, c.ref)) {
                EXPECT_GE(c.spare.value(), before.of(c.ref)->spare.value() - 1e-9)
                    << c.ref << " without " << gone << " in round " << i;
            }
    }
}

TEST(Fit, NoSurveyNoClearance) {
    job::Job job = tube("cell.18350", 0);
    job.hilt.sections.clear();
    EXPECT_TRUE(fit(job, parts()).clearances.empty());
    EXPECT_EQ(fit(job, parts()).tightest(), nullptr);
}

TEST(Trial, MovesACellIntoTheRoomThereIs) {
    const job::Job heron = demo("heron");
    // From its place a longer cell would hit the switch; moved toward the speaker it fits.
    const Trial longer = try_type(heron, parts(), "B1", "cell.21700-capacity");
    EXPECT_GT(longer.clearance.spare.value(), 0);
    EXPECT_LE(longer.at, Millimetre(22));
    job::Job fitted = heron;
    job::fit_type("B1", "cell.21700-capacity")(fitted);
    job::find_ref(fitted.parts, "B1")->at = longer.at;
    EXPECT_NEAR(fit(fitted, parts()).of("B1")->spare.value(), longer.clearance.spare.value(), 1e-9);
    const Trial wide = try_type(heron, parts(), "B1", "cell.26650");
    EXPECT_LT(wide.clearance.spare.value(), 0);
}

TEST(Trial, SaysTheWholeLengthThatIsMissing) {
    // From the speaker's end at 7.5 to the kill plug at 53 there are 45.5 mm; more than the plug's
    // own length may be missing.
    const job::Job dunlin = demo("dunlin");
    EXPECT_NEAR(try_type(dunlin, parts(), "B1", "cell.18650-power").clearance.spare.value(),
                45.5 - 68.2, 1e-9);
    EXPECT_NEAR(try_type(dunlin, parts(), "B1", "cell.21700-power").clearance.spare.value(),
                45.5 - 73.2, 1e-9);
}

TEST(Trial, DunlinTakesOnlyTheShortCell) {
    const job::Job dunlin = demo("dunlin");
    for (const auto* type : parts().all<catalogue::Cell>()) {
        const Trial t = try_type(dunlin, parts(), "B1", type->id);
        if (t.on_way < Millimetre(0)) {
            EXPECT_FALSE(t.way.empty()) << type->id; // it says what it does not pass
        }
        EXPECT_EQ(t.clearance.spare >= dunlin.hilt.clearance, type->id == "cell.18350") << type->id;
    }
}

} // namespace
} // namespace conductus::hilt
