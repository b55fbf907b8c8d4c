// SPDX-License-Identifier: GPL-3.0-or-later
// Means and peaks out of frames, data levels, resistors, what is left on, what would change a look.
#include <cmath>

#include "core/circuit/copper.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "core/power/data_level.h"
#include "core/power/film.h"
#include "core/power/heat.h"
#include "core/power/led_run.h"
#include "core/power/what_if.h"
#include "support/fixtures.h"

namespace conductus::power {
namespace {

using namespace test;

job::Job styled(job::Style style) {
    job::Job job = demo("heron");
    job.looks = {{"a", {0.3, 0.4, 0.5, 0}, style, 0.8, {}}};
    job.use.look = "a";
    return job;
}

struct Frames {
    std::vector<double> amps; ///< cell
    double mean = 0, peak = 0;
};

/// Frames of so many seconds.
Frames frames_of(const job::Job& job, const State& state, double seconds, double rate = 20) {
    Frames f;
    const auto ok =
        roll(job, parts(), state, 0, static_cast<int>(std::lround(seconds * rate)), rate,
             [&](double, const circuit::Network& n, const circuit::OperatingPoint& p) {
                 f.amps.push_back(circuit::pack_amps(n, p));
                 f.peak = std::max(f.peak, f.amps.back());
             });
    EXPECT_TRUE(ok);
    for (const double a : f.amps)
        f.mean += a / static_cast<double>(f.amps.size());
    return f;
}

TEST(Film, MeanAndPeakOfFramesAreTheClosedForms) {
    for (const auto style : {job::Style::steady, job::Style::pulse, job::Style::flicker,
                             job::Style::fire, job::Style::bands}) {
        const job::Job job = styled(style);
        const State state{job.looks[0], {}, Brightness::brightest, Loudness::hum, 1};
        const Frames film = frames_of(job, state, 20);
        const auto few = shares_amps(job, parts(), state);
        ASSERT_TRUE(few);
        EXPECT_NEAR(few->mean.value(), film.mean, 0.012 * film.mean) << static_cast<int>(style);
        const auto n = network_of(job, parts(), state);
        const auto p = circuit::solve(*n);
        const double most = std::max(few->peak.value(), circuit::pack_amps(*n, *p));
        EXPECT_LE(film.peak, most * 1.002) << static_cast<int>(style);
        // Fire's tongues are never all high at once.
        const double reached = style == job::Style::fire ? 0.6 : 0.98;
        EXPECT_GE(film.peak, most * reached) << static_cast<int>(style);
        const Frames again = frames_of(job, state, 20);
        EXPECT_EQ(film.amps, again.amps); // the same seed, the same film
    }
}

TEST(Film, WithoutCopperTheMeanIsTheDutysOwn) {
    // On a stiff supply current is linear in duty, so the mean current is the mean duty's.
    job::Job job = styled(job::Style::flicker);
    job.parts[1].measured.resistance = Ohm(1e-6);
    job.parts[1].protection.reset();
    for (job::Strip& s : job.blades[0].strips)
        s.lead = Ohm(1e-4), s.rail = OhmPerMetre(0.001);
    for (job::Wire& w : job.wires)
        w.resistance = Ohm(1e-6);
    for (const char* ref : {"K1", "P1"})
        job::find_ref(job.parts, ref)->measured.resistance = Ohm(1e-6);
    const State full{job.looks[0], {}, Brightness::brightest, Loudness::silent, 1};
    State dark = full;
    dark.look.cap = 0;
    auto amps = [&](const State& s) {
        const auto n = network_of(job, parts(), s);
        return circuit::pack_amps(*n, *circuit::solve(*n));
    };
    const double lit = amps(full) - amps(dark);
    const auto mean = mean_amps(job, parts(), full);
    ASSERT_TRUE(mean);
    EXPECT_NEAR(mean->value() - amps(dark), 0.85 * lit, 0.004 * lit);
}

TEST(Film, AnEffectsInstantsAreItsFilm) {
    const job::Job bittern = demo("bittern");
    for (const job::Effect& effect : bittern.effects) {
        const State state{bittern.looks[1], effect, Brightness::brightest, Loudness::peak, 1};
        const Frames film =
            frames_of(bittern, state, effect.lasts.value(), 120 / effect.lasts.value());
        const auto few = shares_amps(bittern, parts(), state);
        ASSERT_TRUE(few) << effect.name;
        EXPECT_NEAR(few->mean.value(), film.mean, 0.03 * film.mean) << effect.name;
    }
}

TEST(Pack, CellsInARowCarryTheSameCurrentOnce) {
    const job::Job godwit = demo("godwit");
    const auto n = network_of(godwit, parts(), {godwit.looks[0], {}, {}, {}, 1});
    ASSERT_TRUE(n);
    const auto p = circuit::solve(*n);
    ASSERT_TRUE(p);
    ASSERT_EQ(p->source_amps.size(), 2u);
    EXPECT_NEAR(p->source_amps[0], p->source_amps[1], 1e-9);
    EXPECT_NEAR(circuit::pack_amps(*n, *p), p->source_amps[0], 1e-9);
    // Two cells side by side add up.
    job::Job heron = demo("heron");
    heron.parts.push_back(heron.parts[1]);
    heron.parts.back().ref = "B2";
    heron.wires.push_back({"X1", "B2.plus", "B1.plus", job::Role::supply, 20, Millimetre(20), {}});
    heron.wires.push_back(
        {"X2", "B2.minus", "B1.minus", job::Role::return_path, 20, Millimetre(20), {}});
    const auto m = network_of(heron, parts(), {heron.looks[0], {}, {}, {}, 1});
    ASSERT_TRUE(m);
    const auto q = circuit::solve(*m);
    ASSERT_TRUE(q);
    EXPECT_NEAR(circuit::pack_amps(*m, *q), q->source_amps[0] + q->source_amps[1], 1e-9);
}

TEST(E24, TheNextStepOfTheSeries) {
    EXPECT_EQ(e24_at_least(Ohm(100)), Ohm(100));
    EXPECT_NEAR(e24_at_least(Ohm(101)).value(), 110, 1e-9);
    EXPECT_NEAR(e24_at_least(Ohm(0.69)).value(), 0.75, 1e-9);
    EXPECT_NEAR(e24_at_least(Ohm(9.2)).value(), 10, 1e-9);
    EXPECT_NEAR(e24_at_least(Ohm(4700)).value(), 4700, 1e-6);
    EXPECT_EQ(e24_at_least(Ohm(0)), Ohm(0));
}

/// Heron without a blade, and one LED behind a resistor on pad 3.
job::Job lamp(const char* type, double ohms) {
    job::Job job = demo("heron");
    job::Part d, r;
    d.ref = "D1", d.type = type;
    r.ref = "R1", r.type = "resistor.0w25", r.chosen.resistance = Ohm(ohms);
    job.parts.push_back(d);
    job.parts.push_back(r);
    job.wires.push_back({"X1", "U1.bat", "R1.a", job::Role::supply, 26, Millimetre(20), {}});
    job.wires.push_back({"X2", "R1.b", "D1.plus", job::Role::supply, 26, Millimetre(20), {}});
    job.wires.push_back(
        {"X3", "D1.minus", "U1.l3", job::Role::return_path, 26, Millimetre(20), {}});
    return job;
}

TEST(LedRuns, ThePickByHand) {
    const job::Job job = lamp("led.3mm-red", 22);
    const auto runs = led_runs(job, parts());
    ASSERT_TRUE(runs) << runs.error().text();
    ASSERT_EQ(runs->size(), 1u);
    const LedRun& run = (*runs)[0];
    EXPECT_EQ(run.resistor, "R1");
    EXPECT_EQ(run.pad, "U1.l3");
    // 4.18 V, 2.0 V across the LED at 20 mA: 109 Ω wanted, 110 Ω of the series.
    EXPECT_NEAR(run.ideal.value(), 109, 2.5);
    EXPECT_NEAR(run.e24.value(), 110, 1e-9);
    EXPECT_NEAR(run.pick_power.value(), 0.02 * 0.02 * 110, 1e-9);
    EXPECT_EQ(run.pick, "resistor.0w25");
    EXPECT_GT(run.amps, Ampere(0.03));
    EXPECT_NEAR(run.power.value(), run.amps.value() * run.amps.value() * 22, 1e-4);
    // With the pick fitted it runs at what it is meant for.
    const auto fitted = led_runs(lamp("led.3mm-red", 110), parts());
    ASSERT_TRUE(fitted);
    EXPECT_NEAR((*fitted)[0].amps.value(), 0.02, 0.0005);
    EXPECT_NEAR((*fitted)[0].ideal.value(), run.ideal.value(), 0.4);
}

TEST(LeftOn, AnAccentsCostByHand) {
    const job::Job curlew = demo("curlew");
    const auto on = left_on(curlew, parts());
    ASSERT_TRUE(on);
    ASSERT_EQ(on->size(), 1u);
    const LeftOn& a = (*on)[0];
    EXPECT_EQ(a.ref, "A1");
    EXPECT_FALSE(a.always);
    // All four channels of one pixel, a little starved at half charge, and its quiet current.
    EXPECT_LT(a.amps.value(), 3 * 0.012 + 0.018 + 0.001);
    EXPECT_GT(a.amps.value(), 0.95 * (3 * 0.012 + 0.018));
    EXPECT_NEAR(a.hours, 3.0 / a.amps.value(), 1e-6);
}

TEST(DataLevel, ThreeVoltsThreeAgainstItsOwnGround) {
    const job::Job heron = demo("heron");
    const auto n = network_of(heron, parts(), {heron.looks[0], {}, {}, {}, 1});
    ASSERT_TRUE(n);
    const auto p = circuit::solve(*n);
    ASSERT_TRUE(p);
    const auto hops = data_levels(heron, parts(), lights::chains_of(heron, parts()), *n, *p);
    ASSERT_EQ(hops.size(), 2u);
    const auto& strip = p->strips[0];
    const double minus = strip.rail[0] - strip.volts[0];
    const auto gnd = std::find(n->nodes.begin(), n->nodes.end(), "u1_gnd") - n->nodes.begin();
    const double ground = p->volts[static_cast<std::size_t>(gnd)];
    EXPECT_NEAR(hops[0].shift.value(), minus - ground, 1e-12);
    EXPECT_NEAR(hops[0].high.value(), ground + 3.3 - minus, 1e-12);
    EXPECT_NEAR(hops[0].need.value(), 0.7 * strip.volts[0], 1e-12);
    EXPECT_GT(hops[0].margin(), Volt(0));
}

TEST(DataLevel, FiveVoltsNeedAShifter) {
    job::Job heron = demo("heron");
    auto part = [&](const char* ref, const char* type) {
        job::Part p;
        p.ref = ref, p.type = type;
        heron.parts.push_back(p);
    };
    auto wire = [&](const char* from, const char* to, job::Role role) {
        heron.wires.push_back(
            {"X" + std::to_string(heron.wires.size()), from, to, role, 26, Millimetre(30), {}});
    };
    part("V1", "regulator.5v-step-up");
    part("A1", "pixels.stick-8-rgb");
    wire("U1.bat", "V1.in", job::Role::supply);
    wire("V1.gnd", "U1.gnd", job::Role::return_path);
    wire("V1.out", "A1.plus", job::Role::supply);
    wire("A1.minus", "U1.gnd", job::Role::return_path);
    wire("U1.d2", "A1.data", job::Role::data);
    auto margin = [&] {
        const auto n = network_of(heron, parts(), {heron.looks[0], {}, {}, {}, 1});
        const auto p = circuit::solve(*n);
        EXPECT_TRUE(p);
        for (const DataHop& hop :
             data_levels(heron, parts(), lights::chains_of(heron, parts()), *n, *p))
            if (hop.to == "A1") return hop.margin().value();
        return 99.0;
    };
    EXPECT_NEAR(margin(), 3.3 - 3.5, 0.05); // 0.7 × 5 V wanted
    part("T1", "shifter.one-line");
    wire("V1.out", "T1.plus", job::Role::supply);
    wire("T1.minus", "U1.gnd", job::Role::return_path);
    heron.wires[heron.wires.size() - 3].to = "T1.in";
    wire("T1.out", "A1.data", job::Role::data);
    EXPECT_NEAR(margin(), 5 - 3.5, 0.05);
}

TEST(Currents, WhatGoesInComesOutAtEveryPlace) {
    const plan::Plan bittern = plan_of(demo("bittern"));
    auto of = [](const plan::LookPlan& look, const std::string& ref, const std::string& label) {
        for (const plan::Carried& c : look.carried)
            if (c.place.ref == ref && c.place.label == label) return c;
        ADD_FAILURE() << ref << " " << label;
        return plan::Carried{};
    };
    for (const auto* list : {&bittern.looks, &bittern.effects})
        for (const plan::LookPlan& look : *list) {
            // One cell, one kill, one wire between them; the pins carry what both their pads sink.
            EXPECT_NEAR(of(look, "B1", "B1").mean.value(), look.mean.value(), 1e-9) << look.name;
            EXPECT_NEAR(of(look, "K1", "K1").mean.value(), look.mean.value(), 1e-9) << look.name;
            EXPECT_NEAR(of(look, "W1", "B1.plus to K1.in").mean.value(), look.mean.value(), 1e-9);
            EXPECT_NEAR(of(look, "P1", "minus pins").mean.value(),
                        (of(look, "U1", "l1").mean + of(look, "U1", "l2").mean).value(), 1e-9);
            for (const plan::Carried& c : look.carried)
                EXPECT_LE(c.mean.value(), c.peak.value() + 1e-12) << look.name << c.place.label;
        }
    EXPECT_EQ(of(bittern.looks[0], "W1", "B1.plus to K1.in").place.rated,
              circuit::usual_limit(demo("bittern").wires[0].gauge));
    EXPECT_NEAR(circuit::usual_limit(26).value(), 2.2, 1e-12);
    EXPECT_NEAR(circuit::usual_limit(25).value(), std::sqrt(2.2 * 3.5), 1e-12);
    EXPECT_LT(circuit::usual_limit(32).value(), 0.86);
}

TEST(LedRuns, AStringsRowsRunAtWhatTheirResistorLeavesThem) {
    const job::Job godwit = demo("godwit");
    const auto runs = led_runs(godwit, parts());
    ASSERT_TRUE(runs) << runs.error().text();
    const auto* type = parts().find_as<catalogue::SegmentedString>("string.blue-6");
    int segments = 0, flashes = 0;
    for (const LedRun& r : *runs) {
        if (r.die.starts_with("seg")) ++segments;
        if (r.die == "flash") ++flashes;
        if (r.built_in == Ohm(0)) continue;
        EXPECT_FALSE(r.pad.empty()) << r.die;
        // A row by hand: two junctions and 100 Ω behind what the wires leave of the pack.
        const catalogue::Die& die = r.die == "flash" ? type->flash : type->die;
        const auto junction = [&](double amps) {
            const circuit::DieModel one = circuit::die_model(die);
            return one.slope * std::log1p(amps / one.saturation) + amps * one.ohms;
        };
        EXPECT_NEAR(r.forward.value(), 2 * junction(r.amps.value()), 1e-6) << r.die;
        EXPECT_NEAR(r.power.value(), 100 * r.amps.value() * r.amps.value(), 1e-12);
        // With the pick it runs at no more than stated, with one smaller at more.
        EXPECT_GE(r.e24, r.ideal);
        const double at_hand = r.forward.value() + 100 * r.amps.value();
        EXPECT_NEAR((at_hand - 2 * die.forward.value()) / die.stated.value(), r.ideal.value(),
                    0.1 * r.ideal.value()); // but for what the wires take
    }
    EXPECT_EQ(segments, 6);
    EXPECT_EQ(flashes, 1);
}

TEST(WhatIfs, EachIsWhatItsEditBrings) {
    const job::Job heron = demo("heron");
    const auto all = what_ifs(heron, parts(), "Moonrise");
    ASSERT_TRUE(all) << all.error().text();
    std::set<std::string> ids;
    for (const WhatIf& w : *all) {
        ids.insert(w.id);
        job::Job with = heron;
        w.edit(with);
        EXPECT_TRUE(job::validate(with, parts())) << w.id;
        const auto look = look_named(with, "Moonrise");
        const auto mean = mean_amps(with, parts(), {*look, {}, {}, {}, 1});
        ASSERT_TRUE(mean);
        EXPECT_NEAR(mean->value(), w.mean_after.value(), 1e-9) << w.id;
        if (w.id == "white-die") {
            EXPECT_LT(w.mean_after, w.mean_before * 0.6);
            EXPECT_GT(w.foot_ratio, 0.9); // not bought with darkness
        }
        if (w.id == "cap") {
            EXPECT_LT(w.mean_after, w.mean_before);
        }
        if (w.id == "both-ends" || w.id == "wider-strip") {
            EXPECT_GT(w.tip_after, w.tip_before) << w.id;
        }
    }
    EXPECT_EQ(ids, (std::set<std::string>{"white-die", "cap", "both-ends", "wider-strip"}));
}

TEST(Heat, ADieOverItsModuleOverTheHiltOverTheAir) {
    job::Job curlew = job::with_variant(demo("curlew"), 0);
    ASSERT_EQ(curlew.variant, "LED in the hilt");
    const auto look = look_named(curlew, "Signal red");
    const auto n = network_of(curlew, parts(), mean_state(*look));
    ASSERT_TRUE(n);
    const auto p = circuit::solve(*n);
    ASSERT_TRUE(p);
    const auto heat = heat_of(curlew, parts(), *n, *p);
    const PartHeat* d = nullptr;
    for (const PartHeat& h : heat)
        if (h.ref == "D1") d = &h;
    ASSERT_TRUE(d && d->die);
    const auto* led = parts().find_as<catalogue::Led>("led.power-4-rgbw");
    const double warms = d->power.value() * (1 - led->light_share);
    const double to_hilt = parts().find("led.power-4-rgbw")->thermal.value();
    EXPECT_NEAR(d->temperature.value(), 20 + warms * (to_hilt + hilt_to_air(curlew.hilt).value()),
                1e-9);
    EXPECT_NEAR(d->die->value() - d->temperature.value(), warms * led->junction.value(), 1e-9);
    double area = 0;
    for (const job::BoreSection& s : curlew.hilt.sections)
        area += M_PI * s.outer.value() * (s.to - s.from).value() * 1e-6;
    EXPECT_NEAR(hilt_to_air(curlew.hilt).value(), 1 / (10 * area), 1e-9);
}

} // namespace
} // namespace conductus::power
