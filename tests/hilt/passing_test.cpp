// SPDX-License-Identifier: GPL-3.0-or-later
// Fit and passing against a sampler that knows nothing of slices, events or circles.
#include "core/hilt/passing.h"

#include <cmath>
#include <cstdlib>
#include <functional>
#include <map>
#include <numbers>

#include "core/hilt/fit.h"
#include "core/job/lookup.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;

struct Point {
    double x, y;
};

/// Points of an outline every degree, and a box's corners.
std::vector<Point> outline_points(const Solid& s, double wall) {
    std::vector<Point> points;
    const double c = std::cos(s.turn), n = std::sin(s.turn);
    for (int degree = 0; degree < 360; ++degree) {
        const double a = degree * std::numbers::pi / 180, u = std::cos(a), v = std::sin(a);
        if (s.round) {
            points.push_back({s.x + (s.half_w + wall) * u, s.y + (s.half_h + wall) * v});
            continue;
        }
        // A wall round a box is round at its corners.
        for (const double i : {-1.0, 1.0})
            for (const double k : {-1.0, 1.0})
                if (i * u >= -1e-9 && k * v >= -1e-9) // where it faces outward, turned with the box
                    points.push_back(
                        {s.x + i * s.half_w * c - k * s.half_h * n + wall * (u * c - v * n),
                         s.y + i * s.half_w * n + k * s.half_h * c + wall * (u * n + v * c)});
    }
    return points;
}

double bore_radius(const job::Hilt& hilt, double at) {
    for (const job::BoreSection& s : hilt.sections)
        if (at >= s.from.value() && at < s.to.value()) {
            const double end = s.bore_end.value_or(s.bore).value(), b = s.bore.value();
            return (b + (end - b) * (at - s.from.value()) / (s.to - s.from).value()) / 2;
        }
    return INFINITY;
}

/// A short hilt with rings and now and then a taper.
job::Hilt random_hilt(std::mt19937& random, bool tapers) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    job::Hilt hilt;
    double at = 0;
    const int sections = 2 + static_cast<int>(random() % 4);
    for (int i = 0; i < sections; ++i) {
        job::BoreSection s;
        s.name = "s" + std::to_string(i);
        s.from = Millimetre(at);
        at += std::round(uniform(40, 160)) / 10;
        s.to = Millimetre(at);
        s.bore = Millimetre(uniform(19, 28));
        s.outer = Millimetre(35);
        if (tapers && random() % 3 == 0) s.bore_end = Millimetre(uniform(19, 28));
        hilt.sections.push_back(s);
    }
    hilt.opens = random() % 2 ? job::End::pommel : job::End::emitter;
    hilt.clearance = Millimetre(0.2);
    return hilt;
}

PlacedBody random_body(std::mt19937& random, const job::Hilt& hilt, int n, bool centred) {
    auto uniform = [&](double a, double b) {
        return std::uniform_real_distribution<>(a, b)(random);
    };
    const double end = hilt.sections.back().to.value();
    PlacedBody b;
    b.ref = "X" + std::to_string(n);
    b.on_chassis = true;
    b.carrier = "chassis";
    b.wall = Millimetre(0.8);
    Solid s;
    const double from = std::round(uniform(0, end * 0.7) * 10) / 10;
    s.from = Millimetre(from);
    s.to = Millimetre(std::min(end, from + std::round(uniform(20, 120)) / 10));
    s.round = random() % 2 == 0;
    s.half_w = uniform(4, 11);
    s.half_h = s.round ? s.half_w : uniform(1.5, 8);
    if (!centred) {
        s.x = uniform(-3, 3);
        s.y = uniform(-3, 3);
        s.turn = s.round ? 0 : uniform(0, 3);
    }
    b.solids = {s};
    b.from = s.from;
    b.to = s.to;
    return b;
}

Rider rider_of(const std::vector<PlacedBody>& bodies) {
    Rider r{"chassis", job::End::both, true,        job::CarrierKind::fixed,
            {},        bodies[0].from, bodies[0].to};
    for (std::size_t i = 0; i < bodies.size(); ++i) {
        r.bodies.push_back(i);
        r.from = std::min(r.from, bodies[i].from);
        r.to = std::max(r.to, bodies[i].to);
    }
    return r;
}

