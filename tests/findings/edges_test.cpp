// SPDX-License-Identifier: GPL-3.0-or-later
// Rules with a limit, planted at its edge: just inside they are silent, just outside they are said.
#include <cmath>
#include <optional>

#include "core/findings/rules.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/plan/analyse.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;

struct Edge {
    const char* name;
    const char* id;
    void (*plant)(Job&, double);
    double inside, outside;
};

class Edges : public testing::TestWithParam<Edge> {};

TEST_P(Edges, SilentInsideAndSaidOutside) {
    const Edge& e = GetParam();
    for (const double value : {e.inside, e.outside}) {
        Job job = clean_job();
        e.plant(job, value);
        const auto valid = job::validate(job, parts());
        ASSERT_TRUE(valid) << valid.error().text();
        const plan::Plan plan =
            plan::analyse_figures(std::make_shared<const Job>(job), shared_parts());
        const bool said = find(plan, e.id) != nullptr;
        EXPECT_EQ(said, value == e.outside) << e.id << " at " << value;
    }
}

job::Wire& wire(Job& j, const char* ref) { return *job::find_ref(j.wires, ref); }
job::Part& part(Job& j, const char* ref) { return *job::find_ref(j.parts, ref); }

void add(Job& j, const char* ref, const char* type, double at) {
    job::Part p;
    p.ref = ref, p.type = type, p.at = Millimetre(at);
    j.parts.push_back(p);
}

void data_resistor(Job& j, double ohms) {
    add(j, "R9", "resistor.0w25", 190);
    j.parts.back().chosen.resistance = Ohm(ohms);
    wire(j, "W7").to = "R9.a";
    job::Wire w;
    w.ref = "X1", w.from = "R9.b", w.to = "P1.data", w.role = job::Role::data, w.gauge = 28;
    j.wires.push_back(w);
}

void led_behind(Job& j, double ohms) {
    add(j, "D1", "led.3mm-white", 190);
    add(j, "R9", "resistor.0w25", 190);
    j.parts.back().chosen.resistance = Ohm(ohms);
    for (const auto& [ref, from, to, role] :
         {std::tuple{"X1", "U1.bat", "R9.a", job::Role::supply},
          {"X2", "R9.b", "D1.plus", job::Role::supply},
          {"X3", "D1.minus", "U1.l3", job::Role::return_path}}) {
        job::Wire w;
        w.ref = ref, w.from = from, w.to = to, w.role = role, w.gauge = 28;
        j.wires.push_back(w);
    }
}

job::Opening hole(const char* name, job::OpeningUse use, double at, double size,
                  const char* of = "") {
    return {name, use, Millimetre(at), Degree(0), Millimetre(size), Millimetre(size), of};
}

job::Fastener screw(double at, const char* holds, const char* key = "2 mm hex") {
    return {"A", Millimetre(at), Degree(90),       "M3",
            key, holds,          job::Loosen::may, job::ScrewState::fine,
            ""};
}

