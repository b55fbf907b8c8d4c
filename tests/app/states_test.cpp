// SPDX-License-Identifier: GPL-3.0-or-later
// Presets, states, what effects do to lights, plugs, tubes and the shop's habits, from a new job
// and by keyboard.
#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>

#include "app/window.h"
#include "core/job/habits.h"
#include "core/job/presets.h"

namespace conductus::app {
namespace {

class StatesByHand : public Window {
protected:
    int row_of(Table* table, const QString& text, int column = 0) {
        for (int i = 0; i < table->model()->rowCount(); ++i)
            if (table->text(i, column) == text) return i;
        ADD_FAILURE() << "no row " << text.toStdString();
        return 0;
    }
    /// What the background works out for a table has come.
    void filled(Table* table, int row, int column) {
        ASSERT_TRUE(QTest::qWaitFor([&] { return !table->text(row, column).isEmpty(); }, 20000));
    }
    /// Wrong in a cell: refused beside the table, kept there, and nothing is changed.
    void refused(Table* table, int row, int column, const QString& wrong, const QString& right) {
        const job::Job before = session().job();
        retype(table, row, column, wrong);
        EXPECT_TRUE(table->refusal()->isVisible()) << wrong.toStdString();
        EXPECT_EQ(table->text(row, column), wrong);
        EXPECT_EQ(session().job(), before);
        retype(table, row, column, right);
        EXPECT_TRUE(table->refusal()->isHidden()) << right.toStdString();
    }
};

TEST_F(StatesByHand, PresetsAreMadeAndOwnTheirEffects) {
    begin_job("Presets by hand");
    keys(Qt::Key_3, Qt::AltModifier);
    turn_to("lightsSheets", 7);
    find<QPushButton>("presetEachLook")->setFocus();
    keys(Qt::Key_Space);
    settled();
    auto* presets = find<Table>("presets");
    ASSERT_EQ(session().job().presets.size(), session().job().looks.size());
    filled(presets, 0, 7);
    const QString most = presets->text(1, 7);
    EXPECT_EQ(presets->text(1, 5), "as the first");
    retype(presets, 1, 1, "Night watch");
    retype(presets, 1, 2, "harbour");
    retype(presets, 1, 4, "march.wav, storm.wav");
    settled();
    EXPECT_EQ(session().job().presets[1].name, "Night watch");
    EXPECT_EQ(session().job().presets[1].font, "harbour");
    EXPECT_EQ(session().job().presets[1].tracks.size(), 2u);
    refused(presets, 1, 3, "Nobody's look", QString::fromStdString(session().job().looks[1].name));
    // Its own clash flash, in full white.
    go(presets, 1, 1);
    auto* effects = find<Table>("presetEffects");
    ASSERT_GE(effects->model()->rowCount(), 2);
    EXPECT_EQ(effects->text(0, 1), "as the first");
    refused(effects, 0, 1, "perhaps", "its own");
    settled();
    ASSERT_EQ(session().job().presets[1].effects.size(), 1u);
    retype(effects, 0, 6, "100");
    for (const int white : {7, 8, 9})
        retype(effects, 0, white, "100");
    settled();
    EXPECT_EQ(session().job().presets[1].effects[0].cap, 1);
    EXPECT_EQ(session().job().presets[1].effects[0].colour, (job::Colour{1, 1, 1, 0}));
    ASSERT_TRUE(QTest::qWaitFor([&] { return presets->text(1, 7) != most; }, 20000))
        << "it draws more at its peak";
    EXPECT_EQ(presets->text(1, 5), QString::fromStdString(session().job().effects[0].name));
    // The use is lit with it, and its clean time is the preset's.
    go(presets, 1, 1);
    find<QPushButton>("presetUsed")->setFocus();
    keys(Qt::Key_Space);
    settled();
    EXPECT_EQ(session().job().use.preset, "Night watch");
    filled(presets, 1, 8);
    EXPECT_EQ(presets->text(1, 8), gauge(4));
    // Moved to the front; all of it is undone in as many steps.
    go(presets, 1, 1);
    find<QPushButton>("presetEarlier")->setFocus();
    keys(Qt::Key_Space);
    settled();
    EXPECT_EQ(session().job().presets[0].name, "Night watch");
    EXPECT_EQ(in_book("Presets by hand").presets, session().job().presets);
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job().presets[1].name, "Night watch");
}

TEST_F(StatesByHand, LightsAtRestAreSetAndReckonedWith) {
    open_card("Curlew");
    keys(Qt::Key_3, Qt::AltModifier);
    turn_to("lightsSheets", 8);
    auto* states = find<Table>("states");
    filled(states, 0, 2);
    EXPECT_EQ(states->text(row_of(states, "idle"), 6), "A1");
    EXPECT_EQ(states->text(row_of(states, "charging"), 6), "dark");
    EXPECT_EQ(states->text(row_of(states, "asleep"), 6), "dark");
    const QString asleep = states->text(row_of(states, "asleep"), 4);
    auto* rest = find<QComboBox>("restState");
    choose_item(rest, 0); // asleep
    auto* lights = find<Table>("restLights");
    const int a1 = row_of(lights, "A1");
    EXPECT_EQ(lights->text(a1, 1), "dark");
    refused(lights, a1, 3, "bright", "10");
    settled();
    EXPECT_EQ(job::lights_at_rest(session().job(), job::Rest::asleep, {}).size(), 1u);
    EXPECT_EQ(lights->text(a1, 1), "lit");
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return states->text(row_of(states, "asleep"), 6) == "A1"; }, 20000));
    EXPECT_NE(states->text(row_of(states, "asleep"), 4), asleep);
    retype(lights, a1, 3, "0");
    settled();
    EXPECT_TRUE(job::lights_at_rest(session().job(), job::Rest::asleep, {}).empty());
}

