// SPDX-License-Identifier: GPL-3.0-or-later
// Which wires a build asks for, in which order they are soldered.
#include "core/harness/derive.h"

#include <set>

#include "core/harness/nets.h"
#include "core/harness/order.h"
#include "core/harness/rewire.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "support/planted.h"

namespace conductus::harness {
namespace {

using namespace test;

TEST(Derive, AJobWithoutWiresIsWiredFromWhatIsFitted) {
    for (const char* name : demo_jobs) {
        job::Job job = demo(name);
        EXPECT_TRUE(missing_wires(job, parts()).empty()) << name << " as it is wired";
        EXPECT_TRUE(wire_conflicts(job, parts()).empty()) << name;
        job.variants.clear();
        job.wires.clear();
        const std::size_t wanted = missing_wires(job, parts()).size();
        EXPECT_GT(wanted, 5u) << name;
        wire_missing(parts())(job);
        EXPECT_EQ(job.wires.size(), wanted) << name;
        ASSERT_TRUE(job::validate(job, parts())) << name;
        EXPECT_TRUE(missing_wires(job, parts()).empty()) << name;
        EXPECT_TRUE(wire_conflicts(job, parts()).empty()) << name;
        const plan::Plan plan = plan_of(job);
        ASSERT_FALSE(plan.trouble) << name << ": " << plan.trouble->text();
        EXPECT_GT(plan.run->off.value(), 5) << name;
        // Everything that shines does.
        for (const auto& g : plan.chains.groups)
            EXPECT_FALSE(g.line.empty()) << name << " " << g.ref;
    }
}

TEST(Derive, HeronsWiresAreThoseItsInstallerChose) {
    job::Job job = one_button_heron();
    const auto chosen = job.wires;
    job.wires.clear();
    wire_missing(parts())(job);
    for (const job::Wire& w : chosen)
        EXPECT_TRUE(std::any_of(job.wires.begin(), job.wires.end(),
                                [&](const job::Wire& d) {
                                    return d.role == w.role &&
                                           ((d.from == w.from && d.to == w.to) ||
                                            (d.from == w.to && d.to == w.from));
                                }))
            << w.from << " to " << w.to;
    EXPECT_EQ(job.wires.size(), chosen.size());
}

TEST(Derive, OneWireTakenOutIsTheOneThatIsMissing) {
    const job::Job whole = clean_job();
    for (const job::Wire& w : whole.wires) {
        job::Job job = whole;
        std::erase_if(job.wires, [&](const job::Wire& x) { return x.ref == w.ref; });
        const auto missing = missing_wires(job, parts());
        // One of two in parallel is not missed.
        const bool second = w.ref == "W5" || w.ref == "W6";
        EXPECT_EQ(missing.size(), second ? 0u : 1u) << w.ref;
        if (missing.empty()) continue;
        const std::set<std::string> ends{missing[0].from, missing[0].to}, own{w.from, w.to};
        EXPECT_EQ(ends, own) << w.ref;
        const plan::Plan plan = plan_of(job);
        // Where nothing can be solved for it, that finding has the fix.
        const auto* f = find(plan, plan.trouble                ? "supply.not-solved"
                                   : w.role == job::Role::data ? "line.no-data"
                                                               : "harness.missing");
        ASSERT_TRUE(f) << w.ref;
        ASSERT_TRUE(f->fix) << w.ref;
        f->fix->edit(job);
        EXPECT_EQ(find(plan_of(job), f->id), nullptr);
    }
}

/// The clean job with one more part, at the far end of its bore.
job::Job with_part(const std::string& type, const std::string& ref = "X1",
                   std::optional<Ohm> ohms = {}) {
    job::Job job = clean_job();
    job::Part part;
    part.ref = ref, part.type = type, part.at = Millimetre(176);
    part.chosen.resistance = ohms;
    job.parts.push_back(part);
    return job;
}

bool is_wired(const job::Job& job, const std::string& from, const std::string& to) {
    return std::any_of(job.wires.begin(), job.wires.end(), [&](const job::Wire& w) {
        return (w.from == from && w.to == to) || (w.from == to && w.to == from);
    });
}

TEST(Derive, EveryKindOfPartGetsWhatItWants) {
    struct Wanted {
        const char* type;
        std::vector<std::pair<const char*, const char*>> wires;
    };
    // Heron's board: l1, l2, d1 and s1 are taken.
    const Wanted all[] = {
        {"pixels.ring-7-rgb",
         {{"X1.plus", "U1.bat"}, {"X1.minus", "U1.gnd"}, {"X1.data", "U1.d2"}}},
        {"pixel.rgb-2020", {{"X1.plus", "U1.bat"}, {"X1.minus", "U1.gnd"}, {"X1.data", "U1.d2"}}},
        {"led.3mm-red", {{"X1.plus", "U1.bat"}, {"X1.minus", "U1.l3"}}},
        {"led.power-2-blue-white",
         {{"X1.plus", "U1.bat"}, {"X1.minus1", "U1.l3"}, {"X1.minus2", "U1.l4"}}},
        {"button.momentary-12", {{"X1.a", "U1.s2"}, {"X1.b", "U1.gnd"}}},
        {"button.momentary-12-lit",
         {{"X1.a", "U1.s2"},
          {"X1.b", "U1.gnd"},
          {"X1.led_plus", "U1.bat"},
          {"X1.led_minus", "U1.l3"}}},
        {"display.round-0in7", {{"X1.plus", "U1.bat"}, {"X1.minus", "U1.gnd"}}},
        {"shifter.one-line", {{"X1.plus", "U1.bat"}, {"X1.minus", "U1.gnd"}}},
        {"regulator.5v-step-up", {{"X1.in", "U1.bat"}, {"X1.gnd", "U1.gnd"}}},
        // Before the kill, or an open kill keeps the cell from being charged.
        {"port.charge-2p1", {{"X1.plus", "B1.plus"}, {"X1.minus", "B1.minus"}}},
        {"cell.18650-power", {{"X1.plus", "B1.plus"}, {"X1.minus", "B1.minus"}}},
    };
    for (const Wanted& w : all) {
        job::Job job = with_part(w.type);
        const std::size_t before = job.wires.size();
        wire_missing(parts())(job);
        ASSERT_TRUE(job::validate(job, parts())) << w.type;
        EXPECT_EQ(job.wires.size(), before + w.wires.size()) << w.type;
        for (const auto& [from, to] : w.wires)
            EXPECT_TRUE(is_wired(job, from, to)) << from << " to " << to;
        EXPECT_TRUE(missing_wires(job, parts()).empty()) << w.type;
        if (parts().find_as<catalogue::Shifter>(w.type)) continue; // that one serves data as well
        // Of that part alone it is the same.
        job::Job alone = with_part(w.type);
        std::erase_if(alone.wires, [](const job::Wire& x) { return x.ref == "W7"; });
        wire_missing(parts(), "X1")(alone);
        EXPECT_EQ(alone.wires.size(), before - 1 + w.wires.size()) << w.type;
    }
}

TEST(Derive, LoosePartsTakeThePlaceTheyAreMadeFor) {
    // A resistor of about the right value goes to the LED, one of 330 ohm to the foot of the data.
    job::Job job = with_part("led.3mm-red");
    job::Part r = job.parts.back();
    r.type = "resistor.0w25";
    r.ref = "R1", r.chosen.resistance = Ohm(330);
    job.parts.push_back(r);
    r.ref = "R2", r.chosen.resistance = Ohm(91);
    job.parts.push_back(r);
    std::erase_if(job.wires, [](const job::Wire& w) { return w.ref == "W7"; });
    wire_missing(parts())(job);
    EXPECT_TRUE(is_wired(job, "X1.minus", "R2.a"));
    EXPECT_TRUE(is_wired(job, "R2.b", "U1.l3"));
    EXPECT_TRUE(is_wired(job, "U1.d1", "R1.a"));
    EXPECT_TRUE(is_wired(job, "R1.b", "P1.data"));
    EXPECT_TRUE(missing_wires(job, parts()).empty());
    EXPECT_EQ(find(plan_of(job), "harness.not-wired"), nullptr);
    // Asked for the LED alone, its resistor comes with it.
    job = with_part("led.3mm-red");
    job.parts.push_back(r);
    wire_missing(parts(), "X1")(job);
    EXPECT_TRUE(is_wired(job, "X1.minus", "R2.a") && is_wired(job, "R2.b", "U1.l3"));

    // A high-power LED takes the driver.
    job = with_part("led.power-1-white");
    job::Part driver = r;
    driver.ref = "D1", driver.type = "driver.linear-1a", driver.chosen = {};
    job.parts.push_back(driver);
    wire_missing(parts())(job);
    EXPECT_TRUE(is_wired(job, "X1.minus", "D1.in") && is_wired(job, "D1.out", "U1.l3"));
    job.wires = clean_job().wires;
    job.parts.back().type = "driver.step-down-1a";
    wire_missing(parts())(job);
    EXPECT_TRUE(is_wired(job, "U1.bat", "D1.in") && is_wired(job, "D1.out", "X1.plus") &&
                is_wired(job, "D1.gnd", "U1.gnd"));
    EXPECT_TRUE(missing_wires(job, parts()).empty()) << "what a converter feeds is fed";

    // A regulator stands before what wants its volts, and a level shifter before the pixels then.
    job = with_part("pixels.ring-7-rgb");
    driver.ref = "RG1", driver.type = "regulator.5v-step-up";
    job.parts.push_back(driver);
    driver.ref = "LS1", driver.type = "shifter.one-line";
    job.parts.push_back(driver);
    wire_missing(parts())(job);
    EXPECT_TRUE(is_wired(job, "RG1.out", "X1.plus"));
    EXPECT_TRUE(is_wired(job, "RG1.out", "LS1.plus")) << "its output is as high as its supply";
    EXPECT_TRUE(is_wired(job, "U1.d2", "LS1.in") && is_wired(job, "LS1.out", "X1.data"));
    EXPECT_TRUE(missing_wires(job, parts()).empty());
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_FALSE(plan_of(job).trouble);
}

TEST(Derive, ALoosePartThatNothingAsksForIsAFinding) {
    job::Job job = with_part("fuse.blade-7a5", "F1");
    const plan::Plan plan = plan_of(job);
    const auto* f = find(plan, "harness.not-wired");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->where, std::vector<std::string>{"F1"});
    ASSERT_TRUE(f->fix);
    EXPECT_EQ(f->fix->text, "lead W1 through it");
    f->fix->edit(job);
    EXPECT_TRUE(is_wired(job, "B1.plus", "F1.a") && is_wired(job, "F1.b", "K1.in"));
    EXPECT_EQ(find(plan_of(job), "harness.not-wired"), nullptr);
    // Soldered at one side only.
    job.wires.erase(job.wires.begin() + 1);
    const auto half = wire_conflicts(job, parts());
    ASSERT_FALSE(half.empty());
    EXPECT_EQ(half[0].id, "harness.leads-nowhere");
}

TEST(Derive, WhatCanNotBeMeantIsSaid) {
    job::Job job = clean_job();
    job::find_ref(job.wires, "W7")->role = job::Role::supply; // data as supply
    auto all = wire_conflicts(job, parts());
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].id, "harness.wrong-role");
    all[0].fix(job);
    EXPECT_EQ(job::find_ref(job.wires, "W7")->role, job::Role::data);
    EXPECT_TRUE(wire_conflicts(job, parts()).empty());
    job.wires.push_back({"WX", "U1.d1", "U1.d2", job::Role::data, 28, {}, {}});
    all = wire_conflicts(job, parts());
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].id, "harness.data-joined");
    job.wires.back() = {"WX", "U1.s2", "S1.b", job::Role::button, 28, {}, {}};
    all = wire_conflicts(job, parts());
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].id, "harness.button-both");
    job.wires.back() = {"WX", "U1.bat", "U1.bat", job::Role::supply, 22, {}, {}};
    EXPECT_EQ(wire_conflicts(job, parts()).at(0).id, "harness.loop");
}

