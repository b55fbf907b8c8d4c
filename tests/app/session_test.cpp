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
            [&] { return session_->plan() && session_->plan()->whole == session_->job_ptr(); },
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
    EXPECT_EQ(r.error().where, "hilt, section grip, bore");
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
    ASSERT_TRUE(other->commit(heron->id, heron->at, theirs, "note"));
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
    ASSERT_TRUE(QTest::qWaitFor([&] { return session_->keeper().rounds() > 0; }, 5000));
    job::Job theirs = heron->job;
    theirs.notes = "theirs";
    ASSERT_TRUE(other->commit(heron->id, heron->at, theirs, "note"));
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
        for (int turn = 0; i % 5 == 0 && turn < i; ++turn)
            QCoreApplication::processEvents();
        open(); // closes the one before, wherever its analysis and its keeper are
        ASSERT_EQ(session_->job().use.volume, volume);
    }
}

TEST_F(SessionTest, AJobThatIsGoneCanNotBeOpened) {
    EXPECT_FALSE(Session::open(book_, 999, shared_parts()));
    EXPECT_FALSE(Session::open(folder_ / "none/at/all", 1, shared_parts()));
}

TEST_F(SessionTest, WhatIsDraggedIsShownAndLeavesNothingBehind) {
    planned();
    const job::Job before = session_->job();
    const std::size_t states = session_->history().size();
    PlanPtr seen;
    QObject::connect(session_.get(), &Session::previewed,
                     [&](const PlanPtr& figures) { seen = figures; });
    auto drag = [&](double green) {
        seen.reset();
        ASSERT_TRUE(session_->preview([green](job::Job& j) { j.looks[0].colour.green = green; }));
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return seen && seen->job->looks[0].colour.green == green; }, 5000));
    };
    drag(0.11);
    drag(0.22);
    EXPECT_EQ(session_->job(), before);
    EXPECT_EQ(session_->history().size(), states);
    EXPECT_NE(seen->looks[0].mean, session_->figures()->looks[0].mean);
    // It ends: the figures are the job's again, told anew.
    int told = 0;
    QObject::connect(session_.get(), &Session::figures_changed, [&] { ++told; });
    session_->end_preview();
    EXPECT_GE(told, 1);
    EXPECT_EQ(session_->figures()->whole, session_->job_ptr());
    // What would not be valid is not shown.
    EXPECT_FALSE(session_->preview([](job::Job& j) { j.looks[0].name = j.looks[1].name; }));
    // An edit ends it as well, and so does undo.
    drag(0.33);
    ASSERT_TRUE(session_->edit("Cap", [](job::Job& j) { j.looks[0].cap = 0.5; }));
    planned();
    EXPECT_EQ(session_->job().looks[0].colour, before.looks[0].colour);
    EXPECT_EQ(session_->plan()->job->looks[0].colour, before.looks[0].colour);
    drag(0.44);
    session_->undo();
    planned();
    EXPECT_EQ(session_->job(), before);
}

TEST_F(SessionTest, FiguresAfterManyEditsAreThoseOfAFreshStart) {
    // Each analysis takes what still holds from the one before: errors would add up.
    planned();
    std::mt19937 random(31);
    std::uniform_real_distribution<double> share(0, 1);
    for (int i = 0; i < 25; ++i) {
        const double v = share(random);
        const auto what = random() % 6;
        (void)session_->edit("step", [&](job::Job& j) {
            job::Look& look = j.looks[random() % j.looks.size()];
            if (what == 0) look.colour.green = v;
            if (what == 1) look.cap = 0.2 + v * 0.8;
            if (what == 2) look.style = static_cast<job::Style>(random() % 5);
            if (what == 3) j.effects[random() % j.effects.size()].cap = v;
            if (what == 4) j.use.look = look.name;
            if (what == 5) j.use.volume = v;
        });
        if (random() % 4 == 0 && session_->can_undo()) session_->undo();
        if (random() % 3 == 0) planned();
    }
    planned();
    const plan::Plan fresh = plan_of(session_->job());
    for (std::size_t i = 0; i < fresh.figures.size(); ++i)
        EXPECT_EQ(session_->plan()->figures[i].value, fresh.figures[i].value)
            << fresh.figures[i].id;
    ASSERT_EQ(session_->plan()->findings.size(), fresh.findings.size());
    for (std::size_t i = 0; i < fresh.findings.size(); ++i)
        EXPECT_EQ(session_->plan()->findings[i].text, fresh.findings[i].text);
    ASSERT_EQ(session_->plan()->options.size(), fresh.options.size());
    for (std::size_t i = 0; i < fresh.options.size(); ++i)
        EXPECT_EQ(session_->plan()->options[i].off, fresh.options[i].off);
}

} // namespace
} // namespace conductus::app
