// SPDX-License-Identifier: GPL-3.0-or-later
// The order in which a job lists its parts, wires and blades changes no voltage.
#include <algorithm>
#include <map>
#include <random>

#include "core/circuit/solver.h"
#include "core/power/state.h"
#include "support/corpus.h"
#include "support/fixtures.h"

namespace conductus::circuit {
namespace {

std::map<std::string, double> volts_of(const job::Job& job, const std::string& look) {
    power::State state;
    state.look = *power::look_named(job, look);
    state.loudness = power::Loudness::peak;
    const auto network = power::network_of(job, test::parts(), state);
    EXPECT_TRUE(network);
    const auto point = solve(*network);
    EXPECT_TRUE(point) << (point ? "" : point.error().text());
    std::map<std::string, double> all;
    if (!point) return all;
    // Ground is one cell's minus; which one is the order's affair in a pack, so against it.
    for (std::size_t n = 0; n < network->nodes.size(); ++n)
        all[network->nodes[n]] = point->volts[n];
    const auto ground = all.find("u1_gnd");
    const double zero = ground == all.end() ? 0 : ground->second;
    for (auto& [name, v] : all)
        v -= zero;
    all.erase("0");
    return all;
}

TEST(Order, OfPartsWiresAndBladesChangesNoVoltage) {
    const auto bases = test::base_jobs();
    std::mt19937 random(20261128);
    const int rounds = test::rounds(500);
    double worst = 0;
    for (int i = 0; i < rounds; ++i) {
        const auto& [name, whole] = bases[static_cast<std::size_t>(i) % bases.size()];
        const std::string look =
            whole.looks[static_cast<std::size_t>(i) / bases.size() % whole.looks.size()].name;
        const auto as_written = volts_of(whole, look);
        job::Job job = whole;
        std::shuffle(job.parts.begin(), job.parts.end(), random);
        std::shuffle(job.wires.begin(), job.wires.end(), random);
        std::shuffle(job.blades.begin(), job.blades.end(), random);
        for (job::Blade& blade : job.blades)
            std::shuffle(blade.strips.begin(), blade.strips.end(), random);
        const auto shuffled = volts_of(job, look);
        for (const auto& [node, volts] : as_written) {
            const auto same = shuffled.find(node);
            if (same == shuffled.end()) continue; // the node that is ground in the other order
            EXPECT_NEAR(same->second, volts, 1e-9) << name << ", " << look << ", " << node;
            worst = std::max(worst, std::abs(same->second - volts));
        }
    }
    testing::Test::RecordProperty("worst_V", std::to_string(worst));
    EXPECT_LE(worst, 1e-9);
}

} // namespace
} // namespace conductus::circuit
