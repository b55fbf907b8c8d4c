// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/assembly.h"

#include <algorithm>

#include "core/job/lookup.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;

Assembly together(const job::Job& job) { return assembly(job, parts(), fit(job, parts())); }

/// Place of the first step about a thing; -1 where there is none.
int step_of(const std::vector<Step>& steps, const std::string& ref) {
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (steps[i].ref == ref) return static_cast<int>(i);
    return -1;
}

bool says(const std::vector<Step>& steps, const std::string& what) {
    return std::any_of(steps.begin(), steps.end(), [&](const Step& s) {
        return (s.text.english() + " " + s.why.english()).find(what) != std::string::npos;
    });
}

TEST(Assembly, HeronGoesTogetherInOrder) {
    const Assembly a = together(demo("heron"));
    ASSERT_TRUE(a.possible) << a.trouble;
    const auto at = [&](const char* ref) { return step_of(a.steps, ref); };
    EXPECT_LT(at("C1"), at("B1")) << "the cell goes into its bay";
    EXPECT_LT(at("C1"), at("S1")) << "a button would bar the chassis";
    EXPECT_LT(at("B1"), at("pommel"));
    EXPECT_LT(at("P1"), at("BL1"));
    EXPECT_TRUE(says(a.steps, "left-hand"));
    EXPECT_TRUE(says(a.steps, "Leave M3 at the box")) << "never loosened";
    EXPECT_TRUE(says(a.steps, "clock it so that K1 meets kill slot"));
    EXPECT_TRUE(says(a.steps, "twist them 8 turns anticlockwise first"));
    EXPECT_EQ(a.keys, (std::vector<std::string>{"2 mm hex", "2.5 mm hex"}));
    for (const Step& s : a.steps)
        EXPECT_FALSE(s.why.empty()) << s.text;
    EXPECT_EQ(std::count_if(a.warnings.begin(), a.warnings.end(),
                            [](auto& w) { return w.find("left-hand") != std::string::npos; }),
              1);
}

TEST(Assembly, AccessCountsWhatComesOff) {
    const Assembly a = together(demo("heron"));
    const Access* kill = a.to("kill");
    ASSERT_TRUE(kill);
    EXPECT_TRUE(kill->possible);
    EXPECT_TRUE(kill->steps.empty()) << "it has a slot in the wall";
    const Access* cell = a.to("cell");
    ASSERT_TRUE(cell && cell->possible);
    // The pommel off, speaker and all, and the cell out of its bay.
    ASSERT_EQ(cell->steps.size(), 2u);
    EXPECT_EQ(cell->steps[0].ref, "pommel");
    EXPECT_EQ(cell->steps[1].ref, "B1");
    EXPECT_TRUE(cell->keys.empty());
    const Access* blade = a.to("blade");
    ASSERT_TRUE(blade && blade->possible);
    EXPECT_EQ(blade->steps.size(), 2u);
    EXPECT_EQ(blade->keys, std::vector<std::string>{"2.5 mm hex"});
    const Access* card = a.to("card");
    ASSERT_TRUE(card && card->possible);
    EXPECT_TRUE(says(card->steps, "Loosen M3 at the grip"));
    // Glued, the pommel stays: no way to the cell but by its own end.
    job::Job glued = demo("heron");
    glued.hilt.joints.clear();
    glued.hilt.opens = job::End::neither;
    EXPECT_FALSE(together(glued).to("cell")->possible);
}

TEST(Assembly, WithoutJointsWhatIsNearestTheMouthGoesInLast) {
    job::Job job = demo("dunlin");
    job.hilt.carriers[0].kind = job::CarrierKind::removable;
    const Assembly a = together(job);
    ASSERT_TRUE(a.possible);
    EXPECT_LT(step_of(a.steps, "C1"), step_of(a.steps, "SP1"));
    const Access* cell = a.to("cell");
    ASSERT_TRUE(cell && cell->possible);
    // Speaker, screw, chassis, and the cell lifted out of it.
    EXPECT_EQ(cell->steps.size(), 4u);
    EXPECT_EQ(cell->keys, std::vector<std::string>{"2 mm hex"});
}

TEST(Assembly, WhatBarsEachOtherHasNoOrder) {
    // Two carriers, each of which may only go in past the place of the other.
    job::Job job = demo("heron");
    survey_plainly(job);
    job.parts.erase(job.parts.begin()); // the speaker
    job.hilt.opens = job::End::both;
    job.hilt.carriers = {{"C1", job::CarrierKind::removable, Millimetre(1), job::End::emitter},
                         {"C2", job::CarrierKind::removable, Millimetre(1), job::End::pommel}};
    for (job::Part& p : job.parts) {
        if (p.ref == "B1") p.carrier = "C1";
        if (p.ref == "U1") p.carrier = "C2";
    }
    std::erase_if(job.parts, [](auto& p) { return p.ref == "K1" || p.ref == "P1"; });
    const Assembly a = together(job);
    EXPECT_FALSE(a.possible);
    EXPECT_FALSE(a.trouble.empty());
    std::swap(job.hilt.carriers[0].goes_in, job.hilt.carriers[1].goes_in);
    EXPECT_TRUE(together(job).possible);
}

TEST(Assembly, EveryOrderIsOneInWhichNothingIsPassedThrough) {
    std::mt19937 random(60);
    int possible = 0;
    for (int round = 0; round < 400; ++round) {
        const job::Job job = random_job(random);
        const Fit f = fit(job, parts());
        const Assembly a = assembly(job, parts(), f);
        if (!a.possible) {
            EXPECT_FALSE(a.trouble.empty());
            continue;
        }
        ++possible;
        for (const Passing& p : f.passes)
            EXPECT_GE(step_of(a.steps, p.carrier), 0) << p.carrier << " has a step";
        for (const Step& s : a.steps)
            EXPECT_FALSE(s.text.empty() || s.why.empty());
    }
    EXPECT_GT(possible, 20);
}

} // namespace
} // namespace conductus::hilt