/// Every 0.1 mm along it, at every 0.1 mm of its way: the least of bore radius less `reach`.
double sampled_room(
    const job::Hilt& hilt, const std::vector<PlacedBody>& bodies,
    const std::function<double(const std::vector<std::pair<const Solid*, double>>&)>& room_of) {
    const bool left = hilt.opens == job::End::pommel;
    const double end = hilt.sections.back().to.value();
    double least = INFINITY;
    // Bodies end on tenths: halfway between them, depths and stations meet no change of bore.
    for (double to_go = 0; to_go < end + 1; to_go += to_go == 0 ? 0.05 : 0.1) {
        std::vector<std::pair<const Solid*, double>> tight;
        for (const PlacedBody& b : bodies) {
            const Solid& s = b.solids[0];
            double radius = INFINITY;
            for (double x = s.from.value() + 0.025; x < s.to.value(); x += 0.05)
                radius = std::min(radius, bore_radius(hilt, left ? x - to_go : x + to_go));
            if (std::isfinite(radius)) tight.emplace_back(&s, radius);
        }
        if (!tight.empty()) least = std::min(least, room_of(tight));
    }
    return least;
}

TEST(Passing, AgreesWithASamplerOnTwoThousandHilts) {
    std::mt19937 random(40);
    int passes = 0, binds = 0;
    for (int round = 0; round < rounds(2000); ++round) {
        const bool tapers = round % 4 == 0;
        const job::Hilt hilt = random_hilt(random, tapers);
        std::vector<PlacedBody> bodies;
        for (int i = 1 + static_cast<int>(random() % 4); i > 0; --i)
            bodies.push_back(random_body(random, hilt, i, true));
        const Passing p = passing(hilt, bodies, rider_of(bodies));
        std::map<const Solid*, double> reaches;
        for (const PlacedBody& b : bodies)
            for (const Point& at : outline_points(b.solids[0], b.wall.value()))
                reaches[&b.solids[0]] = std::max(reaches[&b.solids[0]], std::hypot(at.x, at.y));
        const double sampled = sampled_room(hilt, bodies, [&](const auto& tight) {
            double room = INFINITY;
            for (const auto& [solid, radius] : tight)
                room = std::min(room, 2 * (radius - reaches[solid]));
            return room;
        });
        // A taper of 28 to 19 over 4 mm changes by 0.23 mm in a tenth; a degree of arc hides 1.5
        // µm.
        EXPECT_NEAR(p.room.value(), sampled, tapers ? 0.25 : 2e-3) << "round " << round;
        EXPECT_LE(p.room.value(), sampled + (tapers ? 0.25 : 1e-9));
        EXPECT_EQ(p.ok, p.room >= Millimetre(0));
        ++(p.ok ? passes : binds);
        EXPECT_NEAR(room_at(hilt, bodies, rider_of(bodies), p,
                            p.still_to_go + Millimetre(p.still_to_go > Millimetre(0) ? 1e-7 : 0))
                        .value(),
                    p.room.value(), tapers ? 0.01 : 1e-6);
    }
    EXPECT_GT(passes, rounds(200));
    EXPECT_GT(binds, rounds(200));
}

