// SPDX-License-Identifier: GPL-3.0-or-later
// The window around the pages: shelf, stations, findings, gauges, section.
#include "app/shell/section_pane.h"
#include "window.h"

namespace conductus::app {
namespace {

TEST_F(Window, ShelfShowsTheDemoJobs) {
    for (const char* name : {"card:Heron", "card:Dunlin"})
        EXPECT_TRUE(find<JobCard>(name)->isVisible());
    EXPECT_EQ(window_->shelf()->message(), "");
    EXPECT_EQ(find<QLabel>("jobName")->text(), "Shelf");
}

TEST_F(Window, AFindingSaysWhyItsRuleIsAndWhatFollowsFromIt) {
    open_card("Heron");
    auto* why = find<QAbstractButton>("whyRule:pins.over-current");
    ASSERT_TRUE(why);
    auto* rule = find<QLabel>("rule:pins.over-current");
    EXPECT_TRUE(rule->isHidden());
    why->setFocus();
    keys(Qt::Key_Space);
    EXPECT_TRUE(rule->isVisible());
    EXPECT_TRUE(rule->text().contains("each contact's current"));
    EXPECT_TRUE(rule->text().contains("Remedy: more contacts"));
    keys(Qt::Key_Space);
    EXPECT_TRUE(rule->isHidden());
    auto* follows = find<QAbstractButton>("follows:pins.over-current");
    ASSERT_TRUE(follows);
    EXPECT_EQ(follows->text(), "1 more follows from it");
    QTest::mouseClick(follows, Qt::LeftButton);
    EXPECT_TRUE(find<QLabel>("followed:pins.over-current")->text().contains("The tip dims"));
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:blade.dims-early"));
}

TEST_F(Window, AFixIsAnEditThatTakesItsFindingAway) {
    open_card("Heron");
    auto* fix = find<QAbstractButton>("fix:pins.over-current");
    ASSERT_TRUE(fix);
    EXPECT_TRUE(fix->text().contains("5 spring pins"));
    QTest::mouseClick(fix, Qt::LeftButton);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "P1")->type, "connector.pins-5");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return !window_->findChild<QWidget*>("finding:pins.over-current"); }));
    EXPECT_TRUE(find<QAbstractButton>("undo")->isEnabled());
    EXPECT_TRUE(find<QAbstractButton>("undo")->toolTip().contains("spring pins"));
    QTest::mouseClick(find("undo"), Qt::LeftButton);
    settled();
    EXPECT_TRUE(window_->findChild<QWidget*>("finding:pins.over-current"));
}

TEST_F(Window, AFindingIsAcceptedForAReasonByKeyboardAndCountsAgain) {
    open_card("Heron");
    const QString counted = find<QLabel>("findingsCount")->text();
    EXPECT_TRUE(counted.contains("1 stop"));
    find("finding:pins.over-current")->setFocus();
    tab_to("accept:pins.over-current");
    keys(Qt::Key_Space);
    ASSERT_EQ(QApplication::focusWidget(), find("why:pins.over-current"));
    keys(Qt::Key_Return);
    EXPECT_TRUE(find("whyRefused:pins.over-current")->isVisible()) << "a reason is asked for";
    EXPECT_TRUE(session().job().answered.empty());
    type("They are changed at the next service");
    keys(Qt::Key_Return);
    settled();
    ASSERT_EQ(session().job().answered.size(), 1u);
    EXPECT_EQ(session().job().answered[0].why, "They are changed at the next service");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("accepted:pins.over-current") != nullptr; }));
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:pins.over-current"));
    EXPECT_FALSE(find<QLabel>("findingsCount")->text().contains("stop"));
    EXPECT_TRUE(find<QLabel>("findingsCount")->text().contains("1 accepted"));
    EXPECT_TRUE(find<QLabel>("answer:pins.over-current")->text().contains("next service"));

    find("accepted:pins.over-current")->setFocus();
    tab_to("takeBack:pins.over-current");
    keys(Qt::Key_Space);
    settled();
    EXPECT_TRUE(session().job().answered.empty());
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("finding:pins.over-current") != nullptr; }));
    EXPECT_EQ(find<QLabel>("findingsCount")->text(), counted);

    // About lithium: it is acknowledged and goes on to count.
    find("finding:cell.lithium-cautions")->setFocus();
    tab_to("accept:cell.lithium-cautions");
    keys(Qt::Key_Space);
    type("Read with the armourer");
    keys(Qt::Key_Return);
    settled();
    EXPECT_TRUE(QTest::qWaitFor([&] {
        auto* answer = window_->findChild<QLabel*>("answer:cell.lithium-cautions");
        return answer && answer->text().contains("acknowledged");
    }));
    EXPECT_EQ(find<QLabel>("findingsCount")->text(), counted);
}

