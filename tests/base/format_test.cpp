// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/format.h"

#include <cmath>
#include <gtest/gtest.h>
#include <limits>

#include "core/base/nearest.h"
#include "core/base/parse.h"

namespace conductus {
namespace {

TEST(Format, ThreeFigures) {
    EXPECT_EQ(three_figures(5.353527), "5.35");
    EXPECT_EQ(three_figures(5.9003), "5.90");
    EXPECT_EQ(three_figures(3.0), "3");
    EXPECT_EQ(three_figures(0.6), "0.6");
    EXPECT_EQ(three_figures(119.43), "119");
    EXPECT_EQ(three_figures(3500), "3500");
    EXPECT_EQ(three_figures(0), "0");
    EXPECT_EQ(three_figures(-0.4711), "\u22120.471");
    EXPECT_EQ(three_figures(NAN), "–");
    EXPECT_EQ(three_figures(std::numeric_limits<double>::infinity()), "–");
}

TEST(Format, SmallVoltsAndAmperesTurnToMilli) {
    EXPECT_EQ(text(Volt(0.0783)), "78.3\u202fmV");
    EXPECT_EQ(text(Volt(3.546)), "3.55\u202fV");
    EXPECT_EQ(text(Ampere(0.022)), "22\u202fmA");
    EXPECT_EQ(text(Ohm(0.02)), "20\u202fmΩ");
    EXPECT_EQ(text(Celsius(60.6)), "61\u202f°C");
    EXPECT_EQ(text(Millimetre(0.58)), "0.6\u202fmm");
    EXPECT_EQ(text(Volt(0)), "0\u202fV");
}

TEST(Format, Durations) {
    EXPECT_EQ(duration(Minute(88)), "1\u202fh\u202f28");
    EXPECT_EQ(duration(Minute(44.4)), "44\u202fmin");
    EXPECT_EQ(duration(Minute(59.7)), "1\u202fh\u202f00");
    EXPECT_EQ(duration(Minute(-1)), "–");
}

TEST(Parse, LengthsAsTyped) {
    EXPECT_NEAR(parse_length("28.1")->value(), 28.1, 1e-12);
    EXPECT_NEAR(parse_length("28,1")->value(), 28.1, 1e-12);
    EXPECT_NEAR(parse_length(" 28.1 mm ")->value(), 28.1, 1e-12);
    EXPECT_NEAR(parse_length("7/8 in")->value(), 22.225, 1e-12);
    EXPECT_NEAR(parse_length("1 1/8 in")->value(), 28.575, 1e-12);
    EXPECT_NEAR(parse_length("1.102\"")->value(), 27.9908, 1e-9);
    EXPECT_NEAR(parse_length("2.5 cm")->value(), 25, 1e-12);
}

TEST(Parse, RefusesWithAnExample) {
    for (const char* bad : {"", "  ", "abc", "1.2.3", "--5", "7/8", "7/0 in", "12 furlong",
                            "1 2 in", "28.1mm5", ","}) {
        const auto r = parse_length(bad);
        ASSERT_FALSE(r) << bad;
        EXPECT_FALSE(r.error().what.empty());
        EXPECT_FALSE(r.error().mend.empty()) << bad;
    }
}

TEST(Parse, NumbersWithTheirUnit) {
    EXPECT_EQ(*parse_number("90 min", "min"), 90);
    EXPECT_EQ(*parse_number("90", "min"), 90);
    EXPECT_EQ(*parse_number("-5,5"), -5.5);
    EXPECT_FALSE(parse_number("90 h", "min"));
    EXPECT_FALSE(parse_number("ninety", "min"));
}

TEST(Nearest, FindsTheWordMeant) {
    const std::vector<std::string> words{"length_mm", "bore_mm", "outer_mm"};
    EXPECT_EQ(nearest_word("lenght_mm", words), "length_mm");
    EXPECT_EQ(nearest_word("zzzzzzzzzzzz", words), "");
    EXPECT_EQ(edit_distance("kitten", "sitting"), 3u);
    EXPECT_EQ(edit_distance("", "abc"), 3u);
}

} // namespace
} // namespace conductus
