// SPDX-License-Identifier: GPL-3.0-or-later
// The Power station: the day typed, drawn and lived, the discharge under its cursor, options, why,
// charging.
#include <QCheckBox>
#include <QClipboard>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QTabBar>
#include <QTemporaryDir>
#include <set>

#include "app/shell/drawing_view.h"
#include "app/stations/power/day_sheet.h"
#include "app/stations/power/discharge_sheet.h"
#include "app/stations/power/options_sheet.h"
#include "app/stations/power/why_sheet.h"
#include "window.h"

namespace conductus::app {
namespace {

class PowerTest : public Window {
protected:
    enum Sheet { runtime, day, spares, discharge, cold, options, why, charging };
    void open_sheet(const QString& job, int sheet) {
        open_card(job);
        keys(Qt::Key_4, Qt::AltModifier);
        for (int i = 0; i < sheet; ++i)
            keys(Qt::Key_PageDown, Qt::ControlModifier);
        ASSERT_EQ(find<QTabBar>("powerSheets")->currentIndex(), sheet);
        settled();
    }
    /// Waits for a label to say something with these words.
    [[nodiscard]] bool says(const QString& label, const QString& words) {
        auto* l = find<QLabel>(label);
        return QTest::qWaitFor([&] { return l->text().contains(words); }, 20000);
    }
    void type_cell(Table* table, int row, int column, const QString& text) {
        retype(table, row, column, text);
    }
};

TEST_F(PowerTest, ADayIsTypedAndRefusedInWords) {
    open_sheet("Heron", day);
    auto* phases = find<Table>("phases");
    ASSERT_TRUE(says("dayFigures", "2 sets of cells"));
    type_cell(phases, 0, 1, "5"); // 4 × 5 min lit
    settled();
    EXPECT_EQ(session().job().use.day[0].lasts, Minute(5));
    EXPECT_EQ(session().job().use.ignited, Minute(20)); // follows
    EXPECT_TRUE(says("dayFigures", "One set of cells lasts the day"));
    const job::Job before = session().job();
    type_cell(phases, 0, 4, "often");
    EXPECT_EQ(session().job(), before);
    auto* refusal = find<QLabel>("phasesRefusal");
    EXPECT_TRUE(refusal->isVisible());
    EXPECT_TRUE(refusal->text().contains("clash")) << refusal->text().toStdString();
    EXPECT_EQ(phases->text(0, 4), "often"); // kept to be mended
    type_cell(phases, 0, 4, "900");
    EXPECT_TRUE(refusal->text().contains("out of range"));
    type_cell(phases, 0, 4, "6");
    settled();
    EXPECT_FALSE(refusal->isVisible());
    EXPECT_EQ(session().job().use.day[0].rates[0].per_minute, 6);
}

TEST_F(PowerTest, AUsualDayIsTakenAndTheOwnOneKept) {
    open_sheet("Heron", day);
    auto* which = find<QComboBox>("usualDay");
    which->setCurrentIndex(which->findText("quay fair"));
    QTest::mouseClick(find("takeUse"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().use.name, "quay fair");
    EXPECT_EQ(session().job().use.temperature, Celsius(12));
    which->setCurrentIndex(which->findText("bout evening"));
    QTest::mouseClick(find("takeUse"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().use.name, "bout evening");
    ASSERT_TRUE(job::find_name(session().job().uses, "quay fair")); // not lost
    EXPECT_EQ(in_book("Heron").use.name, "bout evening");
    for (int i = 0; i < 2; ++i)
        keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
}

TEST_F(PowerTest, TheDayIsDrawnWithTheMouse) {
    open_sheet("Heron", day);
    auto* line = find<DayLine>("dayLine");
    const double middle = line->height() * 0.38;
    auto at = [&](double minute) { return QPoint(qRound(line->x_of(minute)), qRound(middle)); };
    const Minute idle = session().job().use.idle;
    // The last phase ends at 200 min: its end is dragged an hour on.
    QTest::mousePress(line, Qt::LeftButton, {}, at(200));
    QTest::mouseMove(line, at(260));
    QTest::mouseRelease(line, Qt::LeftButton, {}, at(260));
    settled();
    EXPECT_NEAR(session().job().use.idle.value(), idle.value() + 60, 4);
    // In what is left a lit phase is drawn.
    const auto phases = session().job().use.day.size();
    QTest::mousePress(line, Qt::LeftButton, {}, at(600));
    QTest::mouseMove(line, at(640));
    QTest::mouseRelease(line, Qt::LeftButton, {}, at(640));
    settled();
    ASSERT_EQ(session().job().use.day.size(), phases + 2);
    EXPECT_EQ(session().job().use.day[phases].kind, job::PhaseKind::stored);
    EXPECT_EQ(session().job().use.day.back().kind, job::PhaseKind::ignited);
    EXPECT_NEAR(session().job().use.day.back().lasts.value(), 40, 6);
}

TEST_F(PowerTest, SparesFollowAndManyDaysCanBeStopped) {
    open_sheet("Heron", spares);
    ASSERT_TRUE(says("sparesSaid", "Bring 2 sets"));
    EXPECT_TRUE(find<QLabel>("sparesSaid")->text().contains("to charge one"));
    find<QCheckBox>("spareNights")->click();
    find<QSpinBox>("spareDays")->setValue(3);
    EXPECT_TRUE(says("sparesSaid", "Bring 6 sets"));
    auto* live = find<QPushButton>("liveDays");
    QTest::mouseClick(live, Qt::LeftButton);
    EXPECT_EQ(live->text(), "Stop");
    EXPECT_TRUE(find<QProgressBar>("daysProgress")->isVisible());
    QTest::mouseClick(live, Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return live->text() != "Stop"; }, 20000));
    QTest::mouseClick(live, Qt::LeftButton);
    EXPECT_TRUE(says("daysSaid", "1000 days from full cells"));
    EXPECT_TRUE(find<QLabel>("daysSaid")->text().contains("clash flash"));
}

TEST_F(PowerTest, TheSectionFollowsTheCursorOfTheDischarge) {
    open_sheet("Heron", discharge);
    auto* time = find<QSlider>("dischargeTime");
    ASSERT_TRUE(QTest::qWaitFor([&] { return time->maximum() > 100; }, 20000));
    const Selection& selection = window_->job_view()->selection();
    time->setValue(0);
    // Each moment is solved beside the page; the newest that is asked for is shown.
    const auto moment_of = [&](int sample) {
        const auto* was = selection.options().moment.get();
        time->setValue(sample);
        EXPECT_TRUE(QTest::qWaitFor(
            [&] {
                const auto* now = selection.options().moment.get();
                return now && now != was && session().asking().is_idle();
            },
            20000));
        return selection.options().moment->board.value();
    };
    const double early = moment_of(10), late = moment_of(time->maximum());
    EXPECT_LT(late, early - 0.5);
    EXPECT_TRUE(find<QLabel>("sectionMoment")->isVisible());
    EXPECT_FALSE(find<QComboBox>("sectionLook")->isVisible());
    EXPECT_TRUE(find<QLabel>("dischargeMarks")->text().contains("first crackle"));
    // By keyboard on the curve, and by a click into it.
    auto* curve = find<DrawingView>("dischargeCurve");
    curve->setFocus();
    QTest::keyClick(curve, Qt::Key_Left);
    EXPECT_EQ(time->value(), time->maximum() - 1);
    QTest::mouseClick(curve, Qt::LeftButton, {}, curve->rect().center());
    EXPECT_LT(time->value(), time->maximum() * 3 / 4);
    find<QCheckBox>("dischargeClock")->click();
    EXPECT_FALSE(find<QWidget>("dischargeSteps")->accessibleDescription().isEmpty());
    // Away from the sheet the section shows look and charge again.
    keys(Qt::Key_PageDown, Qt::ControlModifier);
    EXPECT_FALSE(selection.options().moment);
    EXPECT_TRUE(find<QComboBox>("sectionLook")->isVisible());
}

TEST_F(PowerTest, TheCurveIsCopiedAndSavedAsAPicture) {
    open_sheet("Heron", discharge);
    auto* view = find<DrawingView>("dischargeCurve");
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return find<QSlider>("dischargeTime")->maximum() > 100; }, 20000));
    QApplication::clipboard()->clear();
    QTest::mouseClick(view, Qt::LeftButton, {}, view->rect().center());
    QTest::keyClick(view, Qt::Key_C, Qt::ControlModifier);
    const QImage copied = QApplication::clipboard()->image();
    ASSERT_EQ(copied.size(), view->size() * 2);
    std::set<QRgb> colours;
    for (int x = 0; x < copied.width(); x += 3)
        for (int y = 0; y < copied.height(); y += 3)
            colours.insert(copied.pixel(x, y));
    EXPECT_GT(colours.size(), 10u);
    const QTemporaryDir folder;
    for (const char* ending : {"svg", "pdf", "png"}) {
        const QString path = folder.filePath(QString("curve.") + ending);
        ASSERT_TRUE(view->save(path));
        EXPECT_GT(QFileInfo(path).size(), 2000) << ending;
    }
    QFile svg(folder.filePath("curve.svg"));
    ASSERT_TRUE(svg.open(QIODevice::ReadOnly));
    EXPECT_TRUE(svg.readAll().contains("<path")); // lines, no picture of pixels
    EXPECT_FALSE(view->save(folder.filePath("curve.txt")));
}

