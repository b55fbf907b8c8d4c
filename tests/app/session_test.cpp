// SPDX-License-Identifier: GPL-3.0-or-later
// The open job without a window: edits, history, analysis.
#include <random>

#include "app/session/session.h"
#include "window.h"

namespace conductus::app {
namespace {

class SessionTest : public testing::Test {
protected:
    void SetUp() override {
        book_ = folder_ / "shop.book";
        ASSERT_TRUE(*shop::make_demo_book(book_, source_dir() / "data/demo", parts()));
        open();
    }
    void open() {
        session_.reset();
        auto book = shop::Book::open(book_, shop::Access::read_write);
        const auto heron = book->load("Heron", parts());
        auto session = Session::open(book_, heron->id, shared_parts());
        ASSERT_TRUE(session) << session.error().text();
        session_ = std::move(*session);
    }
    void planned() {
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return session_->plan() && session_->plan()->job == session_->job_ptr(); },
            10000));
    }
    job::Job in_book() {
        return shop::Book::open(book_, shop::Access::read_only)->load("Heron", parts())->job;
    }

    TemporaryFolder folder_;
    std::filesystem::path book_;
    std::unique_ptr<Session> session_;
};

TEST_F(SessionTest, AnEditThatChangesNothingIsNone) {
    ASSERT_TRUE(session_->edit("Nothing", [](job::Job&) {}));
    EXPECT_FALSE(session_->can_undo());
}

TEST_F(SessionTest, AJobThatWouldNotBeValidIsRefusedWhole) {
    const JobPtr before = session_->job_ptr();
    const auto r = session_->edit("Break it", [](job::Job& j) {
        j.use.volume = 0.9;
        j.hilt.sections[1].bore = Millimetre(99);
    });
    ASSERT_FALSE(r);
    EXPECT_EQ(r.error().where, "/hilt/sections/1/bore_mm");
    EXPECT_EQ(session_->job_ptr(), before);
    EXPECT_FALSE(session_->can_undo());
    ASSERT_TRUE(session_->keeper().finish(3000));
    EXPECT_EQ(in_book(), demo("heron"));
}

TEST_F(SessionTest, RandomWalkThroughHistoryAgreesWithAModel) {
    std::mt19937 random(61);
    std::vector<job::Job> states{session_->job()};
    std::size_t at = 0;
    for (int i = 0; i < 150; ++i) {
        switch (random() % 3) {
        case 0: {
            const double volume = static_cast<double>(random() % 1000) / 1000;
            const bool changes = volume != states[at].use.volume;
            ASSERT_TRUE(session_->edit("Loudness", [&](job::Job& j) { j.use.volume = volume; }));
            if (!changes) break;
            states.resize(at + 1);
            states.push_back(states[at]);
            states[++at].use.volume = volume;
            break;
        }
        case 1:
            session_->undo();
            if (at > 0) --at;
            break;
        default:
            session_->redo();
            if (at + 1 < states.size()) ++at;
        }
        ASSERT_EQ(session_->job(), states[at]);
        ASSERT_EQ(session_->can_undo(), at > 0);
        ASSERT_EQ(session_->can_redo(), at + 1 < states.size());
    }
    ASSERT_TRUE(session_->keeper().finish(10000));
    EXPECT_EQ(in_book(), states[at]);
    // The same walk is there after opening again.
    open();
    EXPECT_EQ(session_->job(), states[at]);
    EXPECT_EQ(session_->can_redo(), at + 1 < states.size());
    while (session_->can_undo())
        session_->undo();
    EXPECT_EQ(session_->job(), demo("heron"));
}

TEST_F(SessionTest, FiguresComeBeforeThePlanAndAreComparedWithTheLast) {
    planned();
    const PlanPtr first = session_->figures();
    QStringList order;
    QObject listener; // goes before what it writes to
    QObject::connect(session_.get(), &Session::figures_changed, &listener,
                     [&] { order << "figures"; });
    QObject::connect(session_.get(), &Session::plan_changed, &listener, [&] { order << "plan"; });
    ASSERT_TRUE(session_->edit("Louder", [](job::Job& j) { j.use.volume = 0.9; }));
    EXPECT_EQ(session_->before(), first);
    planned();
    EXPECT_EQ(order, (QStringList{"figures", "plan"}));
    EXPECT_TRUE(session_->figures()->options.empty());
    EXPECT_FALSE(session_->plan()->options.empty());
    EXPECT_LT(*session_->figures()->figure("first-crackle")->value,
              *first->figure("first-crackle")->value);
}