INSTANTIATE_TEST_SUITE_P(
    All, Edges,
    testing::Values(
        Edge{"Kill", "contact.poor",
             [](Job& j, double v) { part(j, "K1").measured.resistance = Ohm(v); }, 0.039, 0.041},
        Edge{"Pin", "contact.poor",
             [](Job& j, double v) {
                 part(j, "P1").measured.pins = {{"plus1", Ohm(v)}};
             },
             0.088, 0.092},
        Edge{"StripLead", "contact.poor",
             [](Job& j, double v) { j.blades[0].strips[0].lead = Ohm(v); }, 0.24, 0.26},
        Edge{"DataResistorLow", "data.resistor", data_resistor, 68, 67},
        Edge{"DataResistorHigh", "data.resistor", data_resistor, 1500, 1501},
        Edge{"LedHardlyLit", "led.too-dim", led_behind, 600, 900},
        Edge{"StripShort", "strip.short",
             [](Job& j, double v) {
                 for (auto& s : j.blades[0].strips) {
                     s.length = Millimetre(v);
                     s.pixels = static_cast<int>(v * 0.144);
                 }
             },
             750, 740},
        Edge{"StripsUnequal", "strip.unequal",
             [](Job& j, double v) { j.blades[0].strips[1].length = Millimetre(v); }, 804, 802},
        Edge{"StripWide", "strip.too-wide",
             [](Job& j, double v) { j.blades[0].outer = Millimetre(v); }, 15.1, 14.9},
        Edge{"CapZero", "look.cap-zero", [](Job& j, double v) { j.looks[1].cap = v; }, 0.01, 0},
        Edge{"HoleSmall", "opening.too-small",
             [](Job& j, double v) {
                 j.hilt.openings = {
                     hole("button hole", job::OpeningUse::switch_hole, 178, v, "S1")};
             },
             11.9, 11.7},
        Edge{"HoleElsewhere", "opening.elsewhere",
             [](Job& j, double v) {
                 j.hilt.openings = {hole("button hole", job::OpeningUse::switch_hole, v, 12, "S1")};
             },
             180.9, 181.1},
        Edge{"VentsFar", "sound.vents-far",
             [](Job& j, double v) {
                 j.hilt.openings = {hole("vent", job::OpeningUse::vent, v, 20)};
             },
             40, 80},
        Edge{
            "VentsSmall", "sound.vents-small",
            [](Job& j, double v) { j.hilt.openings = {hole("vent", job::OpeningUse::vent, 8, v)}; },
            13.5, 12.5},
        Edge{"ScrewOnNothing", "screw.on-nothing",
             [](Job& j, double v) {
                 j.hilt.socket = {Millimetre(25.4), {{Millimetre(54), Millimetre(25.7)}}};
                 j.hilt.fasteners = {screw(v, "blade")};
             },
             231.6, 208},
        Edge{"ConnectorInSocket", "socket.connector-in",
             [](Job& j, double v) {
                 j.hilt.socket = {Millimetre(25.4), {{Millimetre(54), Millimetre(25.7)}}};
                 part(j, "P1").at = Millimetre(v);
             },
             216.4, 216.7},
        Edge{"Nominal", "survey.nominal",
             [](Job& j, double v) {
                 j.hilt.socket = {Millimetre(25.4), {{Millimetre(54), Millimetre(v)}}};
             },
             26.5, 26.7},
        Edge{"OffTheHilt", "survey.off-hilt",
             [](Job& j, double v) { j.hilt.fasteners = {screw(v, "chassis")}; }, 285, 287},
        Edge{"OverTheCell", "survey.screw-over-cell",
             [](Job& j, double v) { j.hilt.fasteners = {screw(v, "chassis")}; }, 92, 60},
        Edge{"Budget", "brief.over-budget", [](Job& j, double v) { j.brief.budget = v; }, 200, 100},
        Edge{"BladeWanted", "brief.blade-differs",
             [](Job& j, double v) { j.brief.blades[0].length = Millimetre(v); }, 815, 815.1},
        Edge{"WireThin", "wire.too-thin",
             [](Job& j, double v) { wire(j, "W3").gauge = static_cast<int>(v); }, 22, 30},
        Edge{"ChargedFast", "charge.too-fast",
             [](Job& j, double v) {
                 job::fit_type("B1", "cell.18650-capacity")(j);
                 part(j, "B1").measured.capacity = MilliAmpereHour(v);
                 j.charger = "charger.bays-2a";
             },
             4000, 3990},
        Edge{"DriverSet", "regulator.over-limit",
             [](Job& j, double v) {
                 add(j, "D1", "led.power-1-red", 190);
                 add(j, "DR1", "driver.linear-1a", 190);
                 j.parts.back().chosen.current = Ampere(v);
                 for (const auto& [ref, from, to] : {std::tuple{"X1", "U1.bat", "D1.plus"},
                                                     {"X2", "D1.minus", "DR1.in"},
                                                     {"X3", "DR1.out", "U1.l3"}}) {
                     job::Wire w;
                     w.ref = ref, w.from = from, w.to = to, w.gauge = 22;
                     j.wires.push_back(w);
                 }
             },
             1.5, 1.51},
        Edge{"LastTurn", "dock.last-turn",
             [](Job& j, double v) {
                 j.hilt.joints = {{"cap", Millimetre(232), job::JointKind::thread, job::Hand::right,
                                   Millimetre(v), Millimetre(16)}};
             },
             5.9, 6.1},
        Edge{"DoesNotEnter", "socket.does-not-seat",
             [](Job& j, double v) {
                 j.hilt.socket = {Millimetre(25.4), {{Millimetre(54), Millimetre(25.7)}}};
                 j.blades[0].outer = Millimetre(v);
             },
             25.64, 25.66},
        Edge{"SeatForSwings", "socket.too-weak",
             [](Job& j, double v) {
                 j.hilt.socket = {Millimetre(25.4), {{Millimetre(v), Millimetre(25.7)}}};
             },
             38.2, 38.0},
        Edge{"CountByOne", "strip.count-mismatch",
             [](Job& j, double v) { j.blades[0].strips[0].pixels = static_cast<int>(v); }, 117,
             116},
        Edge{"ProgrammedByOne", "line.programmed-differs",
             [](Job& j, double v) {
                 j.lines = {{"U1.d1", static_cast<int>(v)}};
             },
             117, 116},
        Edge{"PixelsOnALine", "line.too-many-pixels",
             [](Job& j, double v) {
                 for (auto& s : j.blades[0].strips)
                     s.pixels = static_cast<int>(v);
             },
             400, 401},
        Edge{"Agreement", "agreement.broken",
             [](Job& j, double v) {
                 for (auto& a : j.brief.agreements)
                     if (a.measure == "blade-length") a.value = v;
             },
             816, 818},
        Edge{"ScrewsApart", "screw.confused",
             [](Job& j, double v) {
                 j.hilt.fasteners = {screw(262 - v, "P1"), screw(262, "blade")};
                 j.hilt.fasteners[1].name = "B";
             },
             20.1, 19.9},
        Edge{"ColdJoint", "contact.poor",
             [](Job& j, double v) { wire(j, "W3").resistance = Ohm(v); }, 0.03, 0.08},
        Edge{"DataLow", "data.level-low",
             [](Job& j, double v) { wire(j, "W5").resistance = wire(j, "W6").resistance = Ohm(v); },
             0.02, 3},
        Edge{"ResistorHot", "resistor.over-power",
             [](Job& j, double v) {
                 led_behind(j, v);
                 part(j, "D1").type = "led.power-1-red";
             },
             40, 5}),
    [](const auto& tested) { return tested.param.name; });

