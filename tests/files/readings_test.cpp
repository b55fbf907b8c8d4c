// SPDX-License-Identifier: GPL-3.0-or-later
// Readings as people and meters write them down.
#include "files/readings_csv.h"

#include "support/fixtures.h"

namespace conductus::files {
namespace {

bench::Readings read(std::string_view text) {
    const auto readings = read_readings(text, "t.csv");
    EXPECT_TRUE(readings) << (readings ? "" : readings.error().text());
    return readings.value_or(bench::Readings{});
}

std::string refusal(std::string_view text) {
    const auto readings = read_readings(text, "t.csv");
    EXPECT_FALSE(readings) << text;
    return readings ? "" : readings.error().text();
}

TEST(Readings, ColumnsComeInAnyOrderSpellingAndUnit) {
    const auto strip = read("Colour;Foot V;current mA;tip_mV;pixels;length_mm\n"
                            "R;3,5;120;3321;117;813\nwhite;4,0;5e3;3000;117;813\n");
    ASSERT_EQ(strip.rows.size(), 2u);
    EXPECT_EQ(strip.rows[0].condition, "red");
    EXPECT_DOUBLE_EQ(*strip.rows[0].volts, 3.5);
    EXPECT_DOUBLE_EQ(*strip.rows[0].amps, 0.12);
    EXPECT_DOUBLE_EQ(*strip.rows[0].tip, 3.321);
    EXPECT_DOUBLE_EQ(*strip.rows[1].amps, 5);
    EXPECT_EQ(strip.pixels, 117);
    EXPECT_DOUBLE_EQ(*strip.metres, 0.813);
    EXPECT_EQ(strip.rows[1].line, 3u);

    const auto cell = read("time min,volts,amps\n0,4.1,0\n1.5,3.9,2\n");
    EXPECT_DOUBLE_EQ(*cell.rows[1].seconds, 90);
    const auto board = read("state\tA\nstandby\t0.03\ndeep sleep\t6e-05\n");
    EXPECT_EQ(board.rows[0].condition, "idle");
    EXPECT_EQ(board.rows[1].condition, "asleep");
    EXPECT_DOUBLE_EQ(*board.rows[1].amps, 6e-5);
}

TEST(Readings, WideTablesAndRestColumnsAreUnfolded) {
    const auto pixel = read("# pixels 8\nvolts,red_mA,green_mA\n3.0,10,2\n4.0,12,11\n");
    ASSERT_EQ(pixel.rows.size(), 4u);
    EXPECT_EQ(pixel.rows[3].condition, "green");
    EXPECT_DOUBLE_EQ(*pixel.rows[3].volts, 4);
    EXPECT_DOUBLE_EQ(*pixel.rows[3].amps, 0.011);
    EXPECT_EQ(pixel.pixels, 8);
    const auto cell = read("rest_V,loaded volts,amps,charge %\n4.00,3.9,2,80\n");
    ASSERT_EQ(cell.rows.size(), 2u);
    EXPECT_DOUBLE_EQ(*cell.rows[0].amps, 0);
    EXPECT_DOUBLE_EQ(*cell.rows[0].volts, 4);
    EXPECT_DOUBLE_EQ(*cell.rows[1].charge, 0.8);
}

TEST(Readings, WhatIsNoReadingIsSaidWithItsPlace) {
    EXPECT_NE(refusal("coluor,volts\nred,3\n").find("t.csv:1:1"), std::string::npos);
    EXPECT_NE(refusal("volts,amps\n3,1\nx,2\n").find("t.csv:3:1"), std::string::npos);
    EXPECT_NE(refusal("3.0,1\n3.5,2\n").find("have no names"), std::string::npos);
    EXPECT_NE(refusal("volts,amps\n3,1,4\n").find("t.csv:2:"), std::string::npos);
    refusal("");
    refusal(std::string_view("volts\0,amps\n", 12));
}

TEST(Readings, WhatIsWrittenIsReadBack) {
    bench::Readings readings;
    readings.pixels = 36, readings.metres = 0.25;
    readings.rows = {{.condition = "mixed white", .volts = 3.123456, .amps = 0.5, .tip = 3.0},
                     {.condition = "dark", .volts = 4.2, .amps = 1e-5}};
    const auto again = read(readings_csv(readings));
    ASSERT_EQ(again.rows.size(), 2u);
    EXPECT_EQ(again.pixels, 36);
    EXPECT_DOUBLE_EQ(*again.metres, 0.25);
    EXPECT_EQ(again.rows[0].condition, "mixed white");
    EXPECT_DOUBLE_EQ(*again.rows[0].volts, 3.123456);
    EXPECT_FALSE(again.rows[1].tip);
    EXPECT_DOUBLE_EQ(*again.rows[1].amps, 1e-5);
}

} // namespace
} // namespace conductus::files
