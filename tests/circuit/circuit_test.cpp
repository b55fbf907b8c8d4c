// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "core/circuit/compile.h"
#include "core/circuit/copper.h"
#include "core/circuit/ladder.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/state.h"
#include "support/fixtures.h"

namespace conductus::circuit {
namespace {

using namespace test;

TEST(PixelModel, SaturationByHand) {
    EXPECT_EQ(saturation(-1).amps, 0);
    EXPECT_EQ(saturation(0).amps, 0);
    EXPECT_NEAR(saturation(1).amps, 1 / std::pow(2, 0.25), 1e-15);
    EXPECT_NEAR(saturation(1).slope, std::pow(2, -1.25), 1e-15);
    EXPECT_NEAR(saturation(100).amps, 1, 1e-8);
}

TEST(PixelModel, SlopeIsTheDerivative) {
    const PixelModel p{4, {0.012, 0.013, 0.011, 0.018}, {1.95, 2.85, 2.95, 2.8}, 0.45, 0.0009};
    const Duties d{0.7, 1, 0.3, 0.5};
    for (double v = -0.5; v < 4.5; v += 0.0371) {
        const double h = 1e-6;
        const double slope =
            (pixel_current(p, d, v + h).amps - pixel_current(p, d, v - h).amps) / (2 * h);
        EXPECT_NEAR(pixel_current(p, d, v).slope, slope, 1e-7) << v;
    }
}

TEST(PixelModel, MoreVoltsNeverLessCurrent) {
    const PixelModel p{3, {0.012, 0.012, 0.012, 0}, {1.95, 2.85, 2.95, 0}, 0.45, 0.0008};
    double before = -1;
    for (double v = 0; v < 5; v += 0.01) {
        const double now = pixel_current(p, {1, 1, 1, 0}, v).amps;
        EXPECT_GE(now, before);
        before = now;
    }
    EXPECT_LT(before, 0.0369); // never more than three channels and the quiet current
}

/// The ladder of docs/models.md, pixel by pixel, with nothing done to make it fast.
Foot plain_sweep(const Strip& s, double tip) {
    double v = tip, i = 0;
    for (int k = s.pixels - 1; k >= 0; --k) {
        for (const Span& span : s.spans)
            if (k >= span.first && k < span.last) i += pixel_current(s.pixel, span.duty, v).amps;
        v += (k ? s.segment : s.lead) * i;
    }
    return {v, i, 0, 0};
}

TEST(Ladder, BlocksGiveWhatPixelByPixelGives) {
    std::mt19937 random(3);
    for (int n = 0; n < rounds(300); ++n) {
        const Network network = random_network(random);
        for (const Strip& strip : network.strips)
            for (const double tip : {-0.2, 0.0, 1.0, 1.95, 2.4, 2.849, 2.95, 3.2, 4.1}) {
                const Foot fast = sweep(strip, tip), plain = plain_sweep(strip, tip);
                ASSERT_NEAR(fast.volts, plain.volts, 1e-9) << strip.pixels << " at " << tip;
                ASSERT_NEAR(fast.amps, plain.amps, 5e-9);
            }
    }
}

TEST(Ladder, SlopesAreDerivativesByTheTip) {
    const Strip strip = reference_network().strips[0];
    for (const double tip : {2.0, 2.7, 2.96, 3.4}) {
        const double h = 1e-5;
        const Foot at = sweep(strip, tip), up = sweep(strip, tip + h), down = sweep(strip, tip - h);
        EXPECT_NEAR(at.volts_slope, (up.volts - down.volts) / (2 * h), 1e-4 * at.volts_slope);
        EXPECT_NEAR(at.amps_slope, (up.amps - down.amps) / (2 * h),
                    1e-4 * std::max(1.0, at.amps_slope));
    }
}

TEST(Ladder, CoarseIsClose) {
    const Strip strip = reference_network().strips[0];
    EXPECT_NEAR(coarse_sweep(strip, 2.9595, 8).volts, sweep(strip, 2.9595).volts, 1e-3);
    EXPECT_NEAR(coarse_sweep(strip, 2.9595, 1).volts, sweep(strip, 2.9595).volts, 1e-6);
}

void expect_reference(const OperatingPoint& p) {
    // To all digits of the independent simulator.
    EXPECT_NEAR(p.volts[3] - p.volts[4], 3.546119, 5e-7);
    EXPECT_NEAR(p.strips[0].volts.front(), 3.413742, 5e-7);
    EXPECT_NEAR(p.strips[0].volts.back(), 2.959500, 5e-7);
    EXPECT_NEAR(p.strips[1].volts.back(), 2.959500, 5e-7);
    EXPECT_NEAR(p.source_amps[0], 5.353527, 5e-7);
}

TEST(Reference, ByPorts) {
    const auto p = solve(reference_network());
    ASSERT_TRUE(p) << p.error().text();
    expect_reference(*p);
}

TEST(Reference, ByTheWholeNetwork) {
    const auto p = solve_exact(reference_network());
    ASSERT_TRUE(p) << p.error().text();
    expect_reference(*p);
}

TEST(Reference, AsAJobFile) {
    // The same circuit said in a job: an overridden cell, wire, lead and rail.
    const auto ran =
        run((bin_dir() / "conductus-cli").string() + " solve " +
            (source_dir() / "tests/data/reference.json").string() + " --soc 0.81111111111111112");
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_NE(ran.out.find("3.413742 V at the first, 2.959500 V at the last"), std::string::npos)
        << ran.out;
}

TEST(Solver, OhmsLaw) {
    Network n;
    n.nodes = {"0", "a", "b"};
    n.sources.push_back({"b1", "B1", 1, 0, 4.0, 1.0});
    n.resistors = {{"r1", "R1", Part::wire, 1, 2, 2.0}, {"r2", "R2", Part::wire, 2, 0, 5.0}};
    for (const auto& p : {solve(n), solve_exact(n)}) {
        ASSERT_TRUE(p);
        EXPECT_NEAR(p->volts[1], 3.5, 1e-12);
        EXPECT_NEAR(p->volts[2], 2.5, 1e-12);
        EXPECT_NEAR(p->resistor_amps[0], 0.5, 1e-12);
        EXPECT_NEAR(p->source_amps[0], 0.5, 1e-12);
    }
}

TEST(Solver, TwoCellsInSeriesAndInParallel) {
    Network series;
    series.nodes = {"0", "mid", "top"};
    series.sources = {{"b1", "B1", 1, 0, 4.0, 0.05}, {"b2", "B2", 2, 1, 3.8, 0.05}};
    series.resistors = {{"r", "R", Part::wire, 2, 0, 7.7}};
    for (const auto& p : {solve(series), solve_exact(series)}) {
        ASSERT_TRUE(p);
        EXPECT_NEAR(p->source_amps[0], 1.0, 1e-12);
        EXPECT_NEAR(p->source_amps[1], 1.0, 1e-12);
        EXPECT_NEAR(p->volts[2], 7.7, 1e-12);
    }
    Network parallel;
    parallel.nodes = {"0", "top"};
    parallel.sources = {{"b1", "B1", 1, 0, 4.0, 0.1}, {"b2", "B2", 1, 0, 4.0, 0.1}};
    parallel.resistors = {{"r", "R", Part::wire, 1, 0, 1.95}};
    const auto p = solve(parallel);
    ASSERT_TRUE(p);
    EXPECT_NEAR(p->source_amps[0], 1.0, 1e-12);
    EXPECT_NEAR(p->volts[1], 3.9, 1e-12);
}

TEST(Solver, PortsAndWholeNetworkAgree) {
    std::mt19937 random(5);
    for (int i = 0; i < rounds(150); ++i) {
        const Network n = random_network(random);
        const auto a = solve(n), b = solve_exact(n);
        ASSERT_TRUE(a) << a.error().text();
        ASSERT_TRUE(b) << b.error().text();
        for (Node k = 0; k < n.nodes.size(); ++k)
            ASSERT_NEAR(a->volts[k], b->volts[k], 1e-6) << i;
        for (std::size_t s = 0; s < n.strips.size(); ++s)
            for (std::size_t k = 0; k < a->strips[s].volts.size(); ++k) {
                ASSERT_NEAR(a->strips[s].volts[k], b->strips[s].volts[k], 1e-6);
                ASSERT_NEAR(a->strips[s].rail[k], b->strips[s].rail[k], 1e-6);
            }
    }
}

TEST(Solver, EnergyBalances) {
    std::mt19937 random(6);
    for (int i = 0; i < rounds(100); ++i) {
        const Network n = random_network(random);
        const auto p = solve(n);
        ASSERT_TRUE(p);
        double given = 0, taken = 0;
        for (std::size_t k = 0; k < n.sources.size(); ++k) {
            given += n.sources[k].emf * p->source_amps[k];
            taken += n.sources[k].ohms * p->source_amps[k] * p->source_amps[k];
        }
        for (std::size_t k = 0; k < n.resistors.size(); ++k)
            taken += n.resistors[k].ohms * p->resistor_amps[k] * p->resistor_amps[k];
        for (std::size_t k = 0; k < n.sinks.size(); ++k)
            taken += p->sink_amps[k] * (p->volts[n.sinks[k].plus] - p->volts[n.sinks[k].minus]);
        for (std::size_t k = 0; k < n.strips.size(); ++k)
            taken += p->strips[k].amps * (p->volts[n.strips[k].plus] - p->volts[n.strips[k].minus]);
        EXPECT_NEAR(given, taken, 1e-8 * std::max(given, 1.0)) << i;
    }
}

TEST(Solver, MoreVoltsNeverLessAnywhere) {
    std::mt19937 random(8);
    for (int i = 0; i < 40; ++i) {
        Network n = random_network(random);
        n.sources[0].emf = 2.8;
        double amps = -1, tip = -1;
        for (; n.sources[0].emf <= 4.2; n.sources[0].emf += 0.2) {
            const auto p = solve(n);
            ASSERT_TRUE(p);
            EXPECT_GE(p->source_amps[0], amps);
            EXPECT_GE(p->strips[0].volts.back(), tip);
            amps = p->source_amps[0];
            tip = p->strips[0].volts.back();
        }
    }
}

TEST(Solver, OrderOfDevicesChangesNothing) {
    std::mt19937 random(9);
    for (int i = 0; i < 30; ++i) {
        Network n = random_network(random);
        const auto before = solve(n);
        std::reverse(n.resistors.begin(), n.resistors.end());
        std::reverse(n.strips.begin(), n.strips.end());
        const auto after = solve(n);
        ASSERT_TRUE(before && after);
        for (Node k = 0; k < n.nodes.size(); ++k)
            EXPECT_NEAR(before->volts[k], after->volts[k], 1e-8);
    }
}

TEST(Solver, AGuessChangesTheWayNotTheResult) {
    Network n = reference_network();
    Guess guess;
    ASSERT_TRUE(solve(n, &guess));
    n.sources[0].emf = 3.3;
    const auto warm = solve(n, &guess), cold = solve(n);
    ASSERT_TRUE(warm && cold);
    EXPECT_NEAR(warm->source_amps[0], cold->source_amps[0], 1e-8);
}

TEST(Solver, FailsHonestly) {
    Network floating = reference_network();
    floating.resistors.erase(floating.resistors.begin() + 1); // the wire to the blade
    for (const auto& p : {solve(floating), solve_exact(floating)}) {
        ASSERT_FALSE(p);
        EXPECT_EQ(p.error().where, "bl1_plus");
        EXPECT_FALSE(p.error().mend.empty());
    }
    Network dead = reference_network();
    dead.sources.clear();
    EXPECT_FALSE(solve(dead));
    EXPECT_FALSE(solve_exact(dead));
    Network broken = reference_network();
    broken.strips[0].pixel.full[0] = NAN;
    const auto p = solve(broken);
    ASSERT_FALSE(p);
    EXPECT_TRUE(p.error().where == "st1" || p.error().where == "u1") << p.error().where;
}

TEST(Copper, GaugesOfTheTable) {
    EXPECT_NEAR(wire_diameter(36).value(), 0.127, 1e-12);
    EXPECT_NEAR(wire_diameter(20).value(), 0.8118, 1e-4);
    EXPECT_NEAR(wire_resistance(20).value(), 0.03323, 5e-5);
    EXPECT_NEAR((wire_resistance(22) * Millimetre(500)).value(), wire_resistance(22).value() / 2,
                1e-12);
    const Celsius air(20);
    EXPECT_GT(wire_rise(28, 5, air).value(), wire_rise(20, 5, air).value());
    // ΔT = I²R′(1 + α·ΔT)/(h·π·d): as warm as the wire gets, so a little more than by the square.
    const double rise = wire_rise(24, 4, air).value(),
                 cold = wire_rise(24, 0.04, air).value() * 1e4;
    EXPECT_NEAR(rise, cold * (1 + 0.00393 * rise), 1e-3 * rise);
    EXPECT_GT(wire_rise(24, 4, Celsius(40)).value(), rise);
    EXPECT_EQ(wire_rise(30, 60, air).value(), 2000); // beyond what copper stands
}

TEST(Compile, NamesNodesAndDevicesAsAPersonWould) {
    const job::Job heron = demo("heron");
    const auto n = power::network_of(heron, parts(), {heron.looks[0], {}, {}, {}, 1});
    ASSERT_TRUE(n);
    for (const char* node : {"b1_core", "b1_plus", "k1_in", "k1_out", "u1_bat", "u1_gnd", "p1_plus",
                             "bl1_plus", "bl1_minus", "u1_l1"})
        EXPECT_NE(std::find(n->nodes.begin(), n->nodes.end(), node), n->nodes.end()) << node;
    EXPECT_EQ(std::find(n->nodes.begin(), n->nodes.end(), "u1_l3"), n->nodes.end()) << "a bare pad";
    EXPECT_EQ(n->strips.size(), 2u);
    EXPECT_TRUE(check_connected(*n));
}

TEST(Compile, MeasuredValuesTakeThePlaceOfTheCatalogues) {
    job::Job heron = demo("heron");
    job::find_ref(heron.parts, "B1")->measured.resistance = Ohm(0.1);
    job::find_ref(heron.parts, "K1")->measured.resistance = Ohm(0.05);
    heron.use.temperature = Celsius(25);
    const auto n = power::network_of(heron, parts(), {heron.looks[0], {}, {}, {}, 1});
    ASSERT_TRUE(n);
    EXPECT_NEAR(n->sources[0].ohms, 0.1, 1e-12);
    for (const auto& r : n->resistors)
        if (r.part == Part::kill) {
            EXPECT_NEAR(r.ohms, 0.05, 1e-12);
        }
}

TEST(Compile, AJobWithoutACellSaysSo) {
    job::Job heron = demo("heron");
    heron.parts.erase(heron.parts.begin() + 1);
    heron.wires.clear();
    const auto n = power::network_of(heron, parts(), {heron.looks[0], {}, {}, {}, 1});
    ASSERT_FALSE(n);
    EXPECT_NE(n.error().text().find("no cell"), std::string::npos);
}

} // namespace
} // namespace conductus::circuit
