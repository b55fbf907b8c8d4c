// SPDX-License-Identifier: GPL-3.0-or-later
// Questions beside the plan: one queue, the newest of a kind wins, answers are kept by job.
#include "app/session/asking.h"
#include "app/window.h"
#include "core/plan/analyse.h"
#include "core/plan/answers.h"

namespace conductus::app {
namespace {

using plan::AnswerPtr;
using plan::GaugesUnder;
using plan::ManyDays;
using plan::UseLivedThrough;

PlanPtr figures_for(const char* name) {
    return std::make_shared<const plan::Plan>(plan::analyse_figures(
        std::make_shared<const job::Job>(test::demo(name)), test::shared_parts()));
}

class AskingTest : public ::testing::Test {
protected:
    void finish() {
        ASSERT_TRUE(QTest::qWaitFor([&] { return asking_.is_idle(); }, 60000));
    }
    Asking asking_;
    QObject page_, other_;
    PlanPtr heron_ = figures_for("heron");
};

TEST_F(AskingTest, OfOneKindTheNewestIsAnsweredAndTheRestIsNot) {
    std::vector<double> got;
    for (int i = 1; i <= 20; ++i)
        asking_.ask(
            heron_, GaugesUnder{Volt(0.01 * i)}, &page_,
            [&](const AnswerPtr<GaugesUnder>& made) { got.push_back((*made)->budget.value()); });
    finish();
    ASSERT_EQ(got.size(), 1u);
    EXPECT_DOUBLE_EQ(got.front(), 0.2);
    // It is what the core says itself.
    const auto direct = plan::size_wires(*heron_, Volt(0.2));
    AnswerPtr<GaugesUnder> again;
    asking_.ask(heron_, GaugesUnder{Volt(0.2)}, &page_,
                [&](const AnswerPtr<GaugesUnder>& made) { again = made; });
    ASSERT_TRUE(again) << "an answer that is there is handed over at once";
    EXPECT_EQ((*again)->copper, direct->copper);
    EXPECT_EQ((*again)->drop, direct->drop);
}

TEST_F(AskingTest, TheSameQuestionIsWorkedOnOnceForAllWhoAsk) {
    AnswerPtr<UseLivedThrough> one, two;
    asking_.ask(heron_, UseLivedThrough{}, &page_,
                [&](const AnswerPtr<UseLivedThrough>& made) { one = made; });
    asking_.ask(heron_, UseLivedThrough{}, &other_,
                [&](const AnswerPtr<UseLivedThrough>& made) { two = made; });
    EXPECT_TRUE(asking_.is_waiting<UseLivedThrough>(&page_));
    EXPECT_FALSE(asking_.is_waiting<GaugesUnder>(&page_));
    finish();
    ASSERT_TRUE(one);
    EXPECT_EQ(one, two) << "it was lived through twice";
    // Another job is another answer.
    AnswerPtr<UseLivedThrough> godwit;
    asking_.ask(figures_for("godwit"), UseLivedThrough{}, &page_,
                [&](const AnswerPtr<UseLivedThrough>& made) { godwit = made; });
    EXPECT_FALSE(godwit);
    finish();
    EXPECT_NE(godwit, one);
}

TEST_F(AskingTest, WhatIsForgottenOrWhoseAskerIsGoneIsNotHandedOver) {
    int answered = 0;
    const auto count = [&](const auto&) { ++answered; };
    asking_.ask(heron_, UseLivedThrough{}, &page_, count);
    asking_.forget<UseLivedThrough>(&page_);
    EXPECT_TRUE(asking_.is_idle());
    {
        QObject gone;
        asking_.ask(heron_, GaugesUnder{Volt(0.1)}, &gone, count);
    }
    // The end of the queue tells that whatever stood before it is done.
    asking_.ask(heron_, GaugesUnder{Volt(0.3)}, &other_, count);
    finish();
    EXPECT_EQ(answered, 1);
}

TEST_F(AskingTest, AStoppedQuestionIsAnsweredWithWhatThereIsAndNotKept) {
    const auto study = plan::use_study(*heron_->job, *heron_->parts, {});
    ASSERT_TRUE(study);
    const ManyDays question{study->loads, 100000, 1};
    std::size_t told = 0, all = 0;
    AnswerPtr<ManyDays> made;
    const auto done = [&](const AnswerPtr<ManyDays>& answer) { made = answer; };
    asking_.ask(heron_, question, &page_, done, [&](std::size_t n, std::size_t of) {
        told = n, all = of;
        asking_.stop<ManyDays>(&page_);
    });
    finish();
    ASSERT_TRUE(made && *made);
    EXPECT_EQ(all, 100000u);
    EXPECT_GE((*made)->days, 1u);
    EXPECT_LT((*made)->days, 100000u);
    EXPECT_GE(told, 1u);
    // Asked again it begins again.
    const auto first = made;
    asking_.ask(heron_, question, &page_, done);
    EXPECT_EQ(made, first);
    EXPECT_TRUE(asking_.is_waiting<ManyDays>(&page_));
}

TEST_F(AskingTest, AnErrorIsAnAnswer) {
    AnswerPtr<plan::WhyOf> made;
    asking_.ask(heron_, plan::WhyOf{"no such figure"}, &page_,
                [&](const AnswerPtr<plan::WhyOf>& answer) { made = answer; });
    finish();
    ASSERT_TRUE(made);
    EXPECT_FALSE(*made);
}

} // namespace
} // namespace conductus::app
