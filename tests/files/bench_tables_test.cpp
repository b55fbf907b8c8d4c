// SPDX-License-Identifier: GPL-3.0-or-later
// Tables of the bench that are no tables: refused with their place, or read as what they say.
#include <cmath>
#include <gtest/gtest.h>

#include "core/base/random.h"
#include "files/bench_csv.h"
#include "files/cases_csv.h"
#include "files/discharge_log_csv.h"
#include "support/fixtures.h"

namespace conductus::files {
namespace {

std::string spoilt(std::string text, Random& random) {
    for (std::size_t n = 1 + random.next() % 6; n > 0; --n) {
        const std::size_t at = random.next() % (text.size() + 1);
        switch (random.next() % 5) {
        case 0:
            text.insert(at, 1, static_cast<char>(random.next() % 256));
            break;
        case 1:
            if (at < text.size()) text[at] = static_cast<char>(random.next() % 256);
            break;
        case 2:
            text.resize(at);
            break;
        case 3:
            text.insert(at, text.substr(0, random.next() % 40));
            break;
        default:
            text.insert(at, random.next() % 2 ? "\"" : "1e999");
        }
        if (text.empty()) text = ",";
    }
    return text;
}

TEST(BenchTables, GarbageIsRefusedWithItsPlaceOrReadAsNumbers) {
    Random random(41);
    const std::string readings = "state,from,to,value,unit,turned\nidle,B1.plus,B1.minus,3.9,V,\n"
                                 "\"cell out\",U1.d1,P1.data,open,Ohm,yes\n",
                      log = "time_s,board_V,amps_A\n0,4.1,0.1\n20,3.8,1.9\n40,3.7,1.9\n",
                      cases = "job,level,seed,note\nHeron,1,3,begin\nBittern,4,9,\n";
    int refused = 0, taken = 0;
    const auto look = [&](const auto& read) {
        if (read) {
            ++taken;
            return;
        }
        ++refused;
        EXPECT_FALSE(read.error().text().empty());
        EXPECT_FALSE(read.error().where.empty());
    };
    for (int i = 0; i < test::rounds(4000); ++i) {
        const auto one = read_bench_csv(spoilt(readings, random), "r.csv");
        look(one);
        if (one) {
            for (const auto& r : *one)
                ASSERT_TRUE(std::isfinite(r.value));
        }
        const auto two = read_discharge_log(spoilt(log, random), "l.csv");
        look(two);
        if (two) {
            for (const auto& p : two->points)
                ASSERT_TRUE(std::isfinite(p.seconds) && std::isfinite(p.volts) &&
                            std::isfinite(p.amps));
        }
        const auto three = read_cases_csv(spoilt(cases, random), "c.csv");
        look(three);
        if (three) {
            for (const auto& c : *three)
                ASSERT_TRUE(c.level >= 1 && c.level <= 4);
        }
    }
    EXPECT_GT(refused, 1000);
    EXPECT_GT(taken, 1000);
}

} // namespace
} // namespace conductus::files
