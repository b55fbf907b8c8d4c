// SPDX-License-Identifier: GPL-3.0-or-later
// Mistakes planted one by one for rules of wiring, configuration and charging.
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/plan/analyse.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;

TEST(Rules, AButtonOnTheSupplyIsAStop) {
    Job job = clean_job();
    EXPECT_EQ(find(plan_of(job), "harness.button-on-supply"), nullptr);
    job.wires.push_back({"WX", "K1.out", "S1.a", job::Role::supply, 28, Millimetre(30), {}});
    ASSERT_TRUE(job::validate(job, parts()));
    const auto plan = plan_of(job);
    const Finding* f = find(plan, "harness.button-on-supply");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->where.front(), "S1");
    EXPECT_NE(f->text.english().find("S1 pressed: B1 is shorted"), std::string::npos) << f->text;
    // On a button pad it is fine.
    ASSERT_TRUE(job::take_out_at("/wires/" + std::to_string(job.wires.size() - 1))(job));
    EXPECT_EQ(find(plan_of(job), "harness.button-on-supply"), nullptr);
}

TEST(Rules, ALineThatIsWiredAndNotSetStaysDark) {
    Job job = clean_job();
    ASSERT_TRUE(job::add_accent("pixels.ring-7-rgb", job::Mount::own_line, parts())(job));
    job.lines = {{"U1.d1", 117}, {"U1.d2", 7}};
    const auto set = ids(plan_of(job));
    EXPECT_FALSE(set.contains("config.line-not-set"));
    job.lines.pop_back();
    const auto plan = plan_of(job);
    const Finding* f = find(plan, "config.line-not-set");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::warn);
    ASSERT_TRUE(f->fix);
    ASSERT_TRUE(f->fix->edit(job));
    EXPECT_EQ(job.lines, (std::vector<job::Line>{{"U1.d1", 117}, {"U1.d2", 7}}));
    EXPECT_EQ(ids(plan_of(job)), set);
}

TEST(Rules, AButtonThatIsWiredAndNotSetDoesNothing) {
    Job job = clean_job();
    job::Part second = *job::find_ref(job.parts, "S1");
    second.ref = "S2", second.at = Millimetre(200);
    job.parts.push_back(second);
    job.wires.push_back({"X1", "U1.s2", "S2.a", job::Role::button, 28, Millimetre(40), {}});
    job.wires.push_back({"X2", "U1.gnd", "S2.b", job::Role::button, 28, Millimetre(40), {}});
    job.config = {2, {{"U1.s1", "main"}, {"U1.s2", "second"}}};
    const auto set = ids(plan_of(job));
    EXPECT_FALSE(set.contains("config.button-not-set"));
    job.config.pads.pop_back();
    const auto plan = plan_of(job);
    const Finding* f = find(plan, "config.button-not-set");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->where, std::vector<std::string>{"S2"});
    ASSERT_TRUE(f->fix);
    ASSERT_TRUE(f->fix->edit(job));
    EXPECT_EQ(job.config.pads,
              (std::vector<job::ButtonUse>{{"U1.s1", "main"}, {"U1.s2", "second"}}));
    EXPECT_EQ(ids(plan_of(job)), set);
}

/// The catalogue with another figure in one of its parts, and a plan of the job with it.
template <class T>
plan::Plan plan_with(const Job& job, const std::string& id, void (*change)(T&)) {
    auto other = std::make_shared<catalogue::Catalogue>();
    for (const std::string& each : parts().ids()) {
        catalogue::PartType type = *parts().find(each);
        if (each == id) change(std::get<T>(type.figures));
        EXPECT_TRUE(other->add(std::move(type)));
    }
    return plan::analyse(std::make_shared<const Job>(job), other);
}

TEST(Rules, APortThatTheChargerIsTooMuchForIsAStop) {
    Job job = clean_job();
    job::Part port;
    port.ref = "J1", port.type = "port.charge-2p1", port.at = Millimetre(12);
    job.parts.push_back(port);
    job.charger = "charger.jack-1a";
    EXPECT_EQ(find(plan_of(job), "charge.port-rating"), nullptr) << "1 A through a port for 2 A";
    using catalogue::Port;
    const auto plan =
        plan_with<Port>(job, "port.charge-2p1", [](Port& p) { p.rating = Ampere(0.5); });
    const Finding* f = find(plan, "charge.port-rating");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::stop);
    EXPECT_EQ(f->where.front(), "J1");
    EXPECT_NE(f->text.english().find("J1 takes 500"), std::string::npos) << f->text;
}

TEST(Rules, CellsInARowWantAChargerThatBalances) {
    Job job = demo("godwit");
    job.charger = "charger.pack-2s";
    EXPECT_EQ(find(plan_of(job), "charge.no-balance"), nullptr);
    job.charger = "charger.jack-2s-1a";
    const auto plan = plan_of(job);
    const Finding* f = find(plan, "charge.no-balance");
    ASSERT_NE(f, nullptr);
    EXPECT_FALSE(f->where.empty());
}

} // namespace
} // namespace conductus::findings