/// Rules of solved figures: a knob is turned from where one is silent to where it is said, and at
/// the edge between what it tells and its limit are the same.
struct Knob {
    const char* name;
    const char* id;
    void (*turn)(Job&, double);
    double silent, said;
};

class Limits : public testing::TestWithParam<Knob> {};

TEST_P(Limits, AreWhereTheRuleBegins) {
    const Knob& k = GetParam();
    const auto finding_at = [&](double value) -> std::optional<Finding> {
        Job job = clean_job();
        k.turn(job, value);
        const plan::Plan plan =
            plan::analyse_figures(std::make_shared<const Job>(job), shared_parts());
        const Finding* f = find(plan, k.id);
        return f ? std::optional(*f) : std::nullopt;
    };
    ASSERT_FALSE(finding_at(k.silent));
    auto last = finding_at(k.said);
    ASSERT_TRUE(last);
    double silent = k.silent, said = k.said;
    for (int i = 0; i < 14; ++i) {
        const double middle = (silent + said) / 2;
        if (auto f = finding_at(middle)) {
            said = middle;
            last = std::move(f);
        } else {
            silent = middle;
        }
    }
    ASSERT_GE(last->evidence.size(), 2u);
    const double is = last->evidence[0].value, limit = last->evidence[1].value;
    EXPECT_NEAR(is, limit, 0.02 * std::abs(limit) + (last->evidence[0].unit == "mm" ? 1 : 0))
        << last->text.english();
}

