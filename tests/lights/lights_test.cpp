// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include "core/lights/colour.h"
#include "core/lights/count.h"
#include "core/lights/frame.h"

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

TEST(Frame, EffectsCoverTheirPartAndTheLookTheRest) {
    const job::Look look{"a", {1, 0, 0, 0}, job::Style::steady, 0.5};
    const job::Effect mark{"b", {1, 1, 1, 0}, 1, 0.4, 0.6, Second(1)};
    const Frame frame = frame_of(look, mark, 3);
    ASSERT_EQ(frame.size(), 3u);
    EXPECT_EQ(frame.front().from, 0);
    EXPECT_EQ(frame.back().to, 1);
    for (std::size_t i = 1; i < frame.size(); ++i)
        EXPECT_EQ(frame[i].from, frame[i - 1].to);
    EXPECT_EQ(frame[1].duty[1], 1);
    EXPECT_EQ(frame[0].duty[0], 0.5);
    EXPECT_EQ(frame_of(look, job::Effect{"c", {1, 1, 1, 0}, 1, 0, 1, Second(1)}, 3).size(), 1u);
}

TEST(Frame, MeanFactorsLieUnderTheBrightestFrame) {
    EXPECT_EQ(mean_factor(job::Style::steady), 1);
    for (const auto style :
         {job::Style::pulse, job::Style::flicker, job::Style::fire, job::Style::bands}) {
        EXPECT_GT(mean_factor(style), 0);
        EXPECT_LT(mean_factor(style), 1);
    }
}

TEST(Count, NearestWholePixel) {
    EXPECT_EQ(pixels_on(Millimetre(813), PerMetre(144)), 117);
    EXPECT_EQ(pixels_on(Millimetre(810), PerMetre(144)), 117);
    EXPECT_EQ(pixels_on(Millimetre(1000), PerMetre(60)), 60);
    EXPECT_EQ(pixels_on(Millimetre(610), PerMetre(144)), 88);
}

} // namespace
} // namespace conductus::lights