TEST_F(StatesByHand, WhatAnEffectDoesToALightIsChosen) {
    open_card("Curlew");
    keys(Qt::Key_3, Qt::AltModifier);
    turn_to("lightsSheets", 9);
    auto* lights = find<Table>("followLights");
    const int a1 = row_of(lights, "A1");
    EXPECT_EQ(lights->text(a1, 4), "") << "no colour of its own to be seen";
    refused(lights, a1, 1, "sideways", "its own");
    settled();
    retype(lights, a1, 4, "80");
    settled();
    const auto& flash = session().job().effects[0];
    ASSERT_EQ(flash.lights.size(), 1u);
    EXPECT_EQ(flash.lights[0].follows, job::Follows::own);
    EXPECT_EQ(flash.lights[0].colour.red, 0.8);
    retype(lights, a1, 1, "as usual");
    settled();
    EXPECT_TRUE(session().job().effects[0].lights.empty());
}

TEST_F(StatesByHand, PlugsAreTypedMeasuredAndProved) {
    open_card("Curlew");
    keys(Qt::Key_4, Qt::AltModifier);
    turn_to("powerSheets", 8);
    auto* plugs = find<Table>("plugs");
    EXPECT_EQ(plugs->text(0, 6), "goes in");
    EXPECT_EQ(plugs->text(0, 11), "not proved");
    refused(plugs, 0, 4, "deep", "6");
    settled();
    EXPECT_EQ(plugs->text(0, 7), "too short: nothing");
    EXPECT_TRUE(findings::finding_of(session().figures()->findings, "plug.too-short"));
    retype(plugs, 0, 4, "9.5");
    retype(plugs, 0, 8, "4.02");
    retype(plugs, 0, 9, "0.01");
    retype(plugs, 0, 10, "2027-01-30");
    settled();
    EXPECT_EQ(plugs->text(0, 11), "off");
    EXPECT_FALSE(findings::finding_of(session().figures()->findings, "plug.not-proved"));
    // Another one in the empty row.
    retype(plugs, 2, 0, "CAP");
    settled();
    ASSERT_EQ(session().job().plugs.size(), 3u);
    retype(plugs, 2, 1, "blank plug");
    refused(plugs, 2, 2, "U1", "J1");
    settled();
    EXPECT_EQ(session().job().plugs[2].jack, "J1");
}