TEST_F(Window, StationsByKeyAndWhatComesLaterSaysSo) {
    open_card("Dunlin");
    for (int n = 1; n <= 8; ++n) {
        keys(static_cast<Qt::Key>(Qt::Key_0 + n), Qt::AltModifier);
        auto* button = find<QAbstractButton>(QString("station%1").arg(n));
        EXPECT_TRUE(button->isChecked()) << n;
    }
    keys(Qt::Key_8, Qt::AltModifier);
    bool said = false;
    for (auto* label : window_->findChildren<QLabel*>())
        said |= label->isVisible() && label->text().contains("not built yet") &&
                label->text().contains("Brief, Hilt, Lights, Power, Harness, Handling and Bench are");
    EXPECT_TRUE(said);
    keys(Qt::Key_0, Qt::AltModifier);
    EXPECT_EQ(find<QLabel>("jobName")->text(), "Shelf");
    EXPECT_EQ(window_->job_view(), nullptr);
}

TEST_F(Window, ATickIsWhereSomethingWasJudgedAlone) {
    const auto fine = [&](int n) {
        return find<QAbstractButton>(QString("station%1").arg(n))->accessibleDescription() ==
               "judged, and fine";
    };
    open_card("Bittern");
    EXPECT_TRUE(fine(5)) << "its wires are judged, and nothing is wrong with them";
    EXPECT_FALSE(fine(6)) << "no rule looks there yet";
    keys(Qt::Key_0, Qt::AltModifier);
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Blank");
    keys(Qt::Key_Return);
    settled();
    for (int n = 1; n <= 8; ++n)
        EXPECT_FALSE(fine(n)) << n << " of a blank job";
    const auto& findings = session().plan()->findings;
    ASSERT_EQ(findings.size(), 1u);
    EXPECT_EQ(findings[0].text, "Nothing is fitted yet");
    EXPECT_EQ(findings[0].severity, findings::Severity::note);
    EXPECT_EQ(find<QAbstractButton>("station4")->accessibleDescription(), "nothing to judge yet");
    // It leads to where a job is begun.
    keys(Qt::Key_4, Qt::AltModifier);
    auto* row = find<QWidget>("finding:supply.not-solved");
    ASSERT_TRUE(row);
    row->setFocus();
    QTest::keyClick(row, Qt::Key_Return);
    EXPECT_TRUE(find<QAbstractButton>("toStart")->isChecked());
}

TEST_F(Window, F6GoesRoundThePanes) {
    open_card("Heron");
    keys(Qt::Key_2, Qt::AltModifier);
    std::vector<QWidget*> seen;
    for (int i = 0; i < 5; ++i) {
        keys(Qt::Key_F6);
        ASSERT_TRUE(QApplication::focusWidget());
        seen.push_back(QApplication::focusWidget());
    }
    keys(Qt::Key_F6);
    EXPECT_EQ(QApplication::focusWidget(), seen[0]) << "the sixth is the first again";
    for (std::size_t i = 0; i < seen.size(); ++i)
        for (std::size_t k = i + 1; k < seen.size(); ++k)
            EXPECT_NE(seen[i], seen[k]);
    keys(Qt::Key_F6, Qt::ShiftModifier);
    EXPECT_EQ(QApplication::focusWidget(), seen[4]);
}

TEST_F(Window, AGaugeSaysWhyAndJumpsToThePart) {
    open_card("Heron");
    auto* gauge4 = find<Gauge>("gauge4");
    gauge4->setFocus();
    keys(Qt::Key_Space);
    auto* parts_table = find<Table>("whyParts");
    ASSERT_TRUE(parts_table->isVisible());
    EXPECT_TRUE(find<QLabel>("whyTitle")->text().contains("to first crackle"));
    EXPECT_GT(parts_table->rows().rowCount(), 3);
    QTest::keyClick(parts_table, Qt::Key_Return);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "B1");
    QTest::keyClick(parts_table, Qt::Key_Escape);
    EXPECT_FALSE(parts_table->isVisible());
    EXPECT_EQ(QApplication::focusWidget(), gauge4);
}

TEST_F(Window, TheSectionIsChosenFromByMouseAndKeys) {
    open_card("Heron");
    QTest::mouseClick(find("overlayVolts"), Qt::LeftButton);
    EXPECT_EQ(window_->job_view()->selection().options().overlay, Overlay::volts);
    auto* section = find<SectionView>("section");
    section->grab();
    ASSERT_FALSE(section->boxes().empty());
    for (const HitBox& spot : section->boxes())
        if (spot.ref == "U1")
            QTest::mouseClick(section, Qt::LeftButton, {}, spot.box.center().toPoint());
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "U1");
    section->setFocus();
    QTest::keyClick(section, Qt::Key_PageUp);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "K1");
}