TEST_F(PowerTest, ColdAndWarmStandSideBySide) {
    open_sheet("Heron", cold);
    ASSERT_TRUE(says("coldSaid", "of the charge are left cold"));
    auto* both = find<QWidget>("coldAndWarm");
    const QString said = both->accessibleDescription();
    EXPECT_TRUE(said.contains(QString::fromUtf8("at 0"))) << said.toStdString();
    auto* at = find<QLineEdit>("coldAt");
    at->setFocus();
    at->selectAll();
    QTest::keyClicks(at, "-90");
    QTest::keyClick(at, Qt::Key_Return);
    EXPECT_TRUE(at->accessibleDescription().contains("out of range"));
    at->selectAll();
    QTest::keyClicks(at, "-10");
    QTest::keyClick(at, Qt::Key_Return);
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return both->accessibleDescription().contains(QString::fromUtf8("−10")); }, 20000));
}

TEST_F(PowerTest, OptionsAreWorkedOutChosenInThePictureAndBuilt) {
    open_sheet("Dunlin", options);
    auto* work = find<QPushButton>("workOptions");
    QTest::mouseClick(work, Qt::LeftButton);
    EXPECT_EQ(work->text(), "Stop");
    ASSERT_TRUE(says("optionsSaid", "options fit"));
    auto* table = find<Table>("optionsTable");
    ASSERT_GT(table->rows().rowCount(), 3);
    EXPECT_EQ(table->text(0, 0), "as it is built");
    auto* build = find<QPushButton>("buildOption");
    EXPECT_FALSE(build->isEnabled());
    find<QCheckBox>("optionsBest")->click();
    const int best = table->rows().rowCount();
    find<QCheckBox>("optionsBest")->click();
    EXPECT_LE(best, table->rows().rowCount());
    go(table, 1, 0);
    ASSERT_TRUE(build->isEnabled());
    const QString clean = table->text(1, 1);
    QTest::mouseClick(build, Qt::LeftButton);
    settled();
    EXPECT_NE(session().job(), demo("dunlin"));
    EXPECT_EQ(gauge(4), clean); // it is what the option said
    EXPECT_FALSE(build->isEnabled());
    EXPECT_TRUE(says("optionsSaid", "before the last edit"));
    // Chosen in the picture as well.
    QTest::mouseClick(work, Qt::LeftButton);
    ASSERT_TRUE(says("optionsSaid", "options fit"));
    auto* picture = find<DrawingView>("choicesPicture");
    const auto* drawn = dynamic_cast<const ChoicesDrawing*>(picture->drawing().get());
    ASSERT_TRUE(drawn);
    QTest::mouseClick(picture, Qt::LeftButton, {},
                      drawn->point_of(0, picture->frame(), picture->lettering()).toPoint());
    EXPECT_GE(table->currentIndex().row(), 0);
}

