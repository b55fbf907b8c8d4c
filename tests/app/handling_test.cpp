// SPDX-License-Identifier: GPL-3.0-or-later
// The map of commands by keyboard from a new job: begun, typed, found ambiguous, mended, rehearsed.
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTabBar>

#include "app/stations/handling/rehearse_sheet.h"
#include "app/window.h"
#include "core/handling/tour.h"
#include "core/job/trigger.h"
#include "files/job_json.h"

namespace conductus::app {
namespace {

class HandlingTest : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        begin_job("Handled by hand");
        keys(Qt::Key_6, Qt::AltModifier);
        turn();
    }
    const job::Handling& map() { return session().job().handling; }
    void key_down(Qt::Key key) { QTest::keyPress(window_->findChild<RehearseSheet*>(), key); }
    void key_up(Qt::Key key) { QTest::keyRelease(window_->findChild<RehearseSheet*>(), key); }
    int row_of(Table* table, const QString& command) {
        for (int i = 0; i < table->model()->rowCount(); ++i)
            if (table->text(i, 0) == command) return i;
        ADD_FAILURE() << command.toStdString();
        return 0;
    }
};

TEST_F(HandlingTest, AMapIsTypedFromNothing) {
    auto* table = find<Table>("commandMap");
    retype(table, 0, 0, "light the blade");
    retype(table, 0, 1, "S1");
    settled();
    ASSERT_EQ(map().commands.size(), 1u);
    ASSERT_EQ(map().states.size(), 2u) << "idle and lit come along";
    EXPECT_EQ(map().commands[0].state, "idle");
    retype(table, 0, 2, "idle > lit");
    EXPECT_EQ(map().commands[0].leads, "lit");
    retype(table, 1, 0, "put it out");
    retype(table, 1, 1, "S1 held 1,5 s");
    settled();
    ASSERT_EQ(map().commands.size(), 2u);
    retype(table, row_of(table, "put it out"), 2, " lit>idle ");
    EXPECT_EQ(job::trigger_text(map().commands[1].trigger), "S1 held 1.5 s");
    EXPECT_EQ(job::way_text(map().commands[1]), "lit > idle");
    // Nonsense is refused beside the table and kept there.
    const job::Job before = session().job();
    for (const char* wrong : {"S1 S1", "twice", "S1 held", "left"}) {
        retype(table, 0, 1, wrong);
        EXPECT_TRUE(table->refusal()->isVisible()) << wrong;
        EXPECT_EQ(table->text(0, 1), wrong);
    }
    retype(table, 0, 1, "S1");
    EXPECT_TRUE(table->refusal()->isHidden());
    for (const char* wrong : {"idle > cellar", "cellar", "idle >", ">"}) {
        retype(table, 0, 2, wrong);
        EXPECT_TRUE(table->refusal()->isVisible()) << wrong;
    }
    retype(table, 0, 2, "idle > lit");
    EXPECT_EQ(session().job(), before);
    // A state that is renamed keeps its commands.
    turn_to("handlingSheets", 2);
    auto* states = find<Table>("handStates");
    retype(states, 1, 0, "alight");
    EXPECT_EQ(map().commands[0].leads, "alight");
    EXPECT_EQ(map().commands[1].state, "alight");
    const auto again = files::parse_job(files::job_text(session().job()), parts(), "again");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, session().job());
}

TEST_F(HandlingTest, ACollisionIsFoundAndMendedAndTheTourIsPlayed) {
    find<QPushButton>("beginPresses")->setFocus();
    keys(Qt::Key_Space);
    settled();
    ASSERT_GT(map().commands.size(), 5u);
    EXPECT_FALSE(find<QPushButton>("beginPresses")->isVisible());
    auto* table = find<Table>("commandMap");
    const int row = row_of(table, "light it without sound");
    retype(table, row, 1, "S1");
    settled();
    EXPECT_EQ(table->text(row, 3), "also light the blade");
    auto* fix = find<QAbstractButton>("fix:handling.means-two");
    ASSERT_TRUE(fix);
    fix->setFocus();
    QTest::keyClick(fix, Qt::Key_Space);
    settled();
    EXPECT_FALSE(findings::finding_of(session().plan()->findings, "handling.means-two"));
    turn_to("handlingSheets", 3);
    auto* tour = find<Table>("tour");
    ASSERT_GT(tour->model()->rowCount(), 5);
    EXPECT_EQ(find<QLabel>("playState")->text(), "State: idle");
    find<QPushButton>("beginTour")->setFocus();
    keys(Qt::Key_Space);
    // A swing means nothing here; then the tour, by keys.
    key_down(Qt::Key_S);
    EXPECT_TRUE(find<QLabel>("playHeard")->text().startsWith("Nothing"));
    const auto steps = handling::shortest_tour(session().job()).steps;
    std::size_t done = 0;
    for (; done < steps.size() && done < 4; ++done) {
        if (steps[done].kind != handling::TourStep::Kind::command) break;
        const job::Trigger& t = map().commands[steps[done].command].trigger;
        if (t.buttons.empty() || t.attitude != job::Attitude::any) break;
        const int presses = t.press == job::Press::twice         ? 2
                            : t.press == job::Press::three_times ? 3
                                                                 : 1;
        for (int i = 0; i < presses; ++i) {
            key_down(Qt::Key_A);
            if (t.motion == job::Motion::twist) key_down(Qt::Key_Left);
            if (t.held > Second(0)) QTest::qWait(static_cast<int>(t.held.value() * 1000) + 60);
            key_up(Qt::Key_A);
        }
        ASSERT_TRUE(QTest::qWaitFor([&] {
            return tour->text(static_cast<int>(done), 2) == "done";
        })) << done
            << " " << find<QLabel>("playHeard")->text().toStdString();
    }
    EXPECT_GE(done, 2u);
}

TEST_F(HandlingTest, WhatIsPlayedWithTheMouseIsHeard) {
    find<QPushButton>("beginMotions")->setFocus();
    keys(Qt::Key_Space);
    settled();
    turn_to("handlingSheets", 3);
    auto* button = find<QPushButton>("play:S1");
    ASSERT_TRUE(button);
    QTest::mousePress(button, Qt::LeftButton);
    QTest::mouseRelease(button, Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return find<QLabel>("playState")->text().startsWith("State: lit"); }));
    EXPECT_TRUE(find<QLabel>("playHeard")->text().contains("light the blade"));
}

} // namespace
} // namespace conductus::app
