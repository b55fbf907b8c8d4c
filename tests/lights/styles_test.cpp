// SPDX-License-Identifier: GPL-3.0-or-later
// Looks of two colours, and what effects do to single lights: closed forms.
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/lights/colour_names.h"
#include "core/lights/frame.h"
#include "core/power/bands.h"
#include "core/power/cell_model.h"
#include "core/power/film.h"
#include "core/power/use_loads.h"
#include "support/fixtures.h"

namespace conductus::lights {
namespace {

using namespace test;
using job::Style;

constexpr job::Colour red{1, 0, 0, 0}, pure_green{0, 1, 0, 0};

/// Duty of a channel of every pixel of a strip.
std::vector<double> channel(const job::Job& job, const power::State& state, const char* ref,
                            std::size_t c) {
    const auto n = power::network_of(job, parts(), state);
    EXPECT_TRUE(n);
    for (const circuit::Strip& s : n->strips) {
        if (s.ref != ref) continue;
        std::vector<double> all;
        for (const Span& span : s.spans)
            for (int i = span.first; i < span.last; ++i)
                all.push_back(span.duty[c]);
        return all;
    }
    ADD_FAILURE() << "no strip " << ref;
    return {};
}

job::Job two_colours(Style style) {
    job::Job job = clean_job();
    job.looks[0].colour = red, job.looks[0].second = pure_green;
    job.looks[0].style = style, job.looks[0].cap = 1;
    return job;
}

double sum(const std::vector<double>& of) { return std::accumulate(of.begin(), of.end(), 0.0); }

TEST(TwoColours, MeetWhereTheyAreSaidTo) {
    job::Job job = two_colours(Style::two);
    const int pixels = job.blades[0].strips[0].pixels; // 117
    for (const double meets : {0.25, 0.5, 1.0, 0.0}) {
        job.looks[0].meets = meets;
        const power::State state{job.looks[0], {}};
        const auto r = channel(job, state, "ST1", 0), g = channel(job, state, "ST1", 1);
        // A pixel belongs to the side its middle lies on.
        const double of_first = std::ceil(meets * pixels - 0.5);
        EXPECT_EQ(sum(r), std::max(0.0, of_first)) << meets;
        EXPECT_EQ(sum(g), pixels - sum(r)) << meets;
        if (meets > 0) {
            EXPECT_EQ(r.front(), 1);
        }
    }
    job.looks[0].meets.reset();
    EXPECT_EQ(sum(channel(job, {job.looks[0], {}}, "ST1", 0)), 58) << "half-way";
    EXPECT_FALSE(
        power::moves({job.looks[0], {}}, *power::network_of(job, parts(), {job.looks[0]})));
}

TEST(TwoColours, CyclingGoesFromOneToTheOtherAndBack) {
    for (const double s : {0.0, 0.7, 1.0, 2.0, 3.3, 4.0}) {
        const double share = second_share(Style::cycle, 0.3, s, 0.5, 1);
        EXPECT_NEAR(share, 0.5 - 0.5 * std::cos(2 * std::numbers::pi * s / 4), 1e-12);
        EXPECT_EQ(share, second_share(Style::cycle, 0.9, s, 0.5, 1)) << "the whole blade alike";
    }
    const job::Job job = two_colours(Style::cycle);
    power::State at{job.looks[0], {}, power::Brightness::instant};
    at.seconds = 1;
    EXPECT_NEAR(channel(job, at, "ST1", 0)[50], 0.5, 1e-12);
    EXPECT_NEAR(channel(job, at, "ST1", 1)[50], 0.5, 1e-12);
    // Its mean is the mean of the film, to what five points of Gauss' rule leave.
    const power::State mean = power::mean_state(job.looks[0]);
    const auto by_rule = power::mean_amps(job, parts(), mean);
    ASSERT_TRUE(by_rule);
    double film = 0;
    constexpr int frames = 64;
    ASSERT_TRUE(power::roll(job, parts(), mean, 0, frames, frames / cycle_seconds,
                            [&](double, circuit::Network n, circuit::OperatingPoint p) {
                                film += circuit::pack_amps(n, p) / frames;
                            }));
    EXPECT_NEAR(by_rule->value(), film, 2e-3 * film);
    // At its brightest it draws what no moment of it exceeds.
    const auto most = power::network_of(job, parts(), {job.looks[0]});
    ASSERT_TRUE(most);
    const double peak = circuit::pack_amps(*most, *circuit::solve(*most));
    for (int i = 0; i < 40; ++i) {
        at.seconds = cycle_seconds * i / 40;
        const auto n = power::network_of(job, parts(), at);
        EXPECT_LE(circuit::pack_amps(*n, *circuit::solve(*n)), peak * 1.002) << at.seconds;
    }
}

TEST(TwoColours, AFlameIsTheOneAtItsFootAndTheOtherAtItsTip) {
    const job::Job job = two_colours(Style::flame);
    const power::State state{job.looks[0], {}};
    const auto r = channel(job, state, "ST1", 0), g = channel(job, state, "ST1", 1);
    for (std::size_t i = 0; i < r.size(); ++i)
        EXPECT_NEAR(r[i] + g[i], fire_peak, 1e-12) << "no brighter than fire";
    EXPECT_GT(r.front(), 0.9 * fire_peak);
    EXPECT_GT(g.back(), 0.9 * fire_peak);
    EXPECT_TRUE(std::is_sorted(g.begin(), g.end()));
    EXPECT_EQ(mean_factor(Style::flame), mean_factor(Style::fire));
}

TEST(TwoColours, TheChargeIsShownThatTheVoltsUnderItsOwnLoadTell) {
    job::Job job = two_colours(Style::charge);
    job.looks[0].second = {};
    for (const double charge : {1.0, 0.6, 0.25}) {
        power::State state{job.looks[0], {}};
        state.charge = charge;
        // To a pixel: one more of them lit, and the cell would tell of less than is shown.
        const auto network = power::network_of(job, parts(), state);
        ASSERT_TRUE(network) << network.error().text();
        const auto point = circuit::solve(*network);
        ASSERT_TRUE(point);
        const circuit::Source& cell = network->sources.front();
        const double told =
            power::charge_at(Volt(point->volts[cell.plus] - point->volts[cell.minus]));
        EXPECT_NEAR(sum(channel(job, state, "ST1", 0)), told * 117, 1.5) << charge;
        EXPECT_LT(told, charge);
        state.shown_charge = 0.5;
        EXPECT_EQ(sum(channel(job, state, "ST1", 0)), 58) << "what the board takes it for";
    }
    // In a run-down it follows the volts that the board reads: it draws less and less.
    job.use.look = job.looks[0].name;
    const auto loads = power::loads_of(job, parts(), job.use, power::Wanted::day);
    ASSERT_TRUE(loads);
    double slope = 0;
    const double full = (*loads)->look.mean.amps(4.15, slope),
                 half = (*loads)->look.mean.amps(3.70, slope),
                 low = (*loads)->look.mean.amps(3.45, slope),
                 idle = (*loads)->idle.amps(3.45, slope);
    EXPECT_GT(full, half * 1.5);
    EXPECT_GT(half, low * 1.5);
    EXPECT_GT(low, idle);
}

TEST(Follows, AnAccentGoesAlongItsOwnWayOrNotAtAll) {
    job::Job job = clean_job();
    ASSERT_TRUE(job::add_accent("pixels.ring-7-rgb", job::Mount::own_line, parts())(job));
    const std::string ring = job.parts.back().ref;
    job.looks[0].lights = {{ring, pure_green, Style::steady, 0.3}};
    job::Effect flash = job.effects[0];
    flash.colour = {0, 0, 1, 0}, flash.cap = 0.8, flash.from = 0.4, flash.to = 0.6;
    const auto shown = [&](std::size_t c) {
        return channel(job, {job.looks[0], flash}, ring.c_str(), c);
    };
    EXPECT_EQ(shown(1), std::vector<double>(7, 0.3)) << "usually it has its own setting";
    EXPECT_EQ(sum(shown(2)), 0);
    flash.lights = {{ring, job::Follows::with_blade}};
    EXPECT_EQ(shown(2), std::vector<double>(7, 0.8)) << "a spot on the blade is all of an accent";
    EXPECT_EQ(sum(shown(1)), 0);
    flash.lights = {{ring, job::Follows::own, red, 0.25}};
    EXPECT_EQ(shown(0), std::vector<double>(7, 0.25));
    flash.lights = {{ring, job::Follows::none}};
    EXPECT_EQ(shown(1), std::vector<double>(7, 0.3));
    // Of the blade's two strips one stays out of it.
    flash.from = 0, flash.to = 1;
    flash.lights = {{"ST2", job::Follows::none}};
    job.blades[0].strips[1].ref = "ST2";
    EXPECT_GT(sum(channel(job, {job.looks[0], flash}, "ST1", 2)), 90);
}

TEST(Follows, SegmentsGoDarkAndTheFlashRowIsChosen) {
    job::Job job = demo("godwit");
    const std::string string = job.blades[0].strings[0].ref;
    const auto lit = [&](const job::Effect& e) {
        const auto n = power::network_of(job, parts(), {job.looks[0], e});
        EXPECT_TRUE(n);
        std::vector<std::string> all;
        for (const circuit::Diode& d : n->diodes)
            all.push_back(d.name.substr(d.name.find('_') + 1));
        return all;
    };
    using Names = std::vector<std::string>;
    job::Effect blast = job.effects[1];
    blast.from = 0.34, blast.to = 0.49; // the middle of the third of six lies in it
    EXPECT_EQ(lit(blast), (Names{"seg1", "seg2", "seg3", "seg4", "seg5", "seg6", "flash"}));
    blast.lights = {
        {string, job::Follows::usual, {}, 1, job::Segments::go_dark, job::FlashRow::dark}};
    EXPECT_EQ(lit(blast), (Names{"seg1", "seg2", "seg4", "seg5", "seg6"}));
    blast.lights[0].segments = job::Segments::alone_lit;
    blast.lights[0].flash_row = job::FlashRow::lit;
    EXPECT_EQ(lit(blast), (Names{"seg3", "flash"}));
}

TEST(ColourWords, FamiliesAreThoseOfTheMixturesThatBearTheirNames) {
    const auto* pixel = parts().find_as<catalogue::Pixel>("pixel.rgb-5050");
    const auto family = [&](double r, double g, double b) {
        std::array<double, 4> light{};
        const double duty[] = {r, g, b};
        for (std::size_t c = 0; c < 3; ++c)
            light[c] = duty[c] * pixel->channels[c].luminous;
        return family_of(*tint(mix(light)));
    };
    EXPECT_EQ(family(1, 0, 0), Family::red);
    EXPECT_EQ(family(1, 0.3, 0), Family::amber);
    EXPECT_EQ(family(1, 0.8, 0), Family::yellow);
    EXPECT_EQ(family(0, 1, 0), Family::green);
    EXPECT_EQ(family(0, 1, 0.7), Family::cyan);
    EXPECT_EQ(family(0, 0, 1), Family::blue);
    EXPECT_EQ(family(0.5, 0, 1), Family::violet);
    EXPECT_EQ(family(1, 0, 0.8), Family::magenta);
    EXPECT_EQ(family(1, 1, 1), Family::white);
    EXPECT_EQ(family_named("Teal"), Family::cyan);
    EXPECT_EQ(colour_word_in("Marsh gold"), "gold");
    EXPECT_EQ(colour_word_in("Redwood, Green"), "Green") << "a word, not a part of one";
    EXPECT_EQ(colour_word_in("copper button"), "");
    EXPECT_TRUE(near_enough(Family::magenta, Family::red));
    EXPECT_FALSE(near_enough(Family::green, Family::magenta));
    for (const std::string& word : family_words())
        EXPECT_TRUE(family_named(word)) << word;
}

} // namespace
} // namespace conductus::lights