TEST_F(PowerTest, WhyRanksTheInputsAndJumpsToTheirParts) {
    open_sheet("Heron", why);
    auto* tenths = find<QWidget>("tenths");
    auto ready = [&](const QString& word) {
        return QTest::qWaitFor([&] { return tenths->accessibleDescription().contains(word); },
                               20000);
    };
    ASSERT_TRUE(ready("capacity of B1 +"));
    EXPECT_TRUE(tenths->accessibleDescription().startsWith("volts that sound needs"));
    EXPECT_TRUE(tenths->accessibleDescription().contains("bay contacts of B1"));
    EXPECT_GT(find<Table>("whySheetParts")->rows().rowCount(), 3);
    auto* figure = find<QComboBox>("whyOf");
    figure->setFocus();
    while (figure->currentData().toString() != "storage")
        QTest::keyClick(figure, Qt::Key_Down);
    ASSERT_TRUE(ready("temperature"));
    EXPECT_TRUE(find<QLabel>("whyFigure")->text().contains("storage"));
    QTest::mouseClick(tenths, Qt::LeftButton, {}, QPoint(30, 200));
}

TEST_F(PowerTest, AChargerIsChosenAndItsFaultsAreFindings) {
    open_sheet("Heron", charging);
    ASSERT_TRUE(says("chargingSaid", "4.20 V a cell"));
    auto* charger = find<QComboBox>("charger");
    choose_item(charger, charger->findData("charger.jack-1a"));
    settled();
    EXPECT_TRUE(says("chargingFaults", "there is no port"));
    EXPECT_TRUE(find("finding:charge.no-port"));
    EXPECT_TRUE(find<QLabel>("storageSaid")->text().contains("deep sleep"));
    EXPECT_TRUE(find<QLabel>("cautionsSaid")->text().contains("licensed people"));
    while (session().can_undo()) // a step for every charger that the keys went over
        keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:charge.no-port"));
}

} // namespace
} // namespace conductus::app
