// SPDX-License-Identifier: GPL-3.0-or-later
// What boards take movements for.
#include "core/motion/felt.h"

#include <algorithm>
#include <cmath>

#include "files/disk.h"
#include "files/trace_csv.h"
#include "support/fixtures.h"

namespace conductus::motion {
namespace {

using job::Felt;
using job::MotionSettings;

/// A trace at rest of that many seconds, 200 samples a second.
Trace still(double seconds) {
    Trace t;
    t.name = "still";
    for (int i = 0; i < seconds * 200; ++i) {
        Sample s;
        s.t = i / 200.0;
        s.az = 1;
        t.samples.push_back(s);
    }
    return t;
}

TEST(Felt, TheUsualThresholdsTakeEveryUsualMovementForWhatItIs) {
    const MotionSettings usual = usual_settings();
    for (const Felt what :
         {Felt::swing, Felt::twist, Felt::roll, Felt::thrust, Felt::tap, Felt::clash})
        EXPECT_GT(threshold_of(usual, what), 0);
    // Hands that the thresholds were not worked out of, too.
    for (unsigned seed = 1; seed <= 40; ++seed)
        for (int m = 0; m < movement_count; ++m) {
            if (static_cast<Movement>(m) == Movement::loose_board) continue;
            const Trace trace = make_trace(static_cast<Movement>(m), seed, 1);
            const Understood u = understood(trace, usual);
            EXPECT_TRUE(u.missed.empty()) << trace.name << " " << seed;
            EXPECT_FALSE(u.loose) << trace.name << " " << seed;
            for (const Event& e : u.events)
                EXPECT_TRUE(e.meant) << trace.name << " " << seed << " " << e.at;
        }
}

TEST(Felt, ALooseBoardIsToldAndNoThresholdPartsIt) {
    for (unsigned seed = 1; seed <= 40; ++seed)
        EXPECT_TRUE(understood(make_trace(Movement::loose_board, seed), usual_settings()).loose)
            << seed;
    std::vector<Trace> all = made_up_set();
    for (const Parting& p : partings(all, MotionSettings{})) {
        const bool blow = p.what == Felt::tap || p.what == Felt::clash;
        EXPECT_EQ(p.parts(), !blow);
        EXPECT_EQ(p.loose, blow);
    }
}

TEST(Felt, AClosedFormSwingIsFeltAboveItsThresholdAlone) {
    // 300 degrees per second about y for 0.3 s.
    Trace t = still(1.5);
    for (Sample& s : t.samples)
        if (s.t >= 0.5 && s.t < 0.8) s.gy = 300;
    MotionSettings set;
    set.swing = 299;
    const Understood u = understood(t, set);
    ASSERT_EQ(u.events.size(), 1u);
    EXPECT_EQ(u.events[0].what, Felt::swing);
    EXPECT_NEAR(u.events[0].at, 0.56, 0.006) << "60 ms after it began";
    EXPECT_DOUBLE_EQ(u.events[0].most, 300);
    set.swing = 301;
    EXPECT_TRUE(understood(t, set).events.empty());
    // Too short to be one.
    for (Sample& s : t.samples)
        if (s.t >= 0.53) s.gy = 0;
    set.swing = 200;
    EXPECT_TRUE(understood(t, set).events.empty());
    // Along the blade it is a twist, and turned by its area.
    Trace turn = still(1.5);
    for (Sample& s : turn.samples)
        if (s.t >= 0.5 && s.t < 1.0) s.gx = 100;
    const auto turned = values_of(turn, Felt::roll);
    EXPECT_NEAR(*std::max_element(turned.begin(), turned.end()), 50, 0.6);
    MotionSettings roll;
    roll.roll = 45;
    ASSERT_EQ(understood(turn, roll).events.size(), 1u);
    EXPECT_NEAR(understood(turn, roll).events[0].at, 0.95, 0.01);
}

TEST(Felt, WhatIsFeltAtAThresholdIsFeltAtEveryLowerOneWhereItStandsAlone) {
    for (const Trace& trace : made_up_set())
        for (const Felt what : {Felt::swing, Felt::twist, Felt::thrust, Felt::clash}) {
            bool before = true;
            for (double share = 0.05; share < 1.2; share += 0.05) {
                MotionSettings set;
                threshold_of(set, what) = share * threshold_of(usual_settings(), what) * 2;
                const Understood u = understood(trace, set);
                const bool now = !u.events.empty();
                EXPECT_TRUE(before || !now) << trace.name << " " << share;
                before = now;
            }
        }
}

TEST(Felt, PartingsLieBetweenWhatIsMeantAndWhatIsNot) {
    std::vector<Trace> firm;
    for (const Trace& t : made_up_set())
        if (t.name != word(Movement::loose_board)) firm.push_back(t);
    for (const Parting& p : partings(firm, MotionSettings{})) {
        ASSERT_TRUE(p.parts());
        for (const double at : {p.lively(), p.calm()}) {
            EXPECT_GT(at, p.above);
            EXPECT_LT(at, p.below);
        }
        EXPECT_LT(p.lively(), p.calm());
    }
    // Lighting up that jolts as much as a strike can not be parted from one.
    Trace jolt = make_trace(Movement::lighting_up, 1);
    for (Sample& s : jolt.samples)
        if (s.t > 1 && s.t < 1.02) s.az += 30;
    firm.push_back(jolt);
    bool told = false;
    for (const Parting& p : partings(firm, MotionSettings{}))
        if (p.what == Felt::clash) {
            told = true;
            EXPECT_FALSE(p.parts());
            EXPECT_FALSE(p.loose) << "nothing rattles";
            EXPECT_EQ(p.highest, "lighting up");
        }
    EXPECT_TRUE(told);
}

TEST(TraceCsv, ComesBackAsItWasWritten) {
    for (const Trace& trace : made_up_set()) {
        const auto read = files::read_trace_csv(files::trace_csv(trace), trace.name + ".csv");
        ASSERT_TRUE(read) << read.error().text();
        EXPECT_EQ(read->name, trace.name);
        ASSERT_EQ(read->samples.size(), trace.samples.size());
        for (std::size_t i = 0; i < trace.samples.size(); ++i) {
            EXPECT_NEAR(read->samples[i].ay, trace.samples[i].ay, 6e-4);
            EXPECT_NEAR(read->samples[i].gx, trace.samples[i].gx, 0.06);
        }
        const Understood a = understood(trace, usual_settings()),
                         b = understood(*read, usual_settings());
        ASSERT_EQ(a.events.size(), b.events.size()) << trace.name;
        for (std::size_t i = 0; i < a.events.size(); ++i)
            EXPECT_EQ(a.events[i].what, b.events[i].what) << trace.name;
    }
}

TEST(TraceCsv, TheShippedSetIsWhatTheGeneratorMakes) {
    int files = 0;
    for (int m = 0; m < movement_count; ++m) {
        const Trace trace = make_trace(static_cast<Movement>(m), 2);
        std::string name = trace.name;
        std::replace(name.begin(), name.end(), ' ', '-');
        const auto text =
            files::read_text(test::source_dir() / "data" / "motion" / (name + ".csv"));
        ASSERT_TRUE(text) << name;
        const auto read = files::read_trace_csv(*text, name + ".csv");
        ASSERT_TRUE(read) << read.error().text();
        ASSERT_EQ(read->samples.size(), trace.samples.size());
        for (std::size_t i = 0; i < trace.samples.size(); ++i)
            EXPECT_NEAR(read->samples[i].az, trace.samples[i].az, 6e-4) << name << " " << i;
        ++files;
    }
    EXPECT_EQ(files, movement_count);
}

TEST(TraceCsv, OtherUnitsAndOrdersAreRead) {
    const auto read = files::read_trace_csv("note;gz_rad_s;gy_rad_s;gx_rad_s;az_m_s2;ay_m_s2;"
                                            "ax_m_s2;time_ms;meant\n"
                                            "a;0;0;3,14159265;9,80665;0;0;0;\n"
                                            "b;0;0;0;9,80665;0;0;5;swing\n"
                                            "c;0;0;0;9,80665;0;0;10;\n",
                                            "log.csv");
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_NEAR(read->samples[0].gx, 180, 1e-4);
    EXPECT_NEAR(read->samples[0].az, 1, 1e-6);
    EXPECT_NEAR(read->samples[2].t, 0.01, 1e-9);
    ASSERT_EQ(read->meant.size(), 1u);
    EXPECT_EQ(read->meant[0].what, Felt::swing);
}

TEST(TraceCsv, EveryMistakeIsToldWithItsPlace) {
    const std::string head = "time_s,ax_g,ay_g,az_g,gx_deg_s,gy_deg_s,gz_deg_s,meant\n";
    const std::string row = "0,0,0,1,0,0,0,\n";
    const std::pair<std::string, const char*> wrong[] = {
        {"", "no samples"},
        {head, "no samples"},
        {"time_s,ax_g\n0,0\n", "no column ay_g"},
        {head + "0,x,0,1,0,0,0,\n", "line 2, column 3"},
        {head + "0,0,0\n", "missing"},
        {head + row + row, "does not go on"},
        {head + "0,0,0,1,0,0,0,jump\n", "nothing a board feels"},
        {head + "0,0,0,1,0,0,inf,\n", "no number"},
        {head + "\"0,0", "quote"}};
    for (const auto& [text, says] : wrong) {
        const auto read = files::read_trace_csv(text, "log.csv");
        ASSERT_FALSE(read) << text;
        EXPECT_NE(read.error().text().find(says), std::string::npos)
            << read.error().text() << " for " << text;
    }
}

} // namespace
} // namespace conductus::motion
