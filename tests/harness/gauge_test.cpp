// SPDX-License-Identifier: GPL-3.0-or-later
// Gauges against every combination there is.
#include "core/harness/gauge.h"

#include <cmath>
#include <random>

#include "core/circuit/copper.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/plan/answers.h"
#include "support/fixtures.h"

namespace conductus::harness {
namespace {

using namespace test;

/// The least copper of all combinations.
double exhaustive(const std::vector<WireLoad>& wires, double pack, double budget) {
    double best = INFINITY;
    std::vector<std::size_t> at(wires.size(), 0);
    for (;;) {
        std::vector<int> gauge;
        bool allowed = true;
        for (std::size_t i = 0; i < wires.size(); ++i) {
            gauge.push_back(gauges[at[i]]);
            allowed = allowed && (gauges[at[i]] <= wires[i].finest || gauges[at[i]] == gauges[0]);
        }
        if (allowed && effective_drop(wires, gauge, pack) <= budget * (1 + 1e-12))
            best = std::min(best, copper_of(wires, gauge));
        std::size_t i = 0;
        while (i < at.size() && ++at[i] == gauges.size())
            at[i++] = 0;
        if (i == at.size()) return best;
    }
}

TEST(Gauges, LeastCopperIsThatOfAnExhaustiveSearch) {
    std::mt19937 random(72);
    std::uniform_real_distribution<double> amps(0, 6), length(20, 200), share(0.15, 1.3);
    int reached = 0, tight = 0;
    for (int round = 0; round < rounds(120); ++round) {
        std::vector<WireLoad> wires(2 + random() % 4);
        for (WireLoad& w : wires) {
            w.amps = random() % 6 ? amps(random) : 0;
            w.length = length(random);
            w.finest = finest_by_heat(Ampere(w.amps));
        }
        const double pack = 5;
        const std::vector<int> finest(wires.size(), 30);
        const double budget = share(random) * effective_drop(wires, finest, pack);
        const double best = exhaustive(wires, pack, budget);
        const Sizing s = least_copper(wires, pack, budget);
        EXPECT_EQ(s.reached, std::isfinite(best));
        if (!s.reached) continue;
        ++reached;
        tight += s.copper > copper_of(wires, finest) * 1.001;
        EXPECT_NEAR(s.copper, best, 1e-9 * best) << "round " << round;
        EXPECT_LE(s.drop, budget * (1 + 1e-9));
        for (std::size_t i = 0; i < wires.size(); ++i)
            EXPECT_LE(s.gauge[i], std::max(20, wires[i].finest));
    }
    EXPECT_GT(reached, rounds(120) / 2);
    EXPECT_GT(tight, rounds(120) / 4);
}

TEST(Gauges, OneAloneIsTheFinestThatStaysCoolAndUnderItsDrop) {
    for (const double amps : {0.05, 0.5, 1.2, 2.5, 5.0})
        for (const double length : {30.0, 120.0, 400.0}) {
            const int g = finest_by_drop(Ampere(amps), Millimetre(length), Volt(0.02));
            auto fits = [&](int gauge) {
                using circuit::operator*;
                return amps * (circuit::wire_resistance(gauge) * Millimetre(length)).value() <=
                           0.02 &&
                       circuit::wire_rise(gauge, amps, Celsius(25)) <= most_rise &&
                       circuit::usual_limit(gauge).value() >= amps;
            };
            if (g < 30) {
                EXPECT_FALSE(fits(g + 2)) << amps << " " << length;
            }
            if (g > 20) {
                EXPECT_TRUE(fits(g)) << amps << " " << length;
            }
        }
}

TEST(Gauges, OfAJobTheyKeepToTheBudgetAsSolved) {
    const plan::Plan plan = plan_of(demo("heron"));
    const auto none = plan::size_wires(plan, Volt(0.001));
    ASSERT_TRUE(none);
    EXPECT_FALSE(none->reached);
    for (const auto& w : none->wires)
        EXPECT_EQ(w.wanted, gauges.front());
    double before = 1e9;
    for (const double more : {1.05, 1.3, 1.8, 3.0}) {
        const double budget = none->drop.value() * more;
        const auto sized = plan::size_wires(plan, Volt(budget));
        ASSERT_TRUE(sized) << sized.error().text();
        ASSERT_TRUE(sized->reached) << budget;
        EXPECT_LE(sized->drop.value(), budget * (1 + 1e-9));
        EXPECT_LE(sized->copper, before * (1 + 1e-9)) << "more may be lost, so no more copper";
        before = sized->copper;
        // What it says is what the job sized so is solved to.
        job::Job job = *plan.job;
        sized->edit(job);
        const plan::Plan after = plan_of(job);
        EXPECT_NEAR(after.harness.drop.value(), sized->drop.value(), 1e-6) << budget;
    }
}

TEST(Gauges, SixtyWiresAreSizedExactly) {
    std::mt19937 random(73);
    std::uniform_real_distribution<double> amps(0.1, 6), length(20, 200);
    std::vector<WireLoad> wires(60);
    for (WireLoad& w : wires) {
        w.amps = amps(random);
        w.length = length(random);
        w.finest = finest_by_heat(Ampere(w.amps));
    }
    const std::vector<int> finest = [&] {
        std::vector<int> all;
        for (const WireLoad& w : wires)
            all.push_back(w.finest);
        return all;
    }();
    const double budget = 0.6 * effective_drop(wires, finest, 20);
    const Sizing s = least_copper(wires, 20, budget);
    ASSERT_TRUE(s.reached);
    EXPECT_LE(s.drop, budget * (1 + 1e-9));
    // No wire can be made finer and no pair exchanged for less copper.
    for (std::size_t i = 0; i < wires.size(); ++i)
        for (std::size_t k = 0; k < wires.size(); ++k) {
            std::vector<int> other = s.gauge;
            other[i] = std::min(other[i] + 2, wires[i].finest);
            if (k != i) other[k] = std::max(20, other[k] - 2);
            if (copper_of(wires, other) < s.copper * (1 - 1e-9)) {
                EXPECT_GT(effective_drop(wires, other, 20), budget * (1 + 1e-12));
            }
        }
}

} // namespace
} // namespace conductus::harness