TEST_F(StatesByHand, ABladesTubeIsMeasured) {
    begin_job("Tube by hand");
    keys(Qt::Key_3, Qt::AltModifier);
    turn_to("lightsSheets", 6);
    auto* tubes = find<Table>("tubes");
    EXPECT_EQ(tubes->text(0, 7), "92") << "as usual for a clear tube";
    refused(tubes, 0, 1, "round", "21");
    retype(tubes, 0, 3, "white");
    retype(tubes, 0, 4, "foam");
    retype(tubes, 0, 5, "0.5");
    settled();
    const job::Tube& tube = session().job().blades[0].tube;
    EXPECT_EQ(tube.bore, Millimetre(21));
    EXPECT_EQ(tube.diffuser, job::Diffuser::foam);
    EXPECT_EQ(tubes->text(0, 7), "35");
    EXPECT_TRUE(tubes->text(0, 6).endsWith("of 20.0")) << tubes->text(0, 6).toStdString();
    retype(tubes, 0, 10, "sealed");
    settled();
    EXPECT_EQ(session().job().blades[0].tube.closing, job::Closing::sealed);
}

TEST_F(StatesByHand, ALookOfTwoColoursIsEdited) {
    open_card("Heron");
    keys(Qt::Key_3, Qt::AltModifier);
    settled();
    auto* style = find<QComboBox>("lookStyle");
    auto* colour = find<QComboBox>("lookColour");
    EXPECT_FALSE(colour->isVisible());
    for (int i = 0; i < style->count() && style->currentText() != "two colours"; ++i) {
        style->setFocus();
        QTest::keyClick(style, Qt::Key_Down);
    }
    settled();
    const auto& look = session().job().looks[0];
    EXPECT_EQ(look.style, job::Style::two);
    EXPECT_NE(look.second, job::Colour{}) << "a second colour to begin with";
    ASSERT_TRUE(colour->isVisible());
    const job::Colour first = look.colour;
    choose_item(colour, 1);
    auto* red = find<QSlider>("lookRed");
    red->setFocus();
    for (int i = 0; i < 12; ++i)
        QTest::keyClick(red, Qt::Key_PageUp);
    settled();
    EXPECT_EQ(session().job().looks[0].second.red, 1);
    EXPECT_EQ(session().job().looks[0].colour, first) << "the first colour stays";
    const auto& blade = session().plan()->looks[0].views[0].paint;
    EXPECT_NE(blade.front().r, blade.back().r) << "the blade is drawn in both";
}

TEST_F(StatesByHand, HabitsAreTakenFromAJobAndNewJobsBeginWithThem) {
    open_card("Heron");
    find<QAction>("doHabits")->trigger();
    auto* panel = find<QWidget>("habitsPanel");
    ASSERT_TRUE(panel);
    auto* take = panel->findChild<QPushButton*>("habitsOfJob");
    take->setFocus();
    QTest::keyClick(take, Qt::Key_Space);
    auto* cell = panel->findChild<QLineEdit*>("habit_cell");
    EXPECT_EQ(cell->text().toStdString(),
              job::first_of<catalogue::Cell>(session().job(), parts()).part->type);
    // Nonsense is refused beside the field.
    const auto kept = [&] {
        return shop::Book::open(book_, shop::Access::read_only)->habits().value();
    };
    const job::Habits before = kept();
    auto* supply = panel->findChild<QLineEdit*>("habit_wires/supply/gauge_awg");
    supply->setFocus();
    supply->selectAll();
    QTest::keyClicks(supply, "thick");
    QTest::keyClick(supply, Qt::Key_Return);
    EXPECT_EQ(kept(), before);
    supply->selectAll();
    QTest::keyClicks(supply, "18");
    QTest::keyClick(supply, Qt::Key_Return);
    EXPECT_EQ(job::habit_typed(kept(), "wires/supply/gauge_awg"), "18");
    QTest::keyClick(panel, Qt::Key_Escape);
    turn();
    window_->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    // A new job begins with them.
    keys(Qt::Key_0, Qt::AltModifier);
    turn();
    begin_job("As usual");
    const job::Job& made = session().job();
    EXPECT_EQ(job::first_of<catalogue::Cell>(made, parts()).part->type, kept().cell);
    EXPECT_EQ(made.hilt.clearance, kept().clearance);
    for (const job::Wire& w : made.wires)
        if (w.role == job::Role::supply) {
            EXPECT_LE(w.gauge, 18) << w.ref;
        }
    // One that differs says so once, when it is opened.
    keys(Qt::Key_0, Qt::AltModifier);
    turn();
    open_card("Dunlin");
    QString said;
    for (QLabel* l : window_->findChildren<QLabel*>())
        if (l->isVisible() && l->text().startsWith("Not as the shop")) said = l->text();
    EXPECT_TRUE(said.contains("cell")) << said.toStdString();
}

} // namespace
} // namespace conductus::app
