// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/circles.h"

#include <cmath>
#include <functional>
#include <gtest/gtest.h>
#include <random>

#include "core/hilt/body.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using test::rounds;

double sticks_out(const Disc& c, const std::vector<Disc>& discs) {
    double most = -INFINITY;
    for (const Disc& d : discs)
        most = std::max(most, std::hypot(d.x - c.x, d.y - c.y) + d.r);
    return most;
}

double least_over(const std::function<double(double)>& f) {
    double a = -40, b = 40;
    const double g = (std::sqrt(5.0) - 1) / 2;
    for (int i = 0; i < 64; ++i) {
        const double c = b - g * (b - a), d = a + g * (b - a);
        (f(c) < f(d) ? b : a) = f(c) < f(d) ? d : c;
    }
    return f((a + b) / 2);
}

/// The least radius by looking everywhere: convex in x and y, so the least of the leasts.
double by_looking(const std::vector<Disc>& discs) {
    return least_over([&](double x) {
        return least_over([&](double y) { return sticks_out({x, y, 0}, discs); });
    });
}

TEST(Circle, OfTwoAndThreeByHand) {
    const Disc two = smallest_circle({{-3, 0, 1}, {5, 0, 2}});
    EXPECT_NEAR(two.r, 5.5, 1e-12);
    EXPECT_NEAR(two.x, 1.5, 1e-12);
    // Three coins in a triangle: r (1 + 2/√3).
    const double h = std::sqrt(3.0);
    EXPECT_NEAR(smallest_circle({{-1, 0, 1}, {1, 0, 1}, {0, h, 1}}).r, 1 + 2 / h, 1e-12);
    EXPECT_NEAR(smallest_circle({{0, 0, 9}, {1, 1, 2}, {-3, 2, 1}}).r, 9, 1e-12)
        << "one holds the others";
    EXPECT_EQ(smallest_circle({}).r, -INFINITY);
}

TEST(Circle, AgreesWithLookingEverywhere) {
    std::mt19937 random(5);
    std::uniform_real_distribution<> place(-12, 12), size(-14, 9);
    for (int round = 0; round < rounds(300); ++round) {
        std::vector<Disc> discs(1 + random() % 9);
        for (Disc& d : discs)
            d = {place(random), place(random), size(random)};
        const Disc c = smallest_circle(discs);
        EXPECT_LE(sticks_out(c, discs), c.r + 1e-7);
        EXPECT_NEAR(c.r, by_looking(discs), 1e-5) << "round " << round;
    }
}

TEST(Circle, MoreDiscsNeverNeedLess) {
    std::mt19937 random(6);
    std::uniform_real_distribution<> place(-12, 12), size(0, 6);
    for (int round = 0; round < rounds(400); ++round) {
        std::vector<Disc> discs;
        double r = -INFINITY;
        for (int i = 0; i < 8; ++i) {
            discs.push_back({place(random), place(random), size(random)});
            const double now = smallest_circle(discs).r;
            EXPECT_GE(now, r - 1e-9);
            r = now;
        }
    }
}

TEST(Outline, OverlapIsWhatPointsSay) {
    // A grid of points inside one and inside the other: enough to tell unless they barely touch.
    std::mt19937 random(8);
    std::uniform_real_distribution<> place(-9, 9), size(1, 6), turn(0, 3.2);
    const auto inside = [](const Solid& s, double x, double y) {
        const double dx = x - s.x, dy = y - s.y;
        if (s.round) return dx * dx + dy * dy < s.half_w * s.half_w;
        const double c = std::cos(s.turn), n = std::sin(s.turn);
        return std::abs(dx * c + dy * n) < s.half_w && std::abs(dy * c - dx * n) < s.half_h;
    };
    int both = 0, apart = 0;
    for (int round = 0; round < rounds(300); ++round) {
        Solid s[2];
        for (Solid& one : s) {
            one = {Millimetre(0), Millimetre(10), random() % 2 == 0, place(random),
                   place(random), size(random),   size(random),      turn(random)};
            if (one.round) one.half_h = one.half_w;
        }
        int shared = 0;
        for (double x = -16; x < 16; x += 0.1)
            for (double y = -16; y < 16; y += 0.1)
                shared += inside(s[0], x, y) && inside(s[1], x, y);
        const bool overlap = outlines_overlap(s[0], s[1]);
        EXPECT_TRUE(overlap || shared == 0);
        (shared > 0 ? both : apart) += 1;
        // Behind each other they never do.
        s[1].from = Millimetre(10), s[1].to = Millimetre(20);
        EXPECT_FALSE(outlines_overlap(s[0], s[1]));
    }
    EXPECT_GT(both, rounds(60));
    EXPECT_GT(apart, rounds(60));
}

} // namespace
} // namespace conductus::hilt
