// SPDX-License-Identifier: GPL-3.0-or-later
// A clean job plus one planted mistake raises exactly one finding; its fix takes it away again.
#include <set>

#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/plan/plan.h"
#include "support/fixtures.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;

std::set<std::string> ids(const plan::Plan& plan) {
    std::set<std::string> set;
    for (const Finding& f : plan.findings)
        set.insert(f.id);
    return set;
}

const Finding* find(const plan::Plan& plan, const std::string& id) {
    for (const Finding& f : plan.findings)
        if (f.id == id) return &f;
    return nullptr;
}

TEST(Findings, ACleanJobHasTheCautionsAlone) {
    const plan::Plan plan = plan_of(clean_job());
    EXPECT_EQ(ids(plan), std::set<std::string>{"cell.lithium-cautions"});
    EXPECT_EQ(plan.findings[0].severity, Severity::note);
    EXPECT_NE(plan.findings[0].detail.find("licensed people"), std::string::npos);
}

struct Mistake {
    const char* name;
    const char* id;
    Severity severity;
    bool has_fix;
    void (*plant)(Job&);
};

class Planted : public testing::TestWithParam<Mistake> {};

TEST_P(Planted, RaisesExactlyOneFinding) {
    const Mistake& m = GetParam();
    Job job = clean_job();
    m.plant(job);
    ASSERT_TRUE(job::validate(job, parts()));
    const plan::Plan plan = plan_of(job);
    EXPECT_EQ(ids(plan), (std::set<std::string>{m.id, "cell.lithium-cautions"}));
    const Finding* f = find(plan, m.id);
    ASSERT_TRUE(f);
    EXPECT_EQ(f->severity, m.severity);
    EXPECT_FALSE(f->where.empty());
    EXPECT_FALSE(f->evidence.empty());
    EXPECT_FALSE(f->text.empty());
    EXPECT_EQ(f->fix.has_value(), m.has_fix);
    if (!f->fix) return;
    EXPECT_FALSE(f->fix->text.empty());
    f->fix->edit(job);
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_FALSE(ids(plan_of(job)).contains(m.id)) << f->fix->text;
}

INSTANTIATE_TEST_SUITE_P(
    All, Planted,
    testing::Values(
        Mistake{"ProtectionTrips", "cell.protection-trips", Severity::stop, true,
                [](Job& j) {
                    j.parts[1].protection = "protection.5a";
                    j.effects[0].cap = 1;
                }},
        Mistake{"CellOverContinuous", "cell.over-continuous", Severity::stop, true,
                [](Job& j) {
                    job::fit_type("B1", "cell.14500")(j);
                    j.parts[1].measured = {Ohm(0.01), MilliAmpereHour(3000)};
                    for (auto& s : j.blades[0].strips)
                        s.rail = OhmPerMetre(0.01);
                    j.looks.push_back({"Searchlight", {1, 1, 1, 0}, job::Style::steady, 1});
                }},
        Mistake{"Pins", "pins.over-current", Severity::stop, true,
                [](Job& j) { job::fit_type("P1", "connector.pins-3")(j); }},
        Mistake{"Kill", "kill.over-current", Severity::warn, true,
                [](Job& j) {
                    job::fit_type("K1", "kill.slide-3a")(j);
                    j.parts[2].measured.resistance = Ohm(0.01);
                }},
        Mistake{"Crackle", "sound.crackle-early", Severity::warn, false,
                [](Job& j) { j.use.clean = Minute(600); }},
        Mistake{"TipDim", "blade.tip-dim", Severity::warn, true,
                [](Job& j) {
                    for (auto& s : j.blades[0].strips)
                        s.rail = OhmPerMetre(0.5);
                    j.looks.push_back({"Searchlight", {1, 1, 1, 0}, job::Style::steady, 0.8});
                }},
        Mistake{"Count", "strip.count-mismatch", Severity::warn, true,
                [](Job& j) { j.blades[0].strips[1].pixels = 100; }},
        Mistake{"TooWide", "fit.body-does-not-fit", Severity::stop, true,
                [](Job& j) {
                    job::fit_type("B1", "cell.26650")(j);
                    j.parts[1].at = Millimetre(15);
                    j.parts[1].measured.resistance = Ohm(0.02);
                }},
        Mistake{"InTheWay", "fit.body-does-not-fit", Severity::stop, false,
                [](Job& j) { j.parts[2].at = Millimetre(108); }},
        Mistake{"NoKill", "supply.no-kill", Severity::warn, true,
                [](Job& j) {
                    std::erase_if(j.wires, [](const job::Wire& w) { return w.ref == "W2"; });
                    job::find_ref(j.wires, "W1")->to = "U1.bat";
                }},
        Mistake{"NotWired", "supply.not-solved", Severity::stop, false,
                [](Job& j) {
                    std::erase_if(j.wires, [](const job::Wire& w) { return w.ref == "W3"; });
                }}),
    [](const auto& tested) { return tested.param.name; });

TEST(Findings, PinsNameTheirEvidence) {
    const plan::Plan plan = plan_of(demo("heron"));
    const Finding* f = find(plan, "pins.over-current");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->where[0], "P1");
    EXPECT_EQ(f->where[1], "clash flash");
    EXPECT_GT(f->evidence[0].value, f->evidence[1].value);
    EXPECT_EQ(f->evidence[1].value, 3);
    EXPECT_EQ(plan.worst(Station::power), Severity::stop);
    EXPECT_FALSE(plan.worst(Station::hilt));
}

TEST(Findings, StopsComeFirst) {
    Job job = demo("heron");
    job.parts[2].at = Millimetre(108);
    const plan::Plan plan = plan_of(job);
    for (std::size_t i = 1; i < plan.findings.size(); ++i)
        EXPECT_LE(plan.findings[i - 1].severity, plan.findings[i].severity);
    int fits = 0;
    for (const Finding& f : plan.findings)
        fits += f.id == "fit.body-does-not-fit";
    EXPECT_EQ(fits, 1) << "two parts in each other's way are one finding";
}

} // namespace
} // namespace conductus::findings
