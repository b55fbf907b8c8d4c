// SPDX-License-Identifier: GPL-3.0-or-later
// Readings with noise give back the truth within their stated intervals.
#include "core/bench/characterise.h"

#include <cmath>
#include <map>

#include "core/base/random.h"
#include "core/bench/least_squares.h"
#include "core/power/cell_model.h"
#include "support/bench_strip.h"
#include "support/fixtures.h"

namespace conductus::bench {
namespace {

using test::parts;
using test::strip_at;

/// Normally distributed, from two uniform numbers.
class Noise {
public:
    explicit Noise(std::uint64_t seed) : random_(seed) {}
    double operator()(double sigma) {
        const double u = 1 - random_.uniform();
        return sigma * std::sqrt(-2 * std::log(u)) * std::cos(2 * M_PI * random_.uniform());
    }

private:
    Random random_;
};

/// How often each truth lies in its interval.
class Coverage {
public:
    void count(const Result<Characterised>& found, const std::map<std::string, double>& truth) {
        ASSERT_TRUE(found) << found.error().text();
        for (const auto& [name, value] : truth) {
            const Found* f = found->find(name);
            ASSERT_TRUE(f) << name;
            EXPECT_TRUE(f->determined) << name;
            ++trials_[name];
            held_[name] += f->low <= value && value <= f->high;
        }
    }
    /// Of all parameters together, and of each by itself within what so many trials can tell.
    void hold() const {
        int all = 0, held = 0;
        for (const auto& [name, n] : trials_) {
            const int h = held_.at(name);
            all += n, held += h;
            EXPECT_NEAR(static_cast<double>(h) / n, 0.95, 0.025) << name << " in " << n;
        }
        const double share = static_cast<double>(held) / all;
        EXPECT_GT(share, 0.93);
        EXPECT_LT(share, 0.97);
    }

private:
    std::map<std::string, int> trials_, held_;
};

constexpr int trials = 1000;

TEST(Characterise, StudentsDistributionIsThatOfTheTables) {
    EXPECT_NEAR(student_95(1), 12.7062, 1e-3);
    EXPECT_NEAR(student_95(2), 4.30265, 1e-4);
    EXPECT_NEAR(student_95(5), 2.57058, 1e-3);
    EXPECT_NEAR(student_95(10), 2.22814, 1e-3);
    EXPECT_NEAR(student_95(30), 2.04227, 1e-3);
    EXPECT_NEAR(student_95(1e6), 1.95996, 1e-3);
}

TEST(Characterise, AContactIsTheSlopeOfItsDrop) {
    Readings readings;
    for (const double amps : {1.0, 2.0, 4.0})
        readings.rows.push_back({.volts = 0.018 * amps, .amps = amps});
    const auto found = characterise(Specimen::contact, readings, parts());
    ASSERT_TRUE(found);
    EXPECT_NEAR(found->find("resistance")->value, 0.018, 1e-9);
    EXPECT_NEAR(found->residual_mV, 0, 1e-6);

    Noise noise(7);
    Coverage coverage;
    for (int i = 0; i < trials; ++i) {
        for (auto& r : readings.rows)
            r.volts = 0.018 * *r.amps + noise(0.0011);
        coverage.count(characterise(Specimen::contact, readings, parts()), {{"resistance", 0.018}});
    }
    coverage.hold();
}

TEST(Characterise, AnLedsThreeFiguresLieInTheirIntervals) {
    const auto volts = [](double amps) {
        return 2.95 + 0.071 * std::log(amps / 0.02) + 9.5 * (amps - 0.02);
    };
    Noise noise(11);
    Coverage coverage;
    for (int i = 0; i < trials; ++i) {
        Readings readings;
        for (const double amps : {0.0005, 0.001, 0.002, 0.005, 0.01, 0.02, 0.03})
            readings.rows.push_back({.volts = volts(amps) + noise(0.0015), .amps = amps});
        coverage.count(characterise(Specimen::led, readings, parts(), "led.3mm-white"),
                       {{"forward voltage", 2.95}, {"series resistance", 9.5}, {"slope", 0.071}});
    }
    coverage.hold();
}

TEST(Characterise, ABoardsCurrentsInItsThreeStates) {
    Noise noise(13);
    Coverage coverage;
    for (int i = 0; i < trials; ++i) {
        Readings readings;
        for (const double v : {3.4, 3.6, 3.8, 4.0, 4.2}) {
            const double s = 1 - std::exp(-v);
            readings.rows.push_back(
                {.condition = "active", .volts = v, .amps = 0.072 * s + noise(4e-4)});
            readings.rows.push_back(
                {.condition = "idle", .volts = v, .amps = 0.031 * s + noise(2e-4)});
            readings.rows.push_back(
                {.condition = "asleep", .volts = v, .amps = 8e-5 * s + noise(1e-6)});
        }
        coverage.count(
            characterise(Specimen::board, readings, parts()),
            {{"active current", 0.072}, {"idle current", 0.031}, {"asleep current", 8e-5}});
    }
    coverage.hold();
}

TEST(Characterise, APixelIsFoundColourByColour) {
    const circuit::PixelModel truth{3, {0.0135, 0.0118, 0.0127}, {1.98, 2.81, 2.99}, 0.47, 9e-4};
    Noise noise(17);
    Coverage coverage;
    for (int i = 0; i < trials; ++i) {
        Readings readings;
        for (double v = 2.0; v < 4.25; v += 0.25)
            for (const auto& [colour, duty] : {std::pair{"red", circuit::Duties{1, 0, 0, 0}},
                                               {"green", {0, 1, 0, 0}},
                                               {"blue", {0, 0, 1, 0}},
                                               {"white", {1, 1, 1, 0}}})
                readings.rows.push_back(
                    {.condition = colour,
                     .volts = v,
                     .amps = circuit::pixel_current(truth, duty, v).amps + noise(6e-5)});
        coverage.count(characterise(Specimen::pixel, readings, parts()),
                       {{"full current, red", 0.0135},
                        {"full current, green", 0.0118},
                        {"full current, blue", 0.0127},
                        {"threshold, red", 1.98},
                        {"threshold, green", 2.81},
                        {"threshold, blue", 2.99},
                        {"knee", 0.47},
                        {"quiet current", 9e-4}});
    }
    coverage.hold();
}

TEST(Characterise, AStripsCopperAndPixelsAreFoundTogether) {
    const circuit::PixelModel truth{3, {0.0122, 0.0117, 0.0124}, {1.93, 2.87, 2.94}, 0.44, 8e-4};
    const int pixels = 20;
    const double metres = 0.25, rail = 0.19;
    struct Point {
        const char* colour;
        double volts, amps, tip;
    };
    std::vector<Point> exact;
    for (const double v : {2.4, 2.9, 3.2, 3.6, 4.1})
        for (const auto& [colour, duty] : {std::pair{"red", circuit::Duties{1, 0, 0, 0}},
                                           {"green", {0, 1, 0, 0}},
                                           {"blue", {0, 0, 1, 0}},
                                           {"white", {1, 1, 1, 0}}}) {
            double tip = 0;
            const auto foot = strip_at(truth, duty, pixels, 2 * rail * metres / pixels, v, tip);
            exact.push_back({colour, v, foot.amps, tip});
        }
    Noise noise(19);
    Coverage coverage;
    for (int i = 0; i < trials; ++i) {
        Readings readings;
        readings.pixels = pixels, readings.metres = metres;
        for (const Point& p : exact)
            readings.rows.push_back({.condition = p.colour,
                                     .volts = p.volts,
                                     .amps = p.amps + noise(0.002),
                                     .tip = p.tip + noise(0.0012)});
        coverage.count(characterise(Specimen::strip, readings, parts()),
                       {{"full current, red", 0.0122},
                        {"full current, blue", 0.0124},
                        {"threshold, green", 2.87},
                        {"knee", 0.44},
                        {"quiet current", 8e-4},
                        {"copper", 0.19}});
    }
    coverage.hold();
}

TEST(Characterise, ACellsCurveByChargeAndItsLagGoIntoTheModel) {
    Characterised found;
    found.specimen = Specimen::cell;
    found.parameters = {{"resistance", 0.04, "Ohm", true, 0, 0},
                        {"resistance at 10 %", 0.08, "Ohm", true, 0, 0},
                        {"resistance at 0 %", 0.2, "Ohm", false, 0, 0},
                        {"quick lag, share of the resistance", 0.5, "", true, 0, 0},
                        {"slow lag, share of the resistance", 0.9, "", false, 0, 0},
                        {"quick time constant", 20, "s", true, 0, 0},
                        {"slow time constant", 900, "s", true, 0, 0}};
    const auto made = with_found(*parts().find("cell.18650-power"), found, parts());
    ASSERT_EQ(made.size(), 1u);
    const auto& cell = std::get<catalogue::Cell>(made[0].figures);
    job::Part part;
    const power::CellFigures f = power::figures_of(part, cell);
    EXPECT_DOUBLE_EQ(f.by(0.8), 1);
    EXPECT_DOUBLE_EQ(f.by(0.3), 1);
    EXPECT_DOUBLE_EQ(f.by(0.1), 2) << "measured";
    EXPECT_DOUBLE_EQ(f.by(0.2), 1.5);
    EXPECT_DOUBLE_EQ(f.by(0), 2.5) << "of its class";
    EXPECT_EQ(cell.lag.quick_share, 0.5);
    EXPECT_EQ(cell.lag.slow_share, 0.8) << "of its class";
    // The volts follow the current by the measured lag: the exact exponential.
    power::Polarisation lag;
    lag.advance(Ampere(2), Ohm(0.04), Second(30), cell.lag);
    EXPECT_NEAR(lag.u1.value(), 2 * 0.04 * 0.5 * (1 - std::exp(-30.0 / 20)), 1e-15);
    EXPECT_NEAR(lag.u2.value(), 2 * 0.04 * 0.8 * (1 - std::exp(-30.0 / 900)), 1e-15);
}

TEST(Characterise, ACellAtRestAndLoadedGivesItsResistance) {
    Noise noise(23);
    Coverage coverage;
    for (int i = 0; i < trials; ++i) {
        Readings readings;
        for (const double amps : {0.0, 1.0, 2.0, 4.0, 6.0})
            readings.rows.push_back({.volts = 3.98 - 0.041 * amps + noise(0.002), .amps = amps});
        coverage.count(characterise(Specimen::cell, readings, parts()),
                       {{"resistance", 0.041}, {"rest voltage", 3.98}});
    }
    coverage.hold();
}

struct Load {
    double seconds, amps;
};

/// The volts of a cell, by the program's own cell model, at each time; what flows from one time to
/// the next is the later's.
std::vector<double> discharged(const power::CellFigures& figures, const std::vector<Load>& loads) {
    power::CellNow now;
    std::vector<double> volts;
    double before = 0;
    for (const Load& load : loads) {
        const double dt = load.seconds - before;
        const double used = load.amps * dt / 3.6 / figures.capacity.value();
        // The middle of the step stands for its resistance.
        power::CellNow middle = now;
        middle.charge -= used / 2;
        now.lag.advance(Ampere(load.amps), middle.resistance(figures), Second(dt));
        now.charge -= used;
        volts.push_back(now.emf(figures).value() - load.amps * now.resistance(figures).value());
        before = load.seconds;
    }
    return volts;
}

TEST(Characterise, ADischargeTableGivesCapacityResistanceByChargeAndBothTimes) {
    power::CellFigures figures;
    figures.capacity = MilliAmpereHour(2620);
    figures.resistance = Ohm(0.031);
    std::vector<Load> loads{{0.001, 0}};
    double at = 0;
    // Ten minutes of load, then a rest that shows both lags; at the end until it is nearly empty.
    for (int cycle = 0; cycle < 6; ++cycle) {
        for (int i = 0; i < 60; ++i)
            loads.push_back({at += 10, 2.5});
        for (int i = 0; i < 40; ++i)
            loads.push_back({at += 10, 0});
    }
    const std::vector<double> exact = discharged(figures, loads);
    Noise noise(29);
    Coverage coverage;
    for (int i = 0; i < trials / 4; ++i) {
        Readings readings;
        for (std::size_t k = 0; k < loads.size(); ++k)
            readings.rows.push_back({.seconds = loads[k].seconds,
                                     .volts = exact[k] + noise(0.002),
                                     .amps = loads[k].amps});
        coverage.count(characterise(Specimen::cell, readings, parts()),
                       {{"capacity", 2620},
                        {"resistance", 0.031},
                        {"resistance at 10 %", 0.031 * 1.6},
                        {"quick time constant", 12},
                        {"slow time constant", 400}});
    }
    coverage.hold();
}

TEST(Characterise, WhatCanNotBeDeterminedStaysTheClasss) {
    Readings readings;
    for (const double v : {2.2, 2.6, 3.0, 3.6, 4.0}) {
        const circuit::PixelModel truth{3, {0.012, 0.012, 0.012}, {1.95, 2.85, 2.95}, 0.45, 8e-4};
        readings.rows.push_back({.condition = "red",
                                 .volts = v,
                                 .amps = circuit::pixel_current(truth, {1, 0, 0, 0}, v).amps});
    }
    const auto found = characterise(Specimen::pixel, readings, parts());
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_TRUE(found->find("full current, red")->determined);
    EXPECT_FALSE(found->find("full current, blue")->determined);
    EXPECT_DOUBLE_EQ(found->find("threshold, blue")->value, 2.95);
    EXPECT_FALSE(found->notes.empty());

    // Two loads of a cell say its resistance and nothing of its capacity.
    readings = {};
    for (const double amps : {0.0, 2.0, 5.0})
        readings.rows.push_back({.volts = 3.9 - 0.05 * amps, .amps = amps});
    const auto cell = characterise(Specimen::cell, readings, parts());
    ASSERT_TRUE(cell);
    EXPECT_FALSE(cell->find("capacity")->determined);
    EXPECT_NEAR(cell->find("resistance")->value, 0.05, 1e-9);
}

TEST(Characterise, TooFewAndContradictoryReadingsAreSaid) {
    EXPECT_FALSE(characterise(Specimen::contact, {}, parts()));
    Readings readings;
    readings.rows = {{.volts = 0.02, .amps = 0}};
    EXPECT_FALSE(characterise(Specimen::contact, readings, parts())) << "no load";
    readings.rows = {
        {.volts = 0.01, .amps = 1}, {.volts = 0.5, .amps = 1.1}, {.volts = 0.02, .amps = 2}};
    const auto contradictory = characterise(Specimen::contact, readings, parts());
    ASSERT_FALSE(contradictory);
    EXPECT_NE(contradictory.error().text().find("contradict"), std::string::npos);
    readings.rows = {
        {.volts = 3.7, .amps = 0}, {.volts = 3.8, .amps = 2}, {.volts = 3.9, .amps = 4}};
    EXPECT_FALSE(characterise(Specimen::cell, readings, parts())) << "volts that rise under load";
    readings.rows = {{.volts = 3.1, .amps = 0.02}};
    EXPECT_FALSE(characterise(Specimen::led, readings, parts())) << "one point";
}

TEST(Characterise, AReadingThatStandsOutIsNamed) {
    Readings readings;
    for (int i = 1; i <= 8; ++i)
        readings.rows.push_back({.volts = 0.02 * i + (i % 2 ? 1e-4 : -1e-4), .amps = 1.0 * i});
    readings.rows[4].volts = 0.112;
    const auto found = characterise(Specimen::contact, readings, parts());
    ASSERT_TRUE(found);
    ASSERT_FALSE(found->notes.empty());
    EXPECT_NE(found->notes.front().english().find("reading 5"), std::string::npos);
}

TEST(Characterise, WhatWasFoundBecomesAPartOfItsKind) {
    Characterised found;
    found.parameters = {{"resistance", 0.033, "Ohm", true, 0.03, 0.036},
                        {"capacity", 2500, "mAh", false, 0, 0}};
    const auto cells = with_found(*parts().find("cell.18650-power"), found, parts());
    ASSERT_EQ(cells.size(), 1u);
    const auto& cell = std::get<catalogue::Cell>(cells.front().figures);
    EXPECT_EQ(cell.resistance, Ohm(0.033));
    EXPECT_EQ(cell.capacity, MilliAmpereHour(3000)) << "the class's";
    found.parameters = {{"copper", 0.21, "Ohm/m", true, 0.2, 0.22},
                        {"threshold, green", 2.9, "V", true, 2.8, 3.0}};
    const auto strip = with_found(*parts().find("strip.rgb-144"), found, parts());
    ASSERT_EQ(strip.size(), 2u) << "its pixel class and the strip";
    EXPECT_EQ(std::get<catalogue::Pixel>(strip[0].figures).channels[1].on, Volt(2.9));
    EXPECT_EQ(std::get<catalogue::Strip>(strip[1].figures).rail, OhmPerMetre(0.21));
}

} // namespace
} // namespace conductus::bench
