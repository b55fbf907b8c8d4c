// SPDX-License-Identifier: GPL-3.0-or-later
// A clean job plus one planted mistake raises exactly one finding; its fix takes it away again.
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/plan/plan.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;

TEST(Findings, ACleanJobHasTheCautionsAlone) {
    const plan::Plan plan = plan_of(clean_job());
    EXPECT_EQ(ids(plan), std::set<std::string>{"cell.lithium-cautions"});
    EXPECT_EQ(plan.findings[0].severity, Severity::note);
    EXPECT_NE(plan.findings[0].detail.english().find("licensed people"), std::string::npos);
}

class Planted : public testing::TestWithParam<Mistake> {};

TEST_P(Planted, RaisesExactlyOneFinding) { raises_exactly_one_finding(GetParam()); }

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
                    j.charger.clear();
                    for (auto& s : j.blades[0].strips)
                        s.rail = OhmPerMetre(0.01);
                    for (auto& w : j.wires) // thick enough for it
                        if (w.gauge < 26) w.gauge = 18, w.loop = Millimetre(60);
                    j.looks.push_back({"Searchlight", {1, 1, 1, 0}, job::Style::steady, 1});
                }},
        Mistake{"WireTooShort", "wire.too-short", Severity::warn, true,
                [](Job& j) { job::find_ref(j.wires, "W3")->length = Millimetre(70); }},
        // Only flashes and lock-ups are over it, none is held.
        Mistake{"Pins", "pins.over-current", Severity::warn, true,
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
                    j.parts[1].measured.resistance = Ohm(0.003); // it stays cool
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
        Mistake{"NotWired", "supply.not-solved", Severity::stop, true,
                [](Job& j) {
                    std::erase_if(j.wires, [](const job::Wire& w) { return w.ref == "W3"; });
                }}),
    [](const auto& tested) { return tested.param.name; });

job::Fastener screw(const char* name, double at, const char* holds) {
    return {name,  Millimetre(at),   Degree(270),           "M3", "2 mm hex",
            holds, job::Loosen::may, job::ScrewState::fine, ""};
}

void ride(Job& j, const char* ref, const char* carrier) {
    job::find_ref(j.parts, ref)->carrier = carrier;
}

/// A switch so far off the axis that the chassis has to lie to one side.
void lopsided(Job& j, double off_axis, double board_at) {
    job::find_ref(j.parts, "K1")->off_axis = Millimetre(off_axis);
    job::find_ref(j.parts, "U1")->at = Millimetre(board_at);
}

INSTANTIATE_TEST_SUITE_P(
    Hilt, Planted,
    testing::Values(
        Mistake{"LeftHand", "thread.left-hand", Severity::note, false,
                [](Job& j) {
                    j.hilt.joints = {{"box", Millimetre(168), job::JointKind::thread,
                                      job::Hand::left, Millimetre(1), Millimetre(12)}};
                }},
        Mistake{"Seized", "screw.hard-to-turn", Severity::warn, false,
                [](Job& j) {
                    j.hilt.fasteners = {screw("A", 140, "chassis"), screw("B", 262, "blade")};
                    j.hilt.fasteners[0].state = job::ScrewState::seized;
                }},
        Mistake{"Confused", "screw.confused", Severity::stop, true,
                [](Job& j) {
                    j.hilt.fasteners = {screw("A", 250, "P1"), screw("B", 262, "blade")};
                }},
        Mistake{"Stepped", "socket.does-not-seat", Severity::warn, false,
                [](Job& j) {
                    j.hilt.socket = {
                        Millimetre(25.4),
                        {{Millimetre(41), Millimetre(25.7)}, {Millimetre(54), Millimetre(25.2)}}};
                }},
        Mistake{"Shallow", "socket.too-weak", Severity::warn, false,
                [](Job& j) {
                    j.hilt.socket = {Millimetre(25.4), {{Millimetre(30), Millimetre(25.7)}}};
                }},
        Mistake{"SmallVents", "sound.vents-small", Severity::warn, false,
                [](Job& j) {
                    j.hilt.openings = {{"vent", job::OpeningUse::vent, Millimetre(14), Degree(0),
                                        Millimetre(5), Millimetre(5), ""}};
                }},
        Mistake{"ConeTouches", "sound.cone-touches", Severity::warn, false,
                [](Job& j) {
                    j.hilt.opens = job::End::neither;
                    j.hilt.joints = {{"pommel",
                                      Millimetre(34),
                                      job::JointKind::push_fit,
                                      job::Hand::right,
                                      {},
                                      Millimetre(8)}};
                    j.parts[0].at = Millimetre(0.5);
                }},
        Mistake{"LastTurn", "dock.last-turn", Severity::warn, false,
                [](Job& j) {
                    j.hilt.joints = {{"cap", Millimetre(232), job::JointKind::thread,
                                      job::Hand::right, Millimetre(8), Millimetre(16)}};
                }},
        Mistake{"OffCentre", "fit.off-centre", Severity::warn, true,
                [](Job& j) { lopsided(j, 12, 108); }},
        Mistake{"CarrierBinds", "fit.carrier-binds", Severity::stop, false,
                [](Job& j) { lopsided(j, 13, 112); }},
        Mistake{"NoWayIn", "fit.no-way-in", Severity::stop, false,
                [](Job& j) {
                    j.hilt.carriers = {
                        {"C1", job::CarrierKind::fixed, Millimetre(1.2), job::End::emitter}};
                    for (const char* ref : {"B1", "K1", "U1"})
                        ride(j, ref, "C1");
                }},
        Mistake{"NoOrder", "assembly.no-order", Severity::stop, false,
                [](Job& j) {
                    j.hilt.opens = job::End::both;
                    j.brief.agreements.clear();
                    j.hilt.carriers = {
                        {"C1", job::CarrierKind::removable, Millimetre(1), job::End::emitter},
                        {"C2", job::CarrierKind::removable, Millimetre(1), job::End::pommel}};
                    ride(j, "B1", "C1");
                    ride(j, "K1", "C2");
                    ride(j, "U1", "C2");
                }},
        Mistake{"Crowded", "fit.wires-crowded", Severity::warn, false,
                [](Job& j) {
                    for (int i = 0; i < 24; ++i)
                        j.wires.push_back({"Z" + std::to_string(i),
                                           "U1.spk_plus",
                                           "SP1.plus",
                                           job::Role::sound,
                                           10,
                                           {},
                                           {}});
                }}),
    [](const auto& tested) { return tested.param.name; });

TEST(Findings, ALooseChassisLeansAndItsSlackWantsRoom) {
    Job j = clean_job();
    j.hilt.chassis = job::Chassis::removable;
    j.brief.agreements.clear();
    job::find_ref(j.parts, "U1")->at = Millimetre(170);
    job::find_ref(j.parts, "S1")->at = Millimetre(130);
    const plan::Plan plan = plan_of(j);
    EXPECT_EQ(ids(plan), (std::set<std::string>{"cell.lithium-cautions", "dock.leans",
                                                "harness.no-coil-room"}));
    EXPECT_EQ(find(plan, "dock.leans")->severity, Severity::warn);
    EXPECT_FALSE(find(plan, "dock.leans")->where.empty());
}

TEST(Findings, PinsNameTheirEvidence) {
    Job heron = demo("heron");
    survey_plainly(heron);
    const plan::Plan plan = plan_of(heron);
    const Finding* f = find(plan, "pins.over-current");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->where[0], "P1");
    EXPECT_EQ(f->where[1], "Moonrise") << "a flash is over before a pin is warm";
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
