// SPDX-License-Identifier: GPL-3.0-or-later
// A logged discharge says what the cell has and what lies between it and the board.
#include "core/bench/discharge_fit.h"

#include <fmt/format.h>

#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "files/csv.h"
#include "files/discharge_log_csv.h"
#include "support/fixtures.h"
#include "support/sample_bench.h"

namespace conductus::bench {
namespace {

using test::parts;

TEST(DischargeFit, FindsCapacityResistanceAndLossesWithIntervalsThatHoldThem) {
    const job::Job job = test::demo("heron");
    int held = 0, all = 0;
    for (const double capacity : {2610.0, 2950.0, 1800.0})
        for (const double ohms : {0.02, 0.055})
            for (const double more : {0.0, 0.07}) {
                const auto log = test::logged_discharge(job, parts(), capacity, ohms, 0.1 + more,
                                                        1.9, static_cast<std::uint64_t>(all) + 3);
                const auto fit = fit_discharge(log, job, parts(), 0.1);
                ASSERT_TRUE(fit) << fit.error().text();
                EXPECT_TRUE(fit->capacity.determined);
                EXPECT_NEAR(fit->capacity.value, capacity, 0.02 * capacity);
                EXPECT_NEAR(fit->resistance.value + fit->path.value, ohms + 0.1 + more, 0.006);
                held += capacity >= fit->capacity.low && capacity <= fit->capacity.high;
                ++all;
                EXPECT_LT(fit->residual_mV, 12);
                EXPECT_EQ(fit->measured.size(), log.points.size());
            }
    EXPECT_GE(held, all * 2 / 3) << held << " of " << all;
}

TEST(DischargeFit, SaysWhatDiffersInWordsAndTheCellTakesIt) {
    job::Job job = test::demo("heron");
    const auto log = test::logged_discharge(job, parts(), 2610, 0.02, 0.17, 1.9, 8);
    const auto fit = fit_discharge(log, job, parts(), 0.1);
    ASSERT_TRUE(fit);
    std::string says;
    for (const Message& m : fit->says)
        says += m.english() + "\n";
    EXPECT_NE(says.find("B1 has 26"), std::string::npos) << says;
    EXPECT_NE(says.find("less than planned"), std::string::npos) << says;
    EXPECT_NE(says.find("more than planned between cell and board"), std::string::npos) << says;
    ASSERT_TRUE(take_discharge(log, *fit)(job));
    EXPECT_NEAR(job::find_ref(job.parts, "B1")->measured.capacity->value(), 2610, 60);
    // A cell that is as planned says so.
    const job::Job whole = test::demo("heron");
    const auto cell = job::first_of<catalogue::Cell>(whole, parts());
    const auto f = power::figures_of(*cell.part, *cell.figures);
    const auto same = fit_discharge(test::logged_discharge(whole, parts(), f.capacity.value(),
                                                           f.resistance.value(), 0.1, 1.9, 4),
                                    whole, parts(), 0.1);
    ASSERT_TRUE(same);
    EXPECT_FALSE(same->path.differs() && std::abs(same->path.value - 0.1) > 0.01);
}

TEST(DischargeFit, ALogThatSaysTooLittleSaysSo) {
    const job::Job job = test::demo("heron");
    job::DischargeLog log = test::logged_discharge(job, parts(), 2610, 0.02, 0, 1.9, 1);
    auto few = log;
    few.points.resize(3);
    EXPECT_FALSE(fit_discharge(few, job, parts(), 0));
    auto back = log;
    std::swap(back.points[4], back.points[9]);
    EXPECT_NE(fit_discharge(back, job, parts(), 0).error().text().find("before"),
              std::string::npos);
    auto still = log;
    for (auto& p : still.points)
        p.amps = 0;
    EXPECT_FALSE(fit_discharge(still, job, parts(), 0));
    auto other = log;
    other.cell = "B7";
    EXPECT_FALSE(fit_discharge(other, job, parts(), 0));
    // Two minutes of an evening tell the capacity far worse than all of it, and say so.
    auto begun = log;
    begun.points.resize(9);
    const auto fit = fit_discharge(begun, job, parts(), 0),
               whole = fit_discharge(log, job, parts(), 0);
    ASSERT_TRUE(fit && whole);
    EXPECT_TRUE(!fit->capacity.determined || fit->capacity.high - fit->capacity.low >
                                                 5 * (whole->capacity.high - whole->capacity.low));
    // A log of nearly nothing drawn says nothing of it.
    auto idle = begun;
    for (auto& p : idle.points)
        p.amps = 0.02, p.volts = 4.17;
    const auto nothing = fit_discharge(idle, job, parts(), 0);
    ASSERT_TRUE(nothing) << nothing.error().text();
    EXPECT_FALSE(nothing->capacity.determined);
    EXPECT_NE(nothing->says.front().english().find("says nothing of the capacity"),
              std::string::npos);
}

TEST(DischargeLog, IsReadThinnedAndKept) {
    std::string text = "time_s,board_V,amps_A\n";
    for (int i = 0; i < 5000; ++i)
        text += fmt::format("{},{},{}\n", i, 4 - i * 1e-4, 1.5);
    const auto read = files::read_discharge_log(text, "log.csv");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->at, job::DischargeAt::board);
    ASSERT_EQ(read->points.size(), 5000u);
    const auto kept = thinned(read->points);
    EXPECT_EQ(kept.size(), 600u);
    EXPECT_EQ(kept.front(), read->points.front());
    EXPECT_EQ(kept.back(), read->points.back());
    job::Job job = test::demo("heron");
    ASSERT_TRUE(keep_discharge({"B1", read->at, "2026-11-20", "log.csv", kept})(job));
    ASSERT_TRUE(keep_discharge({"B1", read->at, "2026-11-21", "log.csv", kept})(job));
    EXPECT_EQ(job.bench.discharges.size(), 1u) << "the same log is kept once";
    ASSERT_TRUE(drop_discharge(0)(job));
    EXPECT_TRUE(job.bench.discharges.empty());
    EXPECT_EQ(files::read_discharge_log("time_min,volts,amps_mA\n2,3.9,1500\n", "l")->points[0],
              (job::DischargePoint{120, 3.9, 1.5}));
    for (const auto& [wrong, says] : {std::pair{"time_s,amps\n0,1\n", "no column volts"},
                                      {"time_s,volts,amps\n0,high,1\n", "line 2, column 3"},
                                      {"time_s,volts,amps\n0,3.9\n", "too short"}}) {
        const auto refused = files::read_discharge_log(wrong, "log.csv");
        ASSERT_FALSE(refused) << wrong;
        EXPECT_NE(refused.error().text().find(says), std::string::npos) << refused.error().text();
    }
}

} // namespace
} // namespace conductus::bench