TEST(Rewire, DoubledItSharesAndThroughAPartItIsInSeries) {
    job::Job job = clean_job();
    const double alone = plan_of(job).harness.wire("W3")->drop.value();
    double_wire("W3")(job);
    ASSERT_TRUE(job::validate(job, parts()));
    const plan::Plan doubled = plan_of(job);
    ASSERT_EQ(doubled.harness.wires.size(), 12u);
    EXPECT_LT(doubled.harness.wire("W3")->drop.value(), 0.55 * alone);
    job::Part fuse;
    fuse.ref = "F1", fuse.type = "fuse.blade-7a5", fuse.at = Millimetre(156);
    job = clean_job();
    job.parts.push_back(fuse);
    const auto ways = ways_through(job, parts(), *job::find_ref(job.wires, "W1"));
    ASSERT_EQ(ways.size(), 1u);
    EXPECT_EQ(ways[0].in, "F1.a");
    EXPECT_TRUE(ways_through(job, parts(), *job::find_ref(job.wires, "W8")).empty());
    split_wire("W1", ways[0])(job);
    ASSERT_TRUE(job::validate(job, parts()));
    EXPECT_TRUE(missing_wires(job, parts()).empty());
    const plan::Plan through = plan_of(job);
    ASSERT_FALSE(through.trouble);
    EXPECT_EQ(through.harness.wires[0].to, "F1.a");
    EXPECT_EQ(through.harness.wires[1].from, "F1.b");
    EXPECT_EQ(through.harness.wires[1].to, "K1.in");
    EXPECT_NEAR(through.harness.wires[0].amps.value(), through.harness.wires[1].amps.value(), 1e-9);
}

TEST(Order, TheCellsPlusComesLastAndTicksAreKept) {
    job::Job job = one_button_heron();
    job.soldered = {{"W7"}};
    const plan::Plan plan = plan_of(job);
    const auto steps = solder_order(job, parts(), plan.harness);
    ASSERT_EQ(steps.size(), job.wires.size());
    EXPECT_EQ(steps.back().wire, "W1"); // B1.plus to the kill
    std::size_t bench = 0, beside = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (steps[i].where == "on the bench") bench = i;
        if (steps[i].where == "chassis beside the hilt" && beside == 0) beside = i;
        EXPECT_EQ(steps[i].done, steps[i].wire == "W7");
        EXPECT_FALSE(steps[i].why.empty());
    }
    EXPECT_LT(bench, beside) << "what rides together is done before it is put to the hilt";
}

} // namespace
} // namespace conductus::harness