TEST(Passing, OffTheAxisTheCarrierLiesWhereItHasMostRoom) {
    // Two ways at once: at every sampled depth there is a place in the bore with no less room than
    // said, and at one of them there is none with more.
    constexpr double within = 0.02;
    std::mt19937 random(41);
    int passes = 0, binds = 0;
    // CONDUCTUS_PASSING_ROUNDS for more of them: each takes a tenth of a second.
    const char* wanted = std::getenv("CONDUCTUS_PASSING_ROUNDS");
    const int all = wanted ? std::atoi(wanted) : rounds(100);
    for (int round = 0; round < all; ++round) {
        const job::Hilt hilt = random_hilt(random, false);
        std::vector<PlacedBody> bodies;
        for (int i = 1 + static_cast<int>(random() % 4); i > 0; --i)
            bodies.push_back(random_body(random, hilt, i, false));
        const Passing p = passing(hilt, bodies, rider_of(bodies));
        ++(p.ok ? passes : binds);
        std::map<const Solid*, std::vector<Point>> points;
        for (const PlacedBody& b : bodies)
            points[&b.solids[0]] = outline_points(b.solids[0], b.wall.value());
        std::map<std::vector<std::pair<const Solid*, double>>, double> known;
        bool bound = false; // a depth was seen with no more room than said
        const double sampled = sampled_room(hilt, bodies, [&](const auto& tight) {
            if (const auto it = known.find(tight); it != known.end()) return it->second;
            const auto room = [&](double x, double y) {
                double least = INFINITY;
                for (const auto& [solid, radius] : tight)
                    for (const Point& at : points[solid])
                        least = std::min(least, radius - std::hypot(at.x - x, at.y - y));
                return 2 * least;
            };
            // Once it was seen, the others need only have no less.
            const double enough = p.room.value() + (bound ? -within : within);
            double x = 0, y = 0, best = room(0, 0);
            for (double step = 2; step > 0.02 && best < enough; step /= 2)
                for (const auto& [dx, dy] : {Point{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
                    if (const double r = room(x + dx * step, y + dy * step); r > best)
                        best = r, x += dx * step, y += dy * step;
            if (best >= enough) return known[tight] = std::max(best, p.room.value());
            // Concave in x and y: the most of the mosts.
            const auto most = [](const auto& f) {
                double a = -8, b = 8;
                const double g = (std::sqrt(5.0) - 1) / 2;
                for (int i = 0; i < 20; ++i) {
                    const double c = b - g * (b - a), d = a + g * (b - a);
                    (f(c) > f(d) ? b : a) = f(c) > f(d) ? d : c;
                }
                return f((a + b) / 2);
            };
            best = most([&](double u) { return most([&](double v) { return room(u, v); }); });
            bound = bound || best <= p.room.value() + within;
            return known[tight] = best;
        });
        EXPECT_TRUE(bound) << "round " << round;
        EXPECT_NEAR(p.room.value(), sampled, within) << "round " << round;
    }
    EXPECT_GT(passes, 2);
    EXPECT_GT(binds, 2);
}

TEST(Passing, OpeningABoreOrTakingABodyOutNeverMakesItWorse) {
    std::mt19937 random(42);
    for (int round = 0; round < rounds(400); ++round) {
        job::Hilt hilt = random_hilt(random, true);
        std::vector<PlacedBody> bodies;
        for (int i = 2 + static_cast<int>(random() % 3); i > 0; --i)
            bodies.push_back(random_body(random, hilt, i, false));
        const Passing before = passing(hilt, bodies, rider_of(bodies));
        job::BoreSection& s = hilt.sections[random() % hilt.sections.size()];
        s.bore += Millimetre(1);
        if (s.bore_end) *s.bore_end += Millimetre(1);
        const Passing wider = passing(hilt, bodies, rider_of(bodies));
        EXPECT_GE(wider.room.value(), before.room.value() - 1e-6);
        bodies.erase(bodies.begin() + static_cast<long>(random() % bodies.size()));
        EXPECT_GE(passing(hilt, bodies, rider_of(bodies)).room.value(), wider.room.value() - 1e-6);
    }
}

TEST(Passing, ARingBindsWhereItIs) {
    job::Job job = demo("dunlin");
    const auto way = [&] {
        for (const Passing& p : fit(job, parts()).passes)
            if (p.carrier == "C1") return p;
        return Passing{};
    };
    EXPECT_TRUE(way().ok);
    job::find_ref(job.parts, "B1")->type = "cell.18650-power";
    const Passing p = way();
    EXPECT_FALSE(p.ok);
    EXPECT_NEAR(p.by().value(), 18.5 + 2.4 - 20.85, 1e-9);
    EXPECT_EQ(p.section, "ring");
    EXPECT_EQ(p.part, "B1");
    EXPECT_GE(p.at, Millimetre(8));
    EXPECT_LE(p.at, Millimetre(12));
    // Taken apart behind the ring, the chassis need not pass it.
    job.hilt.joints = {{"grip", Millimetre(12), job::JointKind::thread, job::Hand::right,
                        Millimetre(1), Millimetre(6)}};
    EXPECT_TRUE(way().ok);
    job.hilt.joints[0].kind = job::JointKind::glued;
    EXPECT_FALSE(way().ok);
    job.hilt.joints.clear();
    job.hilt.carriers[0].goes_in = job::End::emitter;
    EXPECT_FALSE(way().ok);
    EXPECT_EQ(way().reason, "the end it should go in by is closed");
}

TEST(Passing, ASectionSlidOverTheCarrierCountsToo) {
    // The chassis reaches into the pommel, whose mouth is narrow.
    job::Job job = demo("heron");
    auto& sections = job.hilt.sections;
    sections[0].to = Millimetre(30);
    sections.insert(sections.begin() + 1,
                    {"mouth", Millimetre(30), Millimetre(34), Millimetre(20), Millimetre(38)});
    const Fit f = fit(job, parts());
    const auto* c1 = &f.passes[0];
    ASSERT_EQ(c1->carrier, "C1");
    EXPECT_FALSE(c1->ok);
    EXPECT_EQ(c1->section, "mouth");
    EXPECT_NEAR(c1->by().value(), 18.5 + 2.4 - 20, 1e-9);
}

TEST(Slices, BesideEachOtherTheyNeedOneCircle) {
    job::Job job = demo("heron");
    survey_plainly(job);
    job::Part& board = *job::find_ref(job.parts, "U1");
    job::Part& kill = *job::find_ref(job.parts, "K1");
    kill.at = board.at;
    kill.off_axis = Millimetre(8);
    const Fit f = fit(job, parts());
    const Clearance* c = f.of("K1");
    EXPECT_EQ(c->beside, std::vector<std::string>{"U1"});
    // By hand: board 19 × 6.5, switch 6 × 6 at 8 above: corners ±9.5, −3.25 and ±3, 11 and walls.
    const double y = ((9 + 121) - (90.25 + 10.5625)) / (2 * (11 + 3.25));
    const double need = 2 * (std::hypot(3, 11 - y) + 1.2);
    EXPECT_NEAR(c->spare.value(), 28.4 - need, 1e-9);
    bool found = false;
    for (const Slice& s : f.slices)
        if (s.refs == std::vector<std::string>{"K1", "U1"}) {
            found = true;
            EXPECT_NEAR(s.need.value(), need, 1e-9);
        }
    EXPECT_TRUE(found);
    // Turned on its side the board is in the switch's way.
    board.turn = Degree(90);
    EXPECT_EQ(fit(job, parts()).of("K1")->against, "U1");
    // To the side instead of above: the same circle, turned.
    board.turn = Degree(0);
    const double before = fit(job, parts()).of("K1")->spare.value();
    board.turn = kill.turn = Degree(90);
    kill.off_axis = Millimetre(0);
    kill.side = Millimetre(8);
    EXPECT_NEAR(fit(job, parts()).of("K1")->spare.value(), before, 1e-9);
}

TEST(Slices, ACompoundIsItsPieces) {
    job::Job job = demo("heron");
    survey_plainly(job);
    job::find_ref(job.parts, "U1")->type = "board.standard-store";
    const Fit f = fit(job, parts());
    const PlacedBody* u1 = job::find_ref(f.bodies, "U1");
    ASSERT_EQ(u1->solids.size(), 2u);
    EXPECT_NEAR((u1->to - u1->from).value(), 46, 1e-9);
    EXPECT_NEAR(u1->height.value(), 3.25 + 9, 1e-9);
}

TEST(Slices, WiresTakeTheRoomThatIsLeft) {
    job::Job job = demo("heron");
    const auto fullest = [&] {
        double most = 0;
        for (const Slice& s : fit(job, parts()).slices)
            most = std::max(most, s.wires_mm2);
        return most;
    };
    const double before = fullest();
    EXPECT_GT(before, 0);
    job::Wire extra = job.wires[0];
    extra.ref = "W99";
    extra.from = "SP1.plus";
    extra.to = "P1.plus";
    extra.gauge = 20;
    job.wires.push_back(extra);
    const double d = 0.127 * std::pow(92, 16.0 / 39) + 0.5;
    EXPECT_NEAR(fullest(), before + std::numbers::pi / 4 * d * d / 0.6, 1e-6);
}

} // namespace
} // namespace conductus::hilt
