// SPDX-License-Identifier: GPL-3.0-or-later
// From nothing: a job begun on its start sheet, in the real window.
#include "app/stations/start/start_page.h"

#include "app/window.h"
#include "core/plan/start.h"

namespace conductus::app {
namespace {

class StartSheet : public Window {
protected:
    void press(Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) {
        ++pressed_;
        QWidget* focus = QApplication::focusWidget();
        QTest::keyClick(focus ? focus : window_.get(), key, with);
        turn();
    }
    /// Names and numbers that are typed do not count.
    void type(const QString& text) { QTest::keyClicks(QApplication::focusWidget(), text); }
    /// A blank job of that name, opened on its sheet.
    void begin(const QString& name) {
        press(Qt::Key_0, Qt::AltModifier);
        press(Qt::Key_N, Qt::ControlModifier);
        type(name);
        press(Qt::Key_Return);
        ASSERT_TRUE(window_->job_view());
        ASSERT_TRUE(sheet()->isVisible());
    }
    StartPage* sheet() { return window_->findChild<StartPage*>(); }
    void click(const QString& name) {
        QTest::mouseClick(find<QAbstractButton>(name), Qt::LeftButton);
        turn();
    }
    int pressed_ = 0;
};

TEST_F(StartSheet, AJobIsMadeFromNothingByKeyboardInFewerThanSixtyKeys) {
    begin("Plover");
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "start_length_typed");
    type("270");
    press(Qt::Key_Tab);
    type("27.5");
    press(Qt::Key_Tab);
    type("32 in");
    press(Qt::Key_Tab);
    press(Qt::Key_Tab); // the usual diameter
    press(Qt::Key_Down);
    press(Qt::Key_Down); // two strips
    press(Qt::Key_Return, Qt::ControlModifier);
    settled();
    EXPECT_LT(pressed_, 60);
    const job::Job& job = session().job();
    EXPECT_EQ(job.hilt.sections.back().to, Millimetre(270));
    EXPECT_EQ(job.hilt.sections.front().bore, Millimetre(27.5));
    ASSERT_EQ(job.blades.size(), 1u);
    EXPECT_NEAR(job.blades[0].length.value(), 812.8, 1e-9);
    EXPECT_EQ(job.blades[0].strips.size(), 2u);
    for (const Explained& figure : session().plan()->figures)
        EXPECT_TRUE(figure.value) << figure.id;
    EXPECT_TRUE(find<QAbstractButton>("station2")->isChecked());
    EXPECT_FALSE(find<QAbstractButton>("toStart")->isVisible()) << "the job is begun";
    // One edit, which is undone at once; then the sheet is there again.
    window_->job_view()->session().undo();
    turn();
    EXPECT_TRUE(plan::is_blank(session().job()));
    EXPECT_TRUE(find<QAbstractButton>("toStart")->isVisible());
}

TEST_F(StartSheet, ConsequencesStandBesideAndEveryOtherChoiceCanBeTaken) {
    begin("Plover");
    type("280");
    press(Qt::Key_Tab);
    type("28.4");
    press(Qt::Key_Tab);
    find<QComboBox>("start_cell")->setFocus();
    auto* table = find<Table>("startChoices");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return find<QLabel>("comes_cell")->text().contains("crackle") &&
                   table->rows().source_count() > 5 && table->text(0, 1) != QStringLiteral("…");
        },
        20000));
    EXPECT_TRUE(find<QComboBox>("start_cell")->currentText().startsWith("usual: "));
    EXPECT_TRUE(find<QLabel>("comes_bore")->text().contains("spare"));
    // Nothing is made yet, and the gauges show what it would be.
    EXPECT_TRUE(plan::is_blank(session().job()));
    EXPECT_TRUE(gauge(1).contains("A")) << gauge(1).toStdString();
    int row = -1;
    for (int r = 0; r < table->rows().source_count(); ++r)
        if (table->text(r, 0).startsWith("18500")) row = r;
    ASSERT_GE(row, 0);
    go(table, row, 0);
    press(Qt::Key_Return);
    EXPECT_EQ(sheet()->start().cell, "cell.18500");
    EXPECT_TRUE(find<QComboBox>("start_cell")->currentText().startsWith("18500"));
    click("startMake");
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18500");
}

TEST_F(StartSheet, WhatCanNotBeIsRefusedBesideItsFieldAndKept) {
    begin("Plover");
    type("12");
    press(Qt::Key_Tab);
    auto* field = find<QLineEdit>("start_length_typed");
    EXPECT_EQ(field->text(), "12");
    EXPECT_TRUE(field->accessibleDescription().contains("60 to 1500"));
    click("startMake");
    EXPECT_TRUE(plan::is_blank(session().job()));
    EXPECT_EQ(QApplication::focusWidget(), field);
    // Everything can be skipped.
    click("startSkip");
    EXPECT_TRUE(find<QAbstractButton>("station2")->isChecked());
    click("toStartSheet");
    EXPECT_TRUE(find<QAbstractButton>("toStart")->isChecked());
}

} // namespace
} // namespace conductus::app
