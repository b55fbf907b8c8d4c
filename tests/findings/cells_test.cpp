// SPDX-License-Identifier: GPL-3.0-or-later
// Cells planted wrongly: each mistake is told, and told in numbers.
#include "core/job/lookup.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;

TEST(Cells, ReversedIsAStopThatTurnsItRound) {
    Job job = clean_job();
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to}) {
            if (*end == "B1.plus")
                *end = "B1.minus";
            else if (*end == "B1.minus")
                *end = "B1.plus";
        }
    const plan::Plan plan = plan_of(job);
    const Finding* f = find(plan, "cell.reversed");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::stop);
    EXPECT_NE(f->detail.english().find("destroyed"), std::string::npos);
    ASSERT_TRUE(f->fix);
    f->fix->edit(job);
    EXPECT_EQ(find(plan_of(job), "cell.reversed"), nullptr);
    EXPECT_EQ(ids(plan_of(job)), std::set<std::string>{"cell.lithium-cautions"});
}

TEST(Cells, OneOfARowTheOtherWayRound) {
    Job job = demo("godwit");
    EXPECT_EQ(find(plan_of(job), "cell.reversed"), nullptr);
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to}) {
            if (*end == "B2.plus")
                *end = "B2.minus";
            else if (*end == "B2.minus")
                *end = "B2.plus";
        }
    EXPECT_NE(find(plan_of(job), "cell.reversed"), nullptr);
}

TEST(Cells, ShortedSaysWhatCouldFlow) {
    Job job = clean_job();
    EXPECT_EQ(find(plan_of(job), "cell.shorted"), nullptr);
    job.wires.push_back(
        {"WX", "K1.out", "B1.minus", job::Role::return_path, 20, Millimetre(30), {}});
    const plan::Plan plan = plan_of(job);
    const Finding* f = find(plan, "cell.shorted");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::stop);
    const auto* cell = job::find_ref(job.parts, "B1");
    const double ohms = cell->measured.resistance
                            ? cell->measured.resistance->value()
                            : parts().find_as<catalogue::Cell>(cell->type)->resistance.value();
    EXPECT_NEAR(f->evidence.front().value, 4.18 / ohms, 1e-6);
}

TEST(Cells, MixedInAPackAreToldBySort) {
    Job job = demo("godwit");
    EXPECT_EQ(find(plan_of(job), "cell.mixed-pack"), nullptr);
    job::find_ref(job.parts, "B2")->measured.capacity = MilliAmpereHour(1000);
    const plan::Plan tired = plan_of(job);
    ASSERT_NE(find(tired, "cell.mixed-pack"), nullptr);
    EXPECT_EQ(find(tired, "cell.mixed-pack")->severity, Severity::warn);
    job::find_ref(job.parts, "B2")->type = "cell.14500";
    const plan::Plan other = plan_of(job);
    const Finding* f = find(other, "cell.mixed-pack");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::stop);
    ASSERT_TRUE(f->fix);
    f->fix->edit(job);
    EXPECT_EQ(find(plan_of(job), "cell.mixed-pack"), nullptr);
}

TEST(Cells, HeldTooHotIsTold) {
    Job job = clean_job();
    job.use.temperature = Celsius(50);
    job::find_ref(job.parts, "B1")->measured.resistance = Ohm(0.06);
    job.looks.push_back({"Snow", {1, 1, 1, 0}, job::Style::steady, 1, {}});
    job.use.look = "Snow";
    const plan::Plan plan = plan_of(job);
    const Finding* f = find(plan, "cell.hot");
    ASSERT_NE(f, nullptr);
    double reaches = 0;
    for (const auto& s : plan.run->samples)
        reaches = std::max(reaches, s.warmth.value());
    EXPECT_EQ(f->evidence.front().value, reaches);
    EXPECT_GT(reaches, 60);
    job.use.temperature = Celsius(20);
    EXPECT_EQ(find(plan_of(job), "cell.hot"), nullptr) << "cells do not stay full";
}

TEST(Cells, ABareCellIsNotChargedInTheHilt) {
    Job job = clean_job();
    job.charger = "charger.jack-1a";
    EXPECT_NE(find(plan_of(job), "charge.no-port"), nullptr);
    job::Part port;
    port.ref = "J1";
    port.type = "port.charge-2p1";
    job.parts.push_back(port);
    EXPECT_EQ(find(plan_of(job), "charge.no-port"), nullptr);
    job::find_ref(job.parts, "B1")->protection.reset();
    const plan::Plan plan = plan_of(job);
    ASSERT_NE(find(plan, "charge.bare-in-hilt"), nullptr);
    EXPECT_EQ(find(plan, "charge.bare-in-hilt")->severity, Severity::stop);
}

} // namespace
} // namespace conductus::findings
