// SPDX-License-Identifier: GPL-3.0-or-later
// Planted mistakes in lights: each raises its one finding, and the fix takes it away.
#include "core/findings/rules.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/plan/plan.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;
using job::Role;

constexpr double room = 190; ///< where nothing is fitted in the bore

/// A part that rides in its wires or sits in the wall, or where there is room for it.
job::Part& part(Job& j, const char* ref, const char* type, double at = 150) {
    job::Part& p = j.parts.emplace_back();
    p.ref = ref;
    p.type = type;
    p.at = Millimetre(at);
    return p;
}

void wire(Job& j, const std::string& from, const std::string& to, Role role, int gauge = 26) {
    j.wires.push_back({"X" + std::to_string(j.wires.size()), from, to, role, gauge, {}, {}});
}

/// A 3 mm LED behind a resistor, to a pad.
void led(Job& j, double ohms, const char* to = "U1.l3") {
    part(j, "D1", "led.3mm-white", room);
    part(j, "R1", "resistor.0w25").chosen.resistance = Ohm(ohms);
    wire(j, "U1.bat", "R1.a", Role::supply);
    wire(j, "R1.b", "D1.plus", Role::supply);
    wire(j, "D1.minus", to, Role::return_path);
}

class Loads : public testing::TestWithParam<Mistake> {};

TEST_P(Loads, RaisesExactlyOneFinding) { raises_exactly_one_finding(GetParam()); }

INSTANTIATE_TEST_SUITE_P(
    All, Loads,
    testing::Values(
        Mistake{"Pad", "pad.over-current", Severity::stop, true,
                [](Job& j) {
                    std::erase_if(j.wires, [](const job::Wire& w) { return w.ref == "W6"; });
                    job::find_ref(j.wires, "W5")->gauge = 18; // alone, and thick enough
                    j.parts[1].protection = "protection.12a";
                    for (auto& w : j.wires)
                        if (w.gauge < 26 && w.ref != "W5") w.gauge = 16;
                    j.looks.push_back({"Snow", {1, 1, 1, 0}, job::Style::steady, 1, {}});
                    for (auto& s : j.blades[0].strips)
                        s.rail = OhmPerMetre(0.02);
                    j.parts[1].measured.resistance = Ohm(0.004);
                }},
        Mistake{"TooManyPixels", "line.too-many-pixels", Severity::stop, false,
                [](Job& j) {
                    job::fit_type("U1", "board.small")(j);
                    wire(j, "ST1.out", "ST2.data", Role::data);
                }},
        Mistake{"Programmed", "line.programmed-differs", Severity::warn, true,
                [](Job& j) {
                    j.lines = {{"U1.d1", 110}};
                }},
        Mistake{"NoData", "line.no-data", Severity::warn, true,
                [](Job& j) {
                    part(j, "A1", "pixel.rgb-5050", room);
                    wire(j, "U1.bat", "A1.plus", Role::supply);
                    wire(j, "A1.minus", "U1.gnd", Role::return_path);
                }},
        Mistake{"Mirror", "light.mirrors", Severity::warn, false,
                [](Job& j) {
                    j.looks[0].lights = {{"ST2", {0, 1, 0, 0}, job::Style::steady, 0.3}};
                }},
        Mistake{"LedTooMuch", "led.over-current", Severity::stop, true, [](Job& j) { led(j, 18); }},
        Mistake{"ResistorHot", "resistor.over-power", Severity::warn, true,
                [](Job& j) {
                    part(j, "D1", "led.power-1-red", room);
                    part(j, "R1", "resistor.0w25").chosen.resistance = Ohm(3.3);
                    wire(j, "U1.bat", "R1.a", Role::supply);
                    wire(j, "R1.b", "D1.plus", Role::supply);
                    wire(j, "D1.minus", "U1.l3", Role::return_path);
                    for (auto& look : j.looks)
                        look.lights = {{"D1", {1, 0, 0, 0}, job::Style::steady, 0.1}};
                }},
        Mistake{"AlwaysOn", "light.always-on", Severity::warn, true,
                [](Job& j) { led(j, 82, "U1.gnd"); }},
        Mistake{"Fuse", "fuse.over-current", Severity::warn, false,
                [](Job& j) {
                    part(j, "F1", "fuse.resettable-3a");
                    job::find_ref(j.wires, "W1")->to = "F1.a";
                    wire(j, "F1.b", "K1.in", Role::supply, 20);
                }},
        Mistake{"Lights", "board.too-many-lights", Severity::warn, false,
                [](Job& j) {
                    for (int i = 1; i <= 6; ++i)
                        j.stretches.push_back({"stretch " + std::to_string(i), "ST1", i, i});
                }}),
    [](const auto& tested) { return tested.param.name; });

TEST(LoadFindings, TwoCellsOnABoardForOneIsAStop) {
    Job godwit = demo("godwit");
    job::fit_type("U1", "board.large")(godwit);
    for (job::Wire& w : godwit.wires)
        if (w.to == "U1.l7") w.to = "U1.l6";
    ASSERT_TRUE(job::validate(godwit, parts()));
    const plan::Plan plan = plan_of(godwit);
    EXPECT_TRUE(ids(plan).contains("supply.over-volts"));
    EXPECT_FALSE(ids(plan_of(demo("godwit"))).contains("supply.over-volts"));
}

TEST(LoadFindings, ADieThatCooksOnPlastic) {
    Job curlew = job::with_variant(demo("curlew"), 0);
    EXPECT_FALSE(ids(plan_of(curlew)).contains("led.die-too-hot"));
    for (const char* r : {"R2", "R3", "R4", "R5"})
        job::find_ref(curlew.parts, r)->chosen.resistance = Ohm(0.05);
    curlew.looks.push_back({"all of it", {1, 1, 1, 1}, job::Style::steady, 1, {}});
    curlew.hilt.sections.resize(1); // next to no surface to lose heat from
    EXPECT_NE(find(plan_of(curlew), "led.die-too-hot"), nullptr);
}

TEST(LoadFindings, ARegulatorThatCanNotKeepUp) {
    Job heron = clean_job();
    part(heron, "V1", "regulator.3v3-low-drop", 400);
    part(heron, "A1", "pixels.ring-12-rgb", 430);
    wire(heron, "U1.bat", "V1.in", Role::supply);
    wire(heron, "V1.gnd", "U1.gnd", Role::return_path);
    wire(heron, "V1.out", "A1.plus", Role::supply);
    wire(heron, "A1.minus", "U1.gnd", Role::return_path);
    wire(heron, "U1.d2", "A1.data", Role::data);
    EXPECT_FALSE(ids(plan_of(heron)).contains("regulator.overloaded"));
    job::find_ref(heron.wires, heron.wires[heron.wires.size() - 5].ref)->resistance = Ohm(8);
    EXPECT_NE(find(plan_of(heron), "regulator.overloaded"), nullptr);
}

TEST(LoadFindings, EveryRuleOfLoadsIsListed) {
    const auto all = rule_ids();
    for (const char* id : {"pad.over-current", "board.over-current", "data.level-low",
                           "supply.over-volts", "regulator.overloaded"})
        EXPECT_NE(std::find(all.begin(), all.end(), id), all.end()) << id;
}

} // namespace
} // namespace conductus::findings
