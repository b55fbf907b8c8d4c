// SPDX-License-Identifier: GPL-3.0-or-later
// A whole job from a few readings and choices.
#include "core/plan/start.h"

#include <gtest/gtest.h>

#include "core/job/edits.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "support/fixtures.h"

namespace conductus::plan {
namespace {

job::Job begun(const Start& start) {
    job::Job job = job::blank("Plover", job::Kind::conversion);
    const auto done = begin_job(start, *test::shared_parts())(job);
    EXPECT_TRUE(done) << done.error().text();
    const auto valid = job::validate(job, *test::shared_parts());
    EXPECT_TRUE(valid) << valid.error().text();
    return job;
}

Plan plan_of(const job::Job& job) {
    return analyse_figures(std::make_shared<const job::Job>(job), test::shared_parts());
}

void sound(const Plan& plan, const std::string& what) {
    for (const Explained& figure : plan.figures)
        EXPECT_TRUE(figure.value) << what << ": " << figure.id << ": " << figure.reason;
    for (const findings::Finding& f : plan.findings)
        EXPECT_EQ(f.severity, findings::Severity::note) << what << ": " << f.id << ": " << f.text;
}

TEST(Start, AHiltABoreAndABladeGiveAllEightFiguresAndNoWarning) {
    for (const double length : {165.0, 210.0, 280.0, 340.0})
        for (const double bore : {22.4, 25.0, 28.4, 33.0})
            for (const double blade : {410.0, 813.0}) {
                Start start;
                start.length = Millimetre(length), start.bore = Millimetre(bore);
                start.blade = Millimetre(blade);
                const std::string what = std::to_string(length) + " × " + std::to_string(bore) +
                                         ", " + std::to_string(blade);
                sound(plan_of(begun(start)), what);
            }
}

TEST(Start, WhatIsSaidIsKeptAndWhatIsNotSaidFollowsFromIt) {
    Start start;
    start.length = Millimetre(300), start.bore = Millimetre(32);
    start.blade = Millimetre(914), start.strips = 3, start.buttons = 2;
    start.cell = "cell.21700-power";
    start.occasion = job::Occasion::bout;
    const job::Job job = begun(start);
    EXPECT_EQ(job.hilt.sections.back().to, Millimetre(300));
    EXPECT_EQ(job.hilt.sections.front().bore, Millimetre(32));
    ASSERT_EQ(job.blades.size(), 1u);
    EXPECT_EQ(job.blades.front().strips.size(), 3u);
    EXPECT_EQ(job.blades.front().strips.front().pixels, 132); // 0.914 m at 144 per metre
    EXPECT_EQ(job.brief.occasion, job::Occasion::bout);
    EXPECT_EQ(job.config.buttons, 2);
    int cells = 0, buttons = 0;
    for (const job::Part& part : job.parts) {
        cells += part.type == "cell.21700-power";
        buttons += test::shared_parts()->find_as<catalogue::Button>(part.type) != nullptr;
    }
    EXPECT_EQ(cells, 1);
    EXPECT_EQ(buttons, 2);
    sound(plan_of(job), "three strips");
}

TEST(Start, WhatIsLeftForLaterIsNotThereAndTheRestIs) {
    Start start;
    start.length = Millimetre(280), start.bore = Millimetre(28.4);
    start.cell = Start::later;
    job::Job job = begun(start);
    for (const job::Part& part : job.parts)
        EXPECT_FALSE(test::shared_parts()->find_as<catalogue::Cell>(part.type)) << part.ref;
    EXPECT_EQ(plan_of(job).figure("peak-current")->reason, "there is no cell. Fit a cell");
    start = {};
    start.blade = Millimetre(0);
    job = begun(start);
    EXPECT_TRUE(job.blades.empty());
    EXPECT_TRUE(job.hilt.sections.empty());
    EXPECT_TRUE(plan_of(job).figure("peak-current")->value);
    EXPECT_FALSE(plan_of(job).figure("tightest-fit")->value);
}

TEST(Start, WhatTheOwnerWantsIsTakenOver) {
    job::Job job = job::blank("Plover", job::Kind::conversion);
    job.brief.blades = {{Millimetre(610), Millimetre(22.2)}, {Millimetre(300), Millimetre(22.2)}};
    (void)job::set_occasion(job::Occasion::shelf)(job);
    const job::Brief brief = job.brief;
    Start start;
    start.length = Millimetre(260), start.bore = Millimetre(27);
    ASSERT_TRUE(begin_job(start, *test::shared_parts())(job));
    EXPECT_EQ(job.brief, brief);
    EXPECT_EQ(job.blades.front().length, Millimetre(610));
    EXPECT_EQ(job.hilt.socket.nominal, Millimetre(22.2));
    start.blade = Millimetre(813); // what is said goes before what was wanted
    EXPECT_EQ(with_the_brief(start, brief).blade, Millimetre(813));
}

TEST(Start, AJobThatIsNotWholeSaysWhatItLacksAndWhere) {
    job::Job job = job::blank("Plover", job::Kind::conversion);
    const Plan blank = plan_of(job);
    ASSERT_FALSE(blank.findings.empty());
    EXPECT_EQ(blank.findings.front().text, "Nothing is fitted yet");
    EXPECT_EQ(blank.findings.front().severity, findings::Severity::note);
    for (const auto station : {findings::Station::hilt, findings::Station::power})
        EXPECT_FALSE(blank.judged(station)) << "nothing to judge yet";
    Start start;
    start.cell = Start::later;
    ASSERT_TRUE(begin_job(start, *test::shared_parts())(job));
    job.looks.clear();
    job.use.look.clear();
    const Plan plan = plan_of(job);
    const auto& f = plan.findings.front();
    EXPECT_EQ(f.severity, findings::Severity::stop);
    EXPECT_EQ(f.station, findings::Station::hilt);
    EXPECT_EQ(f.text, "Not whole yet: there is no cell, no look");
}

TEST(Start, ItIsRefusedWhereItCanNotBeMeant) {
    const auto refused = [](const auto& change) {
        Start start;
        start.length = Millimetre(280), start.bore = Millimetre(28.4);
        change(start);
        const auto ok = check_start(start, *test::shared_parts());
        EXPECT_FALSE(ok);
        return ok ? std::string() : ok.error().where;
    };
    EXPECT_EQ(refused([](Start& s) { s.length = Millimetre(10); }), "length");
    EXPECT_EQ(refused([](Start& s) { s.bore.reset(); }), "bore");
    EXPECT_EQ(refused([](Start& s) { s.blade = Millimetre(3); }), "blade");
    EXPECT_EQ(refused([](Start& s) { s.strips = 40; }), "strips");
    EXPECT_EQ(refused([](Start& s) { s.cell = "cell.18650-powr"; }), "cell");
    EXPECT_EQ(refused([](Start& s) { s.cell = "board.small"; }), "cell");
    job::Job job = begun({});
    EXPECT_FALSE(begin_job({}, *test::shared_parts())(job)) << "something is fitted already";
}

} // namespace
} // namespace conductus::plan
