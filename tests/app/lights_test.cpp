// SPDX-License-Identifier: GPL-3.0-or-later
// The Lights station: what would change a look, films, data lines, and the section's overlays.
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QTabBar>
#include <QTableWidget>

#include "app/drawing/section_drawing.h"
#include "app/stations/lights/effects_sheet.h"
#include "app/stations/lights/lines_sheet.h"
#include "core/job/lookup.h"
#include "window.h"

namespace conductus::app {
namespace {

class LightsTest : public Window {
protected:
    void open_sheet(const QString& job, int sheet) {
        open_card(job);
        keys(Qt::Key_3, Qt::AltModifier);
        for (int i = 0; i < sheet; ++i)
            keys(Qt::Key_PageDown, Qt::ControlModifier);
        ASSERT_EQ(find<QTabBar>("lightsSheets")->currentIndex(), sheet);
        settled();
    }
    [[nodiscard]] bool found(const std::string& id) {
        const auto& all = session().plan()->findings;
        return std::any_of(all.begin(), all.end(), [&](const auto& f) { return f.id == id; });
    }
};

TEST_F(LightsTest, AClickDoesWhatWouldChangeTheLook) {
    open_sheet("Heron", 0);
    window_->job_view()->selection().look_at("Moonrise");
    QTest::qWait(1);
    const double before = session().plan()->look("Moonrise")->mean.value();
    auto* white = find<QAbstractButton>("whatIf_white-die");
    ASSERT_TRUE(white);
    EXPECT_TRUE(white->text().contains(QChar(0x2212))) << white->text().toStdString();
    QTest::mouseClick(white, Qt::LeftButton);
    settled();
    EXPECT_LT(session().plan()->look("Moonrise")->mean.value(), before * 0.6);
    EXPECT_EQ(session().job().blades[0].strips[0].type, "strip.rgbw-144-wide");
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
}

TEST_F(LightsTest, AnEffectPlaysAndTheTraceIsItsCurrent) {
    open_sheet("Bittern", 1);
    auto* which = find<QComboBox>("filmOf");
    tab_to("filmOf");
    ASSERT_GT(which->findText("ignition"), 0);
    while (which->currentText() != "ignition")
        keys(Qt::Key_Down);
    emit which->activated(which->currentIndex());
    auto* time = find<QSlider>("filmTime");
    auto* said = find<QLabel>("filmFigures");
    ASSERT_TRUE(QTest::qWaitFor([&] { return said->text().contains("Mean"); }, 5000));
    time->setValue(0);
    const QString start = said->text();
    time->setValue(time->maximum() / 2);
    EXPECT_NE(said->text(), start);
    // Played, it moves by itself; ten times slower it moves less.
    find<QCheckBox>("slowFilm")->setChecked(true);
    time->setValue(0);
    QTest::mouseClick(find<QPushButton>("playFilm"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return time->value() > 0; }, 5000));
    QTest::mouseClick(find<QPushButton>("playFilm"), Qt::LeftButton);
    const int stopped = time->value();
    QTest::qWait(120);
    EXPECT_EQ(time->value(), stopped);
    // A click on the trace goes there.
    auto* film = find<FilmView>("film");
    QTest::mouseClick(film, Qt::LeftButton, {}, QPoint(film->width() * 3 / 4, film->height() / 2));
    EXPECT_GT(time->value(), time->maximum() / 2);
}

TEST_F(LightsTest, WhatIsProgrammedIsHeldAgainstWhatIsFitted) {
    open_sheet("Bittern", 2);
    EXPECT_TRUE(find<ChainsView>("chains")->accessibleDescription().contains("117"));
    auto* lines = find<QTableWidget>("programmedLines");
    ASSERT_EQ(lines->rowCount(), 1);
    EXPECT_EQ(lines->item(0, 1)->text(), "117");
    auto write = [&](const QString& text) {
        lines->setFocus();
        lines->setCurrentCell(0, 2);
        QTest::keyClick(lines, Qt::Key_F2);
        auto* editor = lines->findChild<QLineEdit*>();
        ASSERT_TRUE(editor);
        editor->selectAll();
        QTest::keyClicks(editor, text);
        QTest::keyClick(editor, Qt::Key_Return);
        QTest::qWait(1); // the table takes it a turn later
        settled();
    };
    write("110");
    EXPECT_EQ(session().job().lines[0].pixels, 110);
    EXPECT_TRUE(found("line.programmed-differs"));
    write("many");
    EXPECT_EQ(session().job().lines[0].pixels, 110); // refused, and kept to be mended
    EXPECT_EQ(lines->item(0, 2)->text(), "many");
    write("117");
    EXPECT_FALSE(found("line.programmed-differs"));
    // A hop chosen in the table is chosen everywhere.
    auto* hops = find<QTableWidget>("dataHops");
    ASSERT_EQ(hops->rowCount(), 6);
    hops->setCurrentCell(2, 0);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "ST3");
}

TEST_F(LightsTest, OverlaysSayAmpsAndHeat) {
    open_sheet("Curlew", 0);
    QTest::mouseClick(find<QPushButton>("overlayAmps"), Qt::LeftButton);
    EXPECT_EQ(window_->job_view()->selection().options().overlay, Overlay::amps);
    QTest::mouseClick(find<QPushButton>("overlayHeat"), Qt::LeftButton);
    EXPECT_EQ(window_->job_view()->selection().options().overlay, Overlay::heat);
    EXPECT_TRUE(find<QPushButton>("overlayHeat")->isChecked());
    EXPECT_FALSE(find<QPushButton>("overlayAmps")->isChecked());
}

} // namespace
} // namespace conductus::app
