// SPDX-License-Identifier: GPL-3.0-or-later
// Lanes against every order there is.
#include "core/harness/lanes.h"

#include <algorithm>
#include <numeric>
#include <random>

#include "support/fixtures.h"

namespace conductus::harness {
namespace {

using test::rounds;

std::vector<Lane> random_lanes(std::mt19937& random, std::size_t n) {
    std::vector<Lane> lanes;
    for (std::size_t i = 0; i < n; ++i) {
        // Ends on few places, as terminals are: many are shared.
        const double a = static_cast<double>(random() % 12) * 20,
                     b = static_cast<double>(random() % 12) * 20;
        lanes.push_back({"W" + std::to_string(i + 1), std::min(a, b), std::max(a, b), 0});
    }
    return lanes;
}

/// Fewest crossings of all orders, each lane on a level of its own.
int fewest(std::vector<Lane> lanes) {
    std::vector<int> order(lanes.size());
    std::iota(order.begin(), order.end(), 0);
    int least = 1 << 30;
    do {
        for (std::size_t i = 0; i < lanes.size(); ++i)
            lanes[i].level = order[i];
        least = std::min(least, crossings(lanes));
    } while (std::next_permutation(order.begin(), order.end()));
    return least;
}

TEST(Lanes, CrossAsFewAsAnyOrderDoes) {
    std::mt19937 random(74);
    int crossed = 0;
    for (int round = 0; round < rounds(60); ++round) {
        auto lanes = random_lanes(random, 3 + random() % 5);
        lay_lanes(lanes);
        EXPECT_EQ(crossings(lanes), fewest(lanes)) << "round " << round;
        crossed += crossings(lanes) > 0;
    }
    EXPECT_GT(crossed, rounds(60) / 4);
    auto eight = random_lanes(random, 8);
    lay_lanes(eight);
    EXPECT_EQ(crossings(eight), fewest(eight));
}

TEST(Lanes, NoTwoOnALevelOverlap) {
    std::mt19937 random(75);
    for (int round = 0; round < rounds(100); ++round) {
        auto lanes = random_lanes(random, 40);
        lay_lanes(lanes);
        for (const Lane& a : lanes)
            for (const Lane& b : lanes)
                if (&a != &b && a.level == b.level) {
                    EXPECT_TRUE(a.to + 4 <= b.from + 1e-9 || b.to + 4 <= a.from + 1e-9);
                }
    }
}

/// Whether two lanes that a drawing shows one over the other changed places.
int changed_places(const std::vector<Lane>& before, const std::vector<Lane>& after,
                   std::size_t edited) {
    int n = 0;
    for (std::size_t i = 0; i < before.size(); ++i)
        for (std::size_t k = 0; k < before.size(); ++k)
            if (i != edited && k != edited && before[i].level < before[k].level &&
                after[i].level > after[k].level && before[i].from < before[k].to &&
                before[k].from < before[i].to)
                ++n;
    return n;
}

TEST(Lanes, ASmallEditMovesFew) {
    std::mt19937 random(76);
    std::size_t moved = 0, lanes_in_all = 0;
    for (int round = 0; round < rounds(100); ++round) {
        auto lanes = random_lanes(random, 12);
        lay_lanes(lanes);
        auto after = lanes;
        const std::size_t edited = random() % lanes.size();
        after[edited].to += 6; // one wire a little longer
        lay_lanes(after);
        EXPECT_EQ(changed_places(lanes, after, edited), 0) << "round " << round;
        for (std::size_t i = 0; i < lanes.size(); ++i)
            moved += i != edited && lanes[i].level != after[i].level;
        lanes_in_all += lanes.size();
    }
    EXPECT_LT(static_cast<double>(moved), 0.15 * static_cast<double>(lanes_in_all));
    // Drawn again it is the same.
    auto lanes = random_lanes(random, 30);
    lay_lanes(lanes);
    const auto once = lanes;
    lay_lanes(lanes);
    for (std::size_t i = 0; i < lanes.size(); ++i)
        EXPECT_EQ(lanes[i].level, once[i].level);
}

} // namespace
} // namespace conductus::harness
