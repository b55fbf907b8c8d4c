// SPDX-License-Identifier: GPL-3.0-or-later
// Thresholds and the test sheet of motion: each mistake is its finding, what is sound is in peace.
#include "core/motion/felt.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Felt;
using job::Job;

Job set_as_usual() {
    Job job = clean_job();
    job.config.motion = motion::usual_settings();
    return job;
}

std::set<std::string> motion_ids(const Job& job) {
    std::set<std::string> all;
    for (const std::string& id : ids(plan_of(job)))
        if (id.starts_with("motion.")) all.insert(id);
    return all;
}

TEST(MotionRules, LivelyAndCalmAndEachKindAloneAreInPeace) {
    EXPECT_TRUE(motion_ids(clean_job()).empty()) << "nothing was entered";
    EXPECT_TRUE(motion_ids(set_as_usual()).empty());
    std::vector<motion::Trace> firm;
    for (const motion::Trace& t : motion::made_up_set())
        if (t.name != motion::word(motion::Movement::loose_board)) firm.push_back(t);
    for (const auto& p : motion::partings(firm, job::MotionSettings{}))
        for (const double at : {p.lively(), p.calm()}) {
            Job job = set_as_usual();
            motion::threshold_of(job.config.motion, p.what) = at;
            EXPECT_TRUE(motion_ids(job).empty()) << static_cast<int>(p.what) << " at " << at;
        }
}

TEST(MotionRules, LightingUpThatCountsAsAClashIsOneFindingAndItsFixMendsIt) {
    Job job = set_as_usual();
    job.config.motion.clash = 0.5;
    job.config.motion.tap = 0; // else the lighter blow is a tap
    const auto plan = plan_of(job);
    EXPECT_EQ(motion_ids(job), std::set<std::string>{"motion.false"});
    const Finding* f = find(plan, "motion.false");
    ASSERT_TRUE(f);
    EXPECT_NE(f->text.english().find("lighting up"), std::string::npos) << f->text;
    EXPECT_EQ(f->severity, Severity::warn);
    ASSERT_TRUE(f->fix);
    ASSERT_TRUE(f->fix->edit(job));
    EXPECT_TRUE(motion_ids(job).empty());
}

TEST(MotionRules, EachKindThatIsTooLivelyOrTooCalmIsItsFinding) {
    for (const Felt what : {Felt::swing, Felt::twist, Felt::thrust, Felt::clash}) {
        Job lively = set_as_usual();
        motion::threshold_of(lively.config.motion, what) *= 0.2;
        EXPECT_TRUE(motion_ids(lively).contains("motion.false")) << static_cast<int>(what);
        Job calm = set_as_usual();
        motion::threshold_of(calm.config.motion, what) *= 6;
        const auto ids = motion_ids(calm);
        EXPECT_TRUE(ids.contains("motion.missed")) << static_cast<int>(what);
        const auto plan = plan_of(calm);
        const Finding* f = find(plan, "motion.missed");
        ASSERT_TRUE(f && f->fix);
        ASSERT_TRUE(f->fix->edit(calm));
        EXPECT_FALSE(motion_ids(calm).contains("motion.missed"));
    }
}

TEST(MotionRules, ACommandByAMotionThatIsNotListenedForIsToldAndMended) {
    Job job = set_as_usual();
    job.handling = demo("heron").handling;
    for (job::Command& c : job.handling.commands)
        for (job::TriggerButton& b : c.trigger.buttons)
            b.button = "S1"; // what it means now is another matter
    job.handling.commands[0].trigger = {};
    job.handling.commands[0].trigger.motion = job::Motion::twist;
    EXPECT_TRUE(motion_ids(job).empty());
    job.config.motion.twist = 0;
    job.config.motion.roll = 0;
    EXPECT_EQ(motion_ids(job), std::set<std::string>{"motion.not-listened"});
    const auto plan = plan_of(job);
    const Finding* f = find(plan, "motion.not-listened");
    ASSERT_TRUE(f && f->fix);
    ASSERT_TRUE(f->fix->edit(job));
    EXPECT_TRUE(motion_ids(job).empty());
}

TEST(MotionRules, TheTestSheetAsksForALooseBoardFirst) {
    Job job = set_as_usual();
    job.motion_tests = {{"slow turn", Felt::roll, Felt::roll, "2026-11-20"},
                        {"set down", Felt::nothing, Felt::nothing, {}},
                        {"walking", Felt::nothing, Felt::nothing, "2026-11-20"}};
    EXPECT_TRUE(motion_ids(job).empty());
    job.motion_tests[2].observed = Felt::clash;
    const auto plan = plan_of(job);
    EXPECT_EQ(motion_ids(job), std::set<std::string>{"motion.not-as-wanted"});
    EXPECT_NE(find(plan, "motion.not-as-wanted")->detail.english().find("loose board"),
              std::string::npos);
    job.motion_tests[2] = {"swing", Felt::swing, Felt::nothing, "2026-11-20"};
    EXPECT_EQ(motion_ids(job), std::set<std::string>{"motion.not-as-wanted"});
    job.motion_tests[2].on.clear();
    EXPECT_TRUE(motion_ids(job).empty()) << "what was not tried is nothing yet";
}

} // namespace
} // namespace conductus::findings