TEST_F(SessionTest, WhatAnotherProgramWroteIsNotOverwritten) {
    auto other = shop::Book::open(book_, shop::Access::read_write);
    const auto heron = other->load("Heron", parts());
    job::Job theirs = heron->job;
    theirs.notes = "theirs";
    ASSERT_TRUE(other->commit(heron->id, heron->seq, theirs, "note"));
    qsizetype late = -1;
    QObject listener;
    QObject::connect(session_.get(), &Session::overtaken, &listener,
                     [&](qsizetype waiting) { late = std::max(late, waiting); });
    ASSERT_TRUE(session_->edit("Mine", [](job::Job& j) { j.notes = "mine"; }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return late >= 0; }));
    EXPECT_EQ(in_book().notes, "theirs");
    EXPECT_EQ(session_->job().notes, "mine") << "and what was typed is still here";
    EXPECT_FALSE(session_->keeper().finish(50));
    EXPECT_TRUE(session_->is_overtaken());
    ASSERT_TRUE(session_->read_again());
    EXPECT_EQ(session_->job().notes, "theirs");
    EXPECT_EQ(session_->history().back().label, "note");
    ASSERT_TRUE(session_->edit("Mine", [](job::Job& j) { j.notes = "both"; }));
    EXPECT_TRUE(session_->keeper().finish(3000));
    EXPECT_EQ(in_book().notes, "both");
}

TEST_F(SessionTest, SeesWhatAnotherProgramWritesWithoutAnEdit) {
    auto other = shop::Book::open(book_, shop::Access::read_write);
    const auto heron = other->load("Heron", parts());
    bool seen = false;
    QObject listener;
    QObject::connect(session_.get(), &Session::overtaken, &listener,
                     [&](qsizetype waiting) { seen = waiting == 0; });
    QTest::qWait(50); // the keeper has had its first look
    job::Job theirs = heron->job;
    theirs.notes = "theirs";
    ASSERT_TRUE(other->commit(heron->id, heron->seq, theirs, "note"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return seen; }, 6000));
    EXPECT_TRUE(session_->keeper().finish(50)) << "nothing of ours was late";
}

TEST_F(SessionTest, MilestonesKeepTheWholeJobAndItsPictures) {
    const job::Job before = session_->job();
    ASSERT_TRUE(session_->mark(job::Mark::built, "before the test"));
    const std::size_t n = session_->job().milestones.size() - 1;
    EXPECT_EQ(session_->job().milestones[n].note, "before the test");
    job::Job expected = before;
    expected.milestones.clear();
    EXPECT_EQ(*session_->kept_job(n), expected) << "before it is in the book";
    ASSERT_TRUE(session_->edit("Quieter", [](job::Job& j) { j.use.volume = 0.1; }));
    ASSERT_TRUE(session_->keeper().finish(3000));
    EXPECT_EQ(*session_->kept_job(n), expected) << "and after";
    open();
    EXPECT_EQ(*session_->kept_job(n), expected) << "and at the next start";
    ASSERT_TRUE(session_->edit("Back", job::go_back_to(*session_->kept_job(n))));
    EXPECT_EQ(session_->job().use.volume, before.use.volume);
    EXPECT_EQ(session_->job().milestones.size(), n + 1) << "what is past stays past";
    session_->undo();
    EXPECT_EQ(session_->job().use.volume, 0.1);
    auto book = shop::Book::open(book_, shop::Access::read_only);
    ASSERT_TRUE(session_->keeper().finish(3000));
    EXPECT_TRUE(book->verify(parts()));
}

TEST_F(SessionTest, ClosingInTheMiddleOfWorkIsSafeAndKeepsTheEdit) {
    for (int i = 0; i < 25; ++i) {
        const double volume = (i + 1) / 100.0;
        ASSERT_TRUE(session_->edit("Louder", [&](job::Job& j) { j.use.volume = volume; }));
        if (i % 3 == 0) QCoreApplication::processEvents();
        if (i % 5 == 0) QTest::qWait(i);
        open(); // closes the one before, wherever its analysis and its keeper are
        ASSERT_EQ(session_->job().use.volume, volume);
    }
}

TEST_F(SessionTest, AJobThatIsGoneCanNotBeOpened) {
    EXPECT_FALSE(Session::open(book_, 999, shared_parts()));
    EXPECT_FALSE(Session::open(folder_ / "none/at/all", 1, shared_parts()));
}

} // namespace
} // namespace conductus::app
