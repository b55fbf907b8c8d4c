// SPDX-License-Identifier: GPL-3.0-or-later
// Taking nodes out one by one, against plain elimination and where that loses digits.
#include "core/circuit/star_mesh.h"

#include <Eigen/Dense>
#include <gtest/gtest.h>
#include <random>

#include "core/circuit/branch.h"

namespace conductus::circuit {
namespace {

TEST(StarMesh, AgreesWithPlainEliminationOnRandomMeshes) {
    std::mt19937 random(8);
    for (int round = 0; round < 200; ++round) {
        const std::size_t n = 2 + random() % 90; // more than a word of bits as well
        std::uniform_real_distribution<double> siemens(0.1, 10);
        StarMesh mesh(n);
        Eigen::MatrixXd g = Eigen::MatrixXd::Zero(Eigen::Index(n), Eigen::Index(n));
        auto join = [&](std::size_t a, std::size_t b) {
            const double y = siemens(random);
            mesh.join(a, b, y);
            if (a == b) return;
            for (const auto& [i, k] : {std::pair{a, b}, {b, a}}) {
                if (!i) continue;
                g(Eigen::Index(i) - 1, Eigen::Index(i) - 1) += y;
                if (k) g(Eigen::Index(i) - 1, Eigen::Index(k) - 1) -= y;
            }
        };
        for (std::size_t i = 1; i <= n; ++i)
            join(i, random() % i); // a tree to ground
        for (std::size_t i = 0; i < n; ++i)
            join(random() % (n + 1), random() % (n + 1));
        ASSERT_TRUE(mesh.eliminate());
        Eigen::VectorXd into = Eigen::VectorXd::Random(Eigen::Index(n));
        std::vector<double> v(into.data(), into.data() + n);
        mesh.solve(v.data());
        const Eigen::VectorXd expected = g.ldlt().solve(into);
        for (std::size_t i = 0; i < n; ++i)
            ASSERT_NEAR(v[i], expected(Eigen::Index(i)), 1e-9) << round << " of " << n;
    }
}

TEST(StarMesh, MilliohmsBesideGigohmsLoseNothing) {
    // Microamperes through a gigohm to ground behind ten links of a milliohm: the last node stands
    // at I (1 GΩ), the drop along the links is I · 10 mΩ, fourteen digits below.
    StarMesh mesh(11);
    mesh.join(1, 0, 1e-9);
    for (std::size_t i = 1; i <= 10; ++i)
        mesh.join(i, i + 1, 1e3);
    ASSERT_TRUE(mesh.eliminate());
    std::vector<double> v(11, 0.0);
    v[10] = 1e-6;
    mesh.solve(v.data());
    EXPECT_NEAR(v[0], 1000, 1e-10);
    EXPECT_NEAR(v[10], 1000 + 1e-8, 1e-10);
}

TEST(StarMesh, SaysWhereNothingLeadsToGround) {
    StarMesh mesh(3);
    mesh.join(1, 0, 1);
    mesh.join(2, 3, 1);
    EXPECT_FALSE(mesh.eliminate());
}

TEST(Soldering, FollowsACurrentAsFarAsItGoesAlone) {
    // source – r1 – r2 – LED – r3 – ground, and r4 beside r1: the branch is r2, the LED, r3.
    Network n;
    n.nodes = {"0", "supply", "split", "anode", "cathode"};
    n.sources.push_back({"b1", "B1", 1, 0, 4, 0.05});
    n.resistors = {{"r1", "R1", Part::wire, 1, 2, 1},
                   {"r2", "R2", Part::resistor, 2, 3, 50},
                   {"r3", "R3", Part::wire, 4, 0, 1},
                   {"r4", "R4", Part::wire, 2, 0, 100},
                   {"leak", "D1", Part::leak, 3, 4, 1e6}};
    n.diodes.push_back({"d1", "D1", 3, 4, 1e-12, 0.06, 0.02});
    const Branch b = Soldering(n).beside(0);
    EXPECT_EQ(b.resistors, (std::vector<std::size_t>{1, 2}));
    EXPECT_TRUE(b.diodes.empty());
    // A driver is found however many wires away.
    n.nodes.insert(n.nodes.end(), {"x", "y", "z"});
    n.resistors.push_back({"w1", "W1", Part::wire, 5, 6, 0.01});
    n.resistors.push_back({"w2", "W2", Part::wire, 6, 7, 0.01});
    Converter c;
    c.in = 1, c.gnd = 0, c.out = 5, c.amps = 0.35;
    n.converters.push_back(c);
    EXPECT_EQ(Soldering(n).from(7).outputs, (std::vector<std::size_t>{0}));
    n.resistors.push_back({"w3", "W3", Part::wire, 6, 0, 10}); // another load on the way
    EXPECT_TRUE(Soldering(n).from(7).outputs.empty());
}

} // namespace
} // namespace conductus::circuit
