// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <gtest/gtest.h>
#include <random>

#include "core/catalogue/count.h"
#include "core/lights/colour.h"
#include "core/lights/scene.h"
#include "support/fixtures.h"

namespace conductus::lights {
namespace {

TEST(Colour, XyzByHand) {
    // Y of a channel is its luminance; X = Y x/y, Z = Y (1 − x − y)/y with the chromaticities of
    // docs/models.md.
    const Xyz red = mix({0.28, 0, 0, 0});
    EXPECT_NEAR(red.x, 0.28 * 0.6953 / 0.3045, 1e-12);
    EXPECT_NEAR(red.y, 0.28, 1e-12);
    EXPECT_NEAR(red.z, 0.28 * 0.0002 / 0.3045, 1e-12);
    const Xyz green = mix({0, 0.6, 0, 0});
    EXPECT_NEAR(green.x, 0.6 * 0.1389 / 0.7310, 1e-12);
    EXPECT_NEAR(green.z, 0.6 * 0.1301 / 0.7310, 1e-12);
    const Xyz all = mix({0.28, 0.6, 0.12, 0});
    EXPECT_NEAR(all.y, 1.0, 1e-12);
    EXPECT_NEAR(all.x, red.x + green.x + 0.12 * 0.1348 / 0.0591, 1e-12);
}

TEST(Colour, TintShift) {
    const Xyz a = mix({0.28, 0.6, 0.12, 0});
    EXPECT_EQ(tint_shift(a, a), 0);
    const Xyz half = mix({0.14, 0.3, 0.06, 0});
    EXPECT_NEAR(tint_shift(a, half), 0, 1e-12); // dimmer, not tinted
    EXPECT_GT(tint_shift(a, mix({0.28, 0.6, 0.06, 0})), 0.02);
    EXPECT_EQ(tint_shift(a, Xyz{}), 0);
    // u'v' of red by hand: 4X/(X+15Y+3Z), 9Y/(...)
    const Xyz r{2, 1, 0}, g{1, 2, 0};
    EXPECT_NEAR(tint_shift(r, g), std::hypot(8.0 / 17 - 4.0 / 31, 9.0 / 17 - 18.0 / 31), 1e-12);
}

TEST(Colour, DutiesGiveTheTintThatIsWanted) {
    const std::array<double, 4> rgb{0.3, 0.65, 0.12, 0}, rgbw{0.3, 0.65, 0.12, 1.6};
    auto seen = [](const std::array<double, 4>& duty, std::array<double, 4> luminous) {
        for (std::size_t c = 0; c < 4; ++c)
            luminous[c] *= duty[c];
        return *tint(mix(luminous));
    };
    std::mt19937 random(3);
    std::uniform_real_distribution<double> share(0, 1);
    for (int i = 0; i < 500; ++i) {
        double a = share(random), b = share(random);
        if (a + b > 1) a = 1 - a, b = 1 - b;
        const Uv r = channel_tint(0), g = channel_tint(1), blue = channel_tint(2);
        const Uv wanted{blue.u + a * (r.u - blue.u) + b * (g.u - blue.u),
                        blue.v + a * (r.v - blue.v) + b * (g.v - blue.v)};
        for (const auto& luminous : {rgb, rgbw}) {
            const auto duty = duties_of(wanted, luminous);
            const Uv got = seen(duty, luminous);
            EXPECT_NEAR(got.u, wanted.u, 1e-9);
            EXPECT_NEAR(got.v, wanted.v, 1e-9);
            EXPECT_NEAR(*std::max_element(duty.begin(), duty.end()), 1, 1e-12);
            EXPECT_GE(*std::min_element(duty.begin(), duty.end()), 0);
        }
        // With a white die never more than two others are needed.
        const auto duty = duties_of(wanted, rgbw);
        EXPECT_LT(std::min({duty[0], duty[1], duty[2]}), 1e-9);
    }
    // White is the white die alone, a pure channel that channel alone.
    const auto white = duties_of(channel_tint(3), rgbw);
    EXPECT_NEAR(white[3], 1, 1e-12);
    EXPECT_NEAR(white[0] + white[1] + white[2], 0, 1e-6);
    EXPECT_NEAR(duties_of(channel_tint(1), rgb)[1], 1, 1e-12);
    // Out of reach: the nearest within. Nothing to mix: nothing.
    const auto outside = duties_of({0.7, 0.5}, rgb);
    EXPECT_NEAR(outside[0], 1, 1e-12);
    EXPECT_EQ(duties_of({0.2, 0.4}, {0.3, 0, 0, 0}), (std::array<double, 4>{}));
    EXPECT_FALSE(tint(Xyz{}));
}

TEST(Colour, ScreenKeepsOrderAndRange) {
    const Xyz foot = mix({0.05, 0.4, 0.1, 0});
    const double full = full_scale(foot);
    const Rgb bright = on_screen(foot, full);
    EXPECT_NEAR(std::max({bright.r, bright.g, bright.b}), 1, 1e-9);
    Rgb before = bright;
    for (double k = 0.9; k > 0; k -= 0.1) {
        const Rgb dim = on_screen(mix({0.05 * k, 0.4 * k, 0.1 * k, 0}), full);
        EXPECT_LE(dim.r, before.r);
        EXPECT_LT(dim.g, before.g);
        EXPECT_LT(dim.b, before.b);
        before = dim;
    }
    const Rgb red = on_screen(mix({1, 0, 0, 0}), full_scale(mix({1, 0, 0, 0})));
    EXPECT_NEAR(red.r, 1, 1e-9);
    EXPECT_EQ(red.g, 0);
    EXPECT_EQ(red.b, 0);
    const Rgb dark = on_screen(Xyz{}, full);
    EXPECT_EQ(dark.r + dark.g + dark.b, 0);
}

TEST(Frame, WhiteFoldsIntoThreeColours) {
    const job::Colour c{0.5, 0.2, 0, 0.6};
    const Duties three = duties(c, 0.5, 3), four = duties(c, 0.5, 4);
    EXPECT_NEAR(three[0], 0.5, 1e-12); // 0.5 + 0.6 is capped at 1
    EXPECT_NEAR(three[1], 0.4, 1e-12);
    EXPECT_NEAR(three[2], 0.3, 1e-12);
    EXPECT_EQ(three[3], 0);
    EXPECT_NEAR(four[0], 0.25, 1e-12);
    EXPECT_NEAR(four[3], 0.3, 1e-12);
}

/// Every whole pixel belongs to one span, in order.
void covers(const std::vector<Span>& spans, int pixels) {
    int next = 0;
    for (const Span& s : spans) {
        EXPECT_EQ(s.first, next);
        EXPECT_GT(s.last, s.first);
        next = s.last;
    }
    EXPECT_EQ(next, pixels);
}

job::Job lamp(job::Style style = job::Style::steady) {
    job::Job job = test::demo("heron");
    job.looks = {{"a", {1, 0, 0, 0}, style, 0.5, {}}};
    job.use.look = "a";
    return job;
}

Scene scene_of(const job::Job& job, Tempo tempo = {},
               const std::optional<job::Effect>& effect = {}) {
    return {job, std::make_shared<const Chains>(chains_of(job, test::parts())), job.looks[0],
            effect, tempo};
}

TEST(Scene, EffectsCoverTheirPartAndTheLookTheRest) {
    const job::Job job = lamp();
    const job::Effect mark{"b", {1, 1, 1, 0}, 1, 0.4, 0.6, Second(1), job::EffectKind::mark};
    const Chains chains = chains_of(job, test::parts());
    for (const int pixels : {1, 2, 7, 117, 1000}) {
        Group g = *chains.group("ST1");
        g.pixels = pixels;
        g.line.clear();
        const auto spans = scene_of(job, {}, mark).spans(g, 3);
        covers(spans, pixels);
        if (pixels < 10) continue;
        ASSERT_EQ(spans.size(), 3u);
        EXPECT_EQ(spans[0].duty, (Duties{0.5, 0, 0, 0}));
        EXPECT_EQ(spans[1].duty, (Duties{1, 1, 1, 0}));
        EXPECT_EQ(spans[1].first, std::ceil(0.4 * pixels - 0.5));
        EXPECT_EQ(spans[1].last, std::ceil(0.6 * pixels - 0.5));
    }
}

TEST(Scene, AnInstantCoversEveryPixelOnceInEveryStyleAndEffect) {
    for (int style = 0; style < 5; ++style)
        for (int kind = -1; kind < 7; ++kind) {
            const job::Job job = lamp(static_cast<job::Style>(style));
            std::optional<job::Effect> effect;
            if (kind >= 0)
                effect = job::Effect{"e",
                                     {0, 1, 0, 0},
                                     1,
                                     0.3,
                                     0.9,
                                     Second(0.8),
                                     static_cast<job::EffectKind>(kind)};
            const Chains chains = chains_of(job, test::parts());
            for (double t = 0; t < 1; t += 0.13)
                covers(scene_of(job, {Pace::instant, 1, 0, t, 3}, effect)
                           .spans(*chains.group("ST1"), 3),
                       117);
        }
}

/// The cuts a scene makes are where the duty really changes: pixel by pixel it says the same.
TEST(Scene, SpansSayWhatEachPixelWouldSay) {
    const job::Job job = lamp(job::Style::fire);
    const Chains chains = chains_of(job, test::parts());
    const Group& g = *chains.group("ST1");
    const auto spans = scene_of(job, {Pace::instant, 1, 0, 0.4, 9}).spans(g, 3);
    EXPECT_EQ(spans.size(), 16u);
    for (const Span& s : spans)
        for (int k = s.first; k < s.last; ++k)
            EXPECT_NEAR(s.duty[0], 0.5 * level(job::Style::fire, (k + 0.5) / 117, 0.4, 9), 1e-12);
}

TEST(Styles, MeanOverAFilmIsTheClosedForm) {
    for (const auto style : {job::Style::steady, job::Style::pulse, job::Style::flicker,
                             job::Style::fire, job::Style::bands}) {
        double sum = 0, most = 0, brightest = 0;
        int n = 0;
        for (double t = 0.005; t < 60; t += 0.05)
            for (double place = 1.0 / 64; place < 1; place += 1.0 / 32, ++n) {
                const double l = level(style, place, t, 7);
                sum += l;
                most = std::max(most, l);
                brightest = std::max(brightest, brightest_level(style, place, 0));
                EXPECT_GE(l, 0);
                EXPECT_LE(l, 1);
            }
        EXPECT_NEAR(sum / n, mean_factor(style), 0.01) << static_cast<int>(style);
        // All tongues of fire are never full at once: its peak is of the whole light.
        EXPECT_NEAR(style == job::Style::fire ? fire_peak : most, brightest, 0.01)
            << static_cast<int>(style);
        double spread = 0;
        for (int turn = 0; turn < spread_turns; ++turn)
            for (int i = 0; i < 16; ++i)
                spread += spread_level(style, (i + 0.5) / 16, turn) / 16 / spread_turns;
        EXPECT_NEAR(spread, mean_factor(style), 1e-12);
    }
}

TEST(Styles, TheSameSeedIsTheSameFilm) {
    bool differs = false;
    for (double t = 0; t < 2; t += 0.05) {
        EXPECT_EQ(level(job::Style::fire, 0.3, t, 5), level(job::Style::fire, 0.3, t, 5));
        differs |= level(job::Style::fire, 0.3, t, 5) != level(job::Style::fire, 0.3, t, 6);
    }
    EXPECT_TRUE(differs);
}

TEST(Effects, MeanCoverOverTimeAndStretchIsTheClosedForm) {
    for (int k = 0; k < 7; ++k) {
        const auto kind = static_cast<job::EffectKind>(k);
        const job::Effect e{"e", {1, 1, 1, 0}, 1, 0.2, 0.8, Second(30), kind};
        double sum = 0;
        int n = 0;
        for (double t = 0.01; t < 30; t += 0.02)
            for (double place = 0.2005; place < 0.8; place += 0.001, ++n) {
                const Cover c = cover(e, place, t, 11);
                const bool runs =
                    kind == job::EffectKind::ignition || kind == job::EffectKind::retraction;
                sum += runs ? (c.dark ? 0 : 1) : c.share;
            }
        EXPECT_NEAR(sum / n, mean_cover(kind), 0.01) << k;
        EXPECT_EQ(full_cover(e, 0.5).dark, false);
        EXPECT_EQ(cover(e, 0.1, 15, 1).share, 0) << k; // outside its stretch
    }
}

TEST(Effects, AnIgnitionRunsFromFootToTip) {
    const job::Effect e{"i", {1, 1, 1, 0}, 1, 0, 1, Second(0.5), job::EffectKind::ignition};
    double lit = -1;
    for (double t = 0; t <= 0.5; t += 0.05) {
        double now = 0;
        for (double place = 0.005; place < 1; place += 0.01)
            now += cover(e, place, t, 1).dark ? 0 : 0.01;
        EXPECT_GT(now, lit);
        EXPECT_NEAR(now, t / 0.5, 0.011);
        lit = now;
    }
}

TEST(Count, NearestWholePixel) {
    EXPECT_EQ(catalogue::pixels_on(Millimetre(813), PerMetre(144)), 117);
    EXPECT_EQ(catalogue::pixels_on(Millimetre(810), PerMetre(144)), 117);
    EXPECT_EQ(catalogue::pixels_on(Millimetre(1000), PerMetre(60)), 60);
    EXPECT_EQ(catalogue::pixels_on(Millimetre(610), PerMetre(144)), 88);
}

} // namespace
} // namespace conductus::lights
