// SPDX-License-Identifier: GPL-3.0-or-later
// The Harness station, driven by keyboard: from parts to the cut list, and back from a mistake.
#include <QComboBox>
#include <QFileDialog>
#include <QMenu>
#include <QPushButton>
#include <QTabBar>
#include <QTimer>

#include "app/shell/rows_table.h"
#include "app/stations/harness/wires_sheet.h"
#include "core/job/lookup.h"
#include "window.h"

namespace conductus::app {
namespace {

class HarnessTest : public Window {
protected:
    enum Sheet { wires, gauges, connectors, data, soldering, built };
    void open_harness(const QString& job) {
        open_card(job);
        keys(Qt::Key_5, Qt::AltModifier);
        settled();
        ASSERT_TRUE(find<LanesView>("lanes")->isVisible());
    }
    void turn_to(int sheet) {
        auto* tabs = find<QTabBar>("harnessSheets");
        while (tabs->currentIndex() != sheet)
            keys(tabs->currentIndex() < sheet ? Qt::Key_PageDown : Qt::Key_PageUp,
                 Qt::ControlModifier);
    }
    void press(const QString& button) {
        tab_to(button);
        keys(Qt::Key_Space);
        settled();
    }
    /// With arrow keys to a cell, and another text into it.
    void retype(const QString& table, int row, int column, const QString& text) {
        tab_to(table);
        auto* t = find<QTableWidget>(table);
        for (int i = 0; i < 60 && t->currentRow() != row; ++i)
            keys(t->currentRow() < row ? Qt::Key_Down : Qt::Key_Up);
        for (int i = 0; i < 20 && t->currentColumn() != column; ++i)
            keys(t->currentColumn() < column ? Qt::Key_Right : Qt::Key_Left);
        ASSERT_EQ(t->currentRow(), row);
        ASSERT_EQ(t->currentColumn(), column);
        keys(Qt::Key_F2);
        type(text);
        keys(Qt::Key_Return);
        QTest::qWait(1); // an editor hands over what it holds a turn later
        settled();
    }
    const job::Wire* data_wire() {
        for (const job::Wire& w : session().job().wires)
            if (w.role == job::Role::data) return &w;
        return nullptr;
    }
};

TEST_F(HarnessTest, HeronIsWiredFromPartsToCutListByKeyboard) {
    open_harness("Heron");
    // Nothing is wired: row after row goes.
    tab_to("wires");
    for (int i = 0; i < 11; ++i) {
        keys(Qt::Key_Home, Qt::ControlModifier);
        keys(Qt::Key_Delete);
        settled();
    }
    ASSERT_TRUE(session().job().wires.empty());
    EXPECT_TRUE(find<QLabel>("wiresSaid")->text().contains("Nothing is wired yet"));
    press("wireMissing");
    ASSERT_EQ(session().job().wires.size(), 11u);
    EXPECT_FALSE(find<QPushButton>("wireMissing")->isVisible());
    EXPECT_FALSE(session().job().wires[0].length) << "lengths follow from the routes";
    EXPECT_FALSE(session().plan()->trouble);

    // The board is set as it is wired; then the data wire goes to another pad.
    turn_to(data);
    press("configureAsWired");
    ASSERT_EQ(session().job().lines.size(), 1u);
    EXPECT_EQ(session().job().lines[0].pad, "U1.d1");
    turn_to(wires);
    const auto row = static_cast<int>(data_wire() - session().job().wires.data());
    const bool from = data_wire()->from == "U1.d1";
    retype("wires", row, from ? 1 : 2, "U1.d2");
    ASSERT_TRUE(window_->findChild<QWidget*>("finding:config.line-elsewhere"));
    const job::Job wrong = session().job();

    // Either side can follow the other.
    press("fix:config.line-elsewhere");
    EXPECT_EQ(session().job().lines[0].pad, "U1.d2");
    EXPECT_EQ(session().job().wires, wrong.wires);
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:config.line-elsewhere"));
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    ASSERT_EQ(session().job(), wrong);
    press("other:config.line-elsewhere");
    EXPECT_EQ(session().job().lines, wrong.lines);
    EXPECT_EQ(from ? data_wire()->from : data_wire()->to, "U1.d1");
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:config.line-elsewhere"));

    // The cut list, through the button's menu and the file dialog.
    const QString path = QString::fromStdString((folder_ / "cut.csv").string());
    QTimer::singleShot(300, [&] {
        auto* menu = find<QMenu>("harnessMenu");
        QTest::keyClick(menu, Qt::Key_Down);
        QTimer::singleShot(300, [&] {
            QFileDialog* dialog = nullptr;
            for (QWidget* w : QApplication::topLevelWidgets())
                if (auto* d = qobject_cast<QFileDialog*>(w); d && d->isVisible()) dialog = d;
            ASSERT_TRUE(dialog);
            auto* name = dialog->findChild<QLineEdit*>("fileNameEdit");
            name->setFocus();
            name->selectAll();
            QTest::keyClicks(name, path);
            QTest::keyClick(name, Qt::Key_Return);
        });
        QTest::keyClick(menu, Qt::Key_Return);
    });
    tab_to("writeHarness");
    keys(Qt::Key_Space);
    ASSERT_TRUE(QTest::qWaitFor([&] { return QFile::exists(path); }, 5000));
    QFile list(path);
    ASSERT_TRUE(list.open(QIODevice::ReadOnly));
    EXPECT_EQ(list.readAll().count('\n'), 12);
}

TEST_F(HarnessTest, AWireIsChosenInTheLanesTheTableAndTheFindings) {
    open_harness("Heron");
    auto* lanes = find<LanesView>("lanes");
    lanes->repaint();
    const Selection& selection = window_->job_view()->selection();
    for (const LaneSpot& spot : lanes->spots()) {
        if (spot.ref != "W3") continue;
        QTest::mouseClick(lanes, Qt::LeftButton, {}, spot.box.center().toPoint());
    }
    EXPECT_EQ(selection.options().chosen, "W3");
    auto* table = find<RowsTable>("wires");
    EXPECT_EQ(table->item(table->currentRow(), 0)->text(), "W3");
    lanes->setFocus();
    keys(Qt::Key_Down);
    EXPECT_NE(selection.options().chosen, "W3");
    // Filtered and in another order it is the same harness.
    const job::Job before = session().job();
    find<QLineEdit>("wiresFilter")->setText("data");
    int shown = 0;
    for (int row = 0; row + 1 < table->rowCount(); ++row)
        shown += !table->isRowHidden(row);
    EXPECT_EQ(shown, 1);
    find<QLineEdit>("wiresFilter")->clear();
    auto* sort = find<QComboBox>("wiresSort");
    sort->setCurrentIndex(1);
    emit sort->activated(1);
    EXPECT_EQ(table->item(0, 0)->text(), "W11"); // the longest
    retype("wires", 0, 5, "violet");
    EXPECT_EQ(job::find_ref(session().job().wires, "W11")->colour, "violet");
    EXPECT_EQ(session().job().wires[0].ref, before.wires[0].ref);
    // Nonsense is said beside the table, and kept to be mended.
    retype("wires", 0, 4, "thick");
    EXPECT_TRUE(find<QLabel>("wiresRefusal")->isVisible());
    EXPECT_EQ(table->item(0, 4)->text(), "thick");
}

TEST_F(HarnessTest, GaugesAreTakenForABudget) {
    open_harness("Heron");
    turn_to(gauges);
    auto* budget = find<QLineEdit>("wireBudget");
    tab_to("wireBudget");
    budget->selectAll();
    type("none");
    keys(Qt::Key_Return);
    EXPECT_EQ(session().job().wires[0].gauge, 20);
    budget->selectAll();
    type("200");
    keys(Qt::Key_Return);
    EXPECT_TRUE(find<QLabel>("gaugesSaid")->text().contains("copper"));
    const double before = session().plan()->harness.drop.value();
    press("takeGauges");
    EXPECT_GT(session().plan()->harness.drop.value(), before);
    EXPECT_LE(session().plan()->harness.drop.value(), 0.2);
    EXPECT_FALSE(find<QPushButton>("takeGauges")->isEnabled());
}

TEST_F(HarnessTest, TicksAndWhatWasBuiltAreKept) {
    open_harness("Heron");
    turn_to(soldering);
    tab_to("solderOrder");
    auto* order = find<QTableWidget>("solderOrder");
    order->setCurrentCell(0, 0);
    const std::string wire = order->item(0, 1)->text().toStdString();
    keys(Qt::Key_Space);
    settled();
    ASSERT_EQ(session().job().soldered.size(), 1u);
    EXPECT_EQ(session().job().soldered[0].wire, wire);
    EXPECT_EQ(in_book("Heron").soldered, session().job().soldered);
    EXPECT_TRUE(find<QLabel>("solderSaid")->text().startsWith("1 of 11"));
    turn_to(built);
    press("recordBuilt");
    EXPECT_EQ(session().job().built, session().job().wires);
    EXPECT_TRUE(find<QLabel>("builtSaid")->text().contains("as it was planned"));
    retype("builtWires", 2, 4, "28");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return find<QLabel>("builtSaid")->text().contains("peak", Qt::CaseInsensitive); },
        8000))
        << find<QLabel>("builtSaid")->text().toStdString();
    press("planAsBuilt");
    EXPECT_EQ(session().job().wires[2].gauge, 28);
}

TEST_F(HarnessTest, PinsMeasuredByThemselvesShareUnevenly) {
    open_harness("Bittern");
    turn_to(connectors);
    auto* pins = find<RowsTable>("measuredPins");
    const job::Part* p1 = job::find_ref(session().job().parts, "P1");
    ASSERT_TRUE(p1);
    retype("measuredPins", 0, 0, "P1");
    // A row without a pin is refused in words.
    EXPECT_TRUE(pins->refusal()->isVisible());
    retype("measuredPins", 0, 1, "plus1");
    EXPECT_EQ(job::find_ref(session().job().parts, "P1")->measured.pins.size(), 1u);
    EXPECT_FALSE(pins->refusal()->isVisible());
}

} // namespace
} // namespace conductus::app