TEST_F(Window, APartIsDraggedOnTheSectionAndMovedByItsKeys) {
    open_card("Heron");
    auto* section = find<SectionView>("section");
    const auto place = [&](const char* ref) {
        for (const HitBox& spot : section->boxes())
            if (spot.ref == ref) return section->to_widget(spot.box.center()).toPoint();
        return QPoint();
    };
    const auto part = [&](const char* ref) { return *job::find_ref(session().job().parts, ref); };
    section->grab();
    const job::Part was = part("U1");
    const std::size_t states = session().history().size();
    const QPoint from = place("U1");
    QTest::mousePress(section, Qt::LeftButton, {}, from);
    for (int x = 5; x <= 60; x += 5)
        QTest::mouseMove(section, from - QPoint(x, 0));
    settled();
    // Nothing is changed yet; the clearance is told where it is now.
    EXPECT_EQ(part("U1"), was);
    auto* said = find<QLabel>("sectionMoment");
    ASSERT_TRUE(QTest::qWaitFor([&] { return said->isVisible(); }));
    EXPECT_TRUE(said->text().startsWith("U1 at "));
    EXPECT_TRUE(said->text().contains("spare") || said->text().contains("binds"));
    QTest::mouseRelease(section, Qt::LeftButton, {}, from - QPoint(60, 0));
    settled();
    EXPECT_LT(part("U1").at, was.at);
    EXPECT_EQ(part("U1").off_axis, was.off_axis) << "along, not across";
    EXPECT_EQ(session().history().size(), states + 1) << "one edit";
    EXPECT_FALSE(said->isVisible());
    session().undo();
    settled();
    section->grab();
    EXPECT_EQ(part("U1"), was);
    // Up, and given up by Esc.
    QTest::mousePress(section, Qt::LeftButton, {}, from);
    QTest::mouseMove(section, from - QPoint(0, 12));
    QTest::mouseMove(section, from - QPoint(0, 24));
    QTest::keyClick(section, Qt::Key_Escape);
    QTest::mouseRelease(section, Qt::LeftButton, {}, from - QPoint(0, 24));
    EXPECT_EQ(part("U1"), was);
    // By keys: a millimetre, a tenth, up, and turned.
    section->setFocus();
    QTest::keyClick(section, Qt::Key_Right);
    QTest::keyClick(section, Qt::Key_Left, Qt::ShiftModifier);
    QTest::keyClick(section, Qt::Key_Up, Qt::ShiftModifier);
    QTest::keyClick(section, Qt::Key_Up, Qt::ControlModifier);
    EXPECT_NEAR(part("U1").at.value(), was.at.value() + 0.9, 1e-9);
    EXPECT_NEAR(part("U1").off_axis.value(), was.off_axis.value() + 0.1, 1e-9);
    EXPECT_NEAR(part("U1").turn.value(), was.turn.value() + 1, 1e-9);
}

TEST_F(Window, AFindingUnderTheMouseLightsItsParts) {
    open_card("Heron");
    auto* row = find("finding:pins.over-current");
    ASSERT_TRUE(row);
    row->setFocus();
    EXPECT_TRUE(window_->job_view()->selection().options().lit.contains("P1"));
    QTest::keyClick(row, Qt::Key_Return);
    EXPECT_TRUE(find<QAbstractButton>("station4")->isChecked());
}

TEST_F(Window, EveryControlHasAnAccessibleName) {
    open_card("Heron");
    for (auto* w : window_->findChildren<QWidget*>()) {
        if (w->focusPolicy() == Qt::NoFocus || qobject_cast<QLabel*>(w) ||
            w->objectName().startsWith("qt_"))
            continue;
        auto* button = qobject_cast<QAbstractButton*>(w);
        const bool named = !w->accessibleName().isEmpty() || (button && !button->text().isEmpty());
        const bool inner =
            w->parentWidget() && (w->parentWidget()->inherits("QComboBox") ||
                                  w->parentWidget()->inherits("QAbstractItemView") ||
                                  w->inherits("QComboBoxPrivateContainer") ||
                                  w->inherits("QComboBoxListView") || w->inherits("QHeaderView"));
        EXPECT_TRUE(named || inner || w->inherits("QStackedWidget") ||
                    w->inherits("QAbstractScrollArea"))
            << w->metaObject()->className() << " " << w->objectName().toStdString();
    }
}

TEST_F(Window, NightAndLargeTextKeepEverythingInTheWindow) {
    open_card("Heron");
    window_->appearance().set_night(true);
    window_->appearance().set_percent(150);
    window_->resize(1024, 700);
    for (int n = 2; n <= 4; ++n) {
        keys(static_cast<Qt::Key>(Qt::Key_0 + n), Qt::AltModifier);
        turn();
        window_->grab();
        EXPECT_LE(window_->width(), 1024);
        EXPECT_LE(find("gaugeBar")->mapTo(window_.get(), QPoint(0, 0)).y() +
                      find("gaugeBar")->height(),
                  window_->height());
    }
}

} // namespace
} // namespace conductus::app