/// Held white, on copper and a cell that give all it asks for.
void snow(Job& j, double cap) {
    for (auto& look : j.looks)
        look.cap *= 0.1;
    if (!j.effects.empty()) j.effects.resize(1), j.effects[0].cap = 0.05;
    j.looks.push_back({"Snow", {1, 1, 1, 0}, job::Style::steady, cap, {}});
    part(j, "B1").protection = "protection.12a";
    part(j, "B1").measured.resistance = Ohm(0.005);
    for (auto& s : j.blades[0].strips)
        s.rail = OhmPerMetre(0.02);
    for (auto& w : j.wires)
        if (w.gauge < 26) w.gauge = 14;
}

INSTANTIATE_TEST_SUITE_P(
    All, Limits,
    testing::Values(Knob{"Pins", "pins.over-current",
                         [](Job& j, double v) {
                             job::fit_type("P1", "connector.pins-3")(j);
                             snow(j, v);
                         },
                         0.1, 1},
                    Knob{"Kill", "kill.over-current",
                         [](Job& j, double v) {
                             job::fit_type("K1", "kill.slide-3a")(j);
                             j.effects.clear();
                             snow(j, v);
                         },
                         0.05, 1},
                    Knob{"Continuous", "cell.over-continuous",
                         [](Job& j, double v) {
                             job::fit_type("B1", "cell.14500")(j);
                             snow(j, v);
                         },
                         0.1, 1},
                    Knob{"Trip", "cell.protection-trips",
                         [](Job& j, double v) {
                             snow(j, 0.1);
                             part(j, "B1").protection = "protection.5a";
                             j.effects[0].cap = v;
                         },
                         0.05, 1},
                    Knob{"Crackle", "sound.crackle-early",
                         [](Job& j, double v) { j.use.clean = Minute(v); }, 1, 600},
                    Knob{"Swap", "brief.needs-swap",
                         [](Job& j, double v) {
                             j.brief.swap = job::Swap::refused;
                             j.use.clean = {};
                             j.use.day.clear();
                             j.use.ignited = Minute(v);
                         },
                         1, 1400},
                    Knob{"Tip", "blade.tip-dim",
                         [](Job& j, double v) {
                             for (auto& s : j.blades[0].strips)
                                 s.rail = OhmPerMetre(v);
                         },
                         0.05, 2},
                    Knob{"Led", "led.over-current", led_behind, 200, 5},
                    Knob{"Pad", "pad.over-current",
                         [](Job& j, double v) {
                             std::erase_if(j.wires,
                                           [](const job::Wire& w) { return w.ref == "W6"; });
                             j.effects.clear();
                             snow(j, v);
                         },
                         0.1, 1},
                    Knob{"Fuse", "fuse.over-current",
                         [](Job& j, double v) {
                             add(j, "F1", "fuse.resettable-3a", 150);
                             wire(j, "W1").to = "F1.a";
                             job::Wire w;
                             w.ref = "X1", w.from = "F1.b", w.to = "K1.in", w.gauge = 20;
                             j.wires.push_back(w);
                             j.effects.clear();
                             for (auto& look : j.looks)
                                 look.cap *= 0.1;
                             snow(j, v);
                         },
                         0.05, 1},
                    Knob{"TooShort", "wire.too-short",
                         [](Job& j, double v) { wire(j, "W3").length = Millimetre(v); }, 200, 20}),
    [](const auto& tested) { return tested.param.name; });

/// A flash counts by its share of the thermal time of what carries it, and a longer one for more.
TEST(Momentary, AFlashIsJudgedByHowLongItLasts) {
    const auto said = [](double seconds) {
        Job job = clean_job();
        job::fit_type("K1", "kill.slide-3a")(job);
        for (auto& look : job.looks)
            look.cap *= 0.6;
        job.effects = {{"flash", {1, 1, 1, 0}, 0.6, 0, 1, Second(seconds)}};
        return find(plan_of(job), "kill.over-current") != nullptr;
    };
    EXPECT_FALSE(said(0.1));
    EXPECT_TRUE(said(60));
}

} // namespace
} // namespace conductus::findings
