// SPDX-License-Identifier: GPL-3.0-or-later
// Networks at the edges of what can be built: both solvers settle, and agree.
#include <cmath>

#include "core/circuit/solver.h"
#include "support/fixtures.h"

namespace conductus::circuit {
namespace {

using namespace test;

struct Hard {
    const char* name;
    void (*make)(Network&);
};

class HardCase : public testing::TestWithParam<Hard> {};

TEST_P(HardCase, SettlesBothWaysOnTheSame) {
    Network n = reference_network();
    GetParam().make(n);
    const auto ports = solve(n), whole = solve_exact(n);
    ASSERT_TRUE(ports) << ports.error().text();
    ASSERT_TRUE(whole) << whole.error().text();
    for (Node k = 0; k < n.nodes.size(); ++k)
        EXPECT_NEAR(ports->volts[k], whole->volts[k], 1e-6);
    for (std::size_t s = 0; s < n.strips.size(); ++s) {
        EXPECT_NEAR(ports->strips[s].volts.back(), whole->strips[s].volts.back(), 1e-6);
        EXPECT_NEAR(ports->strips[s].amps, whole->strips[s].amps, 1e-6);
    }
}

INSTANTIATE_TEST_SUITE_P(
    All, HardCase,
    testing::Values(Hard{"FlatCell", [](Network& n) { n.sources[0].emf = 0.4; }},
                    Hard{"NoVoltsAtAll", [](Network& n) { n.sources[0].emf = 0; }},
                    Hard{"JustConducting", [](Network& n) { n.sources[0].emf = 1.95; }},
                    Hard{"OnTheThresholdOfBlue",
                         [](Network& n) {
                             n.sources[0].emf = 2.951;
                             for (auto& s : n.strips)
                                 s.spans[0].duty = {0, 0, 1, 0};
                         }},
                    Hard{"HighSupply", [](Network& n) { n.sources[0].emf = 8.4; }},
                    Hard{"CorrodedSwitch", [](Network& n) { n.resistors[0].ohms = 25; }},
                    Hard{"BrokenRail", [](Network& n) { n.strips[0].segment = 5; }},
                    Hard{"CopperOfNoResistance",
                         [](Network& n) {
                             for (auto& s : n.strips)
                                 s.segment = 1e-9;
                         }},
                    Hard{"SolderedStraightOn",
                         [](Network& n) {
                             for (auto& s : n.strips)
                                 s.lead = 1e-6;
                         }},
                    Hard{"OnePixel",
                         [](Network& n) {
                             n.strips.resize(1);
                             n.strips[0].pixels = 1;
                             n.strips[0].spans = {{0, 1, {1, 1, 1, 0}}};
                         }},
                    Hard{"TwoThousandPixels",
                         [](Network& n) {
                             for (auto& s : n.strips) {
                                 s.pixels = 2000;
                                 s.spans = {{0, 2000, {1, 1, 1, 0}}};
                             }
                         }},
                    Hard{"AllDark",
                         [](Network& n) {
                             for (auto& s : n.strips)
                                 s.spans[0].duty = {};
                         }},
                    Hard{
                        "EveryPixelItsOwnSpan",
                        [](Network& n) {
                            for (auto& s : n.strips) {
                                s.spans.clear();
                                for (int k = 0; k < s.pixels; ++k)
                                    s.spans.push_back(
                                        {k, k + 1, {k % 2 ? 1.0 : 0.0, 0.5, k % 3 ? 0.0 : 1.0, 0}});
                            }
                        }},
                    Hard{"SharpKnee",
                         [](Network& n) {
                             for (auto& s : n.strips)
                                 s.pixel.knee = 0.02;
                         }},
                    Hard{"WeakCell", [](Network& n) { n.sources[0].ohms = 0.8; }},
                    Hard{"SixStripsUnalike",
                         [](Network& n) {
                             for (int i = 0; i < 4; ++i) {
                                 n.strips.push_back(n.strips[0]);
                                 n.strips.back().lead = 0.02 + 0.03 * i;
                                 n.strips.back().name = "extra" + std::to_string(i);
                             }
                         }}),
    [](const auto& tested) { return tested.param.name; });

TEST(Twins, AlikeStripsShareOnePortAndItsCurrentEvenly) {
    Network n = reference_network();
    const auto two = solve(n);
    n.strips[1].lead += 1e-12; // no longer alike, so two ports
    const auto apart = solve(n);
    ASSERT_TRUE(two && apart);
    EXPECT_NEAR(two->source_amps[0], apart->source_amps[0], 1e-7);
    EXPECT_NEAR(two->strips[0].amps, apart->strips[0].amps, 1e-7);
    EXPECT_EQ(two->strips[0].amps, two->strips[1].amps);
}

TEST(Feeding, StripsOnDifferentPadsSeeTheirOwnWires) {
    Network n = reference_network();
    n.nodes.push_back("bl2_plus");
    n.resistors.push_back({"w9_wire", "W9", Part::wire, 3, 5, 0.05});
    n.strips[1].plus = 5;
    const auto p = solve(n), e = solve_exact(n);
    ASSERT_TRUE(p && e);
    EXPECT_LT(p->strips[1].volts.front(), p->strips[0].volts.front());
    EXPECT_NEAR(p->strips[1].volts.back(), e->strips[1].volts.back(), 1e-6);
}

} // namespace
} // namespace conductus::circuit
