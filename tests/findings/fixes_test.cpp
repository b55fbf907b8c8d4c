// SPDX-License-Identifier: GPL-3.0-or-later
// No fix that is offered makes the worst finding worse: random slips of the hand in every demo job.
#include <atomic>
#include <fmt/format.h>

#include "core/job/presets.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "support/fixtures.h"
#include "support/mutate.h"
#include "threads/side_by_side.h"

namespace conductus::plan {
namespace {

using findings::Severity;

Plan figures_of(const job::Job& job) {
    return analyse_figures(std::make_shared<const job::Job>(job), test::shared_parts());
}

Severity worst_of(const Plan& plan) {
    return plan.findings.empty() ? Severity::note : plan.findings.front().severity;
}

class Fixes : public testing::TestWithParam<const char*> {};

TEST_P(Fixes, NeverMakeTheWorstFindingWorse) {
    job::Job whole = test::demo(GetParam());
    whole.variants.clear();
    // A few looks tell as much of wiring and places as all of them, in a third of the time.
    const std::string used = whole.use.look;
    int kept = 0;
    std::erase_if(whole.looks,
                  [&](const job::Look& look) { return look.name != used && ++kept > 1; });
    if (whole.effects.size() > 1) whole.effects.resize(1);
    job::forget_lost_presets(whole);
    whole.brief.wishes.clear();
    const int mutations = test::rounds(2000);
    std::atomic<int> valid = 0, offered = 0;
    side_by_side(static_cast<std::size_t>(mutations), [&](std::size_t i) {
        std::mt19937 random(static_cast<unsigned>(i) * 7919U + 1U);
        job::Job job = whole;
        test::mutate(job, random);
        if (!job::validate(job, test::parts())) return;
        ++valid;
        Plan plan = figures_of(job);
        const bool shorted = !plan.levels->shorts().empty();
        EXPECT_TRUE(offer_fixes(plan));
        for (const auto& f : plan.findings)
            for (const auto* fix : {&f.fix, &f.other}) {
                if (!*fix) continue;
                ++offered;
                job::Job mended = job;
                ASSERT_TRUE((*fix)->edit(mended));
                ASSERT_TRUE(job::validate(mended, test::parts())) << i;
                const Plan after = figures_of(mended);
                EXPECT_GE(worst_of(after), worst_of(plan))
                    << "mutation " << i << ": " << f.text << "; " << (*fix)->text;
                EXPECT_TRUE(shorted || after.levels->shorts().empty())
                    << "mutation " << i << ": " << f.text << "; " << (*fix)->text;
                EXPECT_FALSE(after.trouble && !plan.trouble) << "mutation " << i;
            }
    });
    fmt::print("  {}: {} mutations, {} of them valid, {} fixes offered\n", GetParam(), mutations,
               valid.load(), offered.load());
    EXPECT_GT(offered, mutations / 20);
}

/// A cell that is turned is turned back. Where that would show a stop that the wrong polarity hid,
/// nothing is offered: not another wrong place for its wires.
TEST(Fix, OfATurnedCellTurnsItBackOrIsNotOffered) {
    for (const auto& [name, offered] : {std::pair{"bittern", true}, {"heron", false}}) {
        job::Job job = test::demo(name);
        job.variants.clear();
        for (job::Wire& w : job.wires)
            for (std::string* end : {&w.from, &w.to})
                if (*end == "B1.plus")
                    *end = "B1.minus";
                else if (*end == "B1.minus")
                    *end = "B1.plus";
        Plan plan = figures_of(job);
        EXPECT_TRUE(offer_fixes(plan));
        ASSERT_EQ(plan.findings.front().id, "cell.reversed") << name;
        const auto& fix = plan.findings.front().fix;
        ASSERT_EQ(fix.has_value(), offered) << name << ": " << (fix ? fix->text : Message());
        if (fix) {
            EXPECT_EQ(fix->text, "turn B1 round");
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Demo, Fixes, testing::ValuesIn(test::demo_jobs),
                         [](const auto& tested) { return std::string(tested.param); });

} // namespace
} // namespace conductus::plan
