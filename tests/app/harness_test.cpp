// SPDX-License-Identifier: GPL-3.0-or-later
// The Harness station, driven by keyboard: from parts to the cut list, and back from a mistake.
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QTabBar>

#include "app/shell/section_pane.h"
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
        app::retype(find<Table>(table), row, column, text);
        settled();
    }
    /// Gives the next file dialog that opens a path.
    static void answer_dialog(const QString& path) {
        once_shown<QFileDialog>([path](QFileDialog* dialog) {
            auto* name = dialog->findChild<QLineEdit*>("fileNameEdit");
            name->setFocus();
            name->selectAll();
            QTest::keyClicks(name, path);
            // Where the folder is still being read, Enter is asked for again.
            auto* again = new QTimer(dialog);
            QObject::connect(again, &QTimer::timeout, dialog, [dialog, name] {
                if (dialog->isVisible()) QTest::keyClick(name, Qt::Key_Return);
            });
            again->start(1000);
            QTest::keyClick(name, Qt::Key_Return);
        });
    }
    /// A menu or dialog that closed leaves the focus nowhere where there is no window manager.
    void back() {
        window_->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
        if (!QApplication::focusWidget()) find<QWidget>("wires")->setFocus();
    }
    /// The entry of the Write menu, by keyboard, to a file.
    void write(int entry, const QString& path) {
        once_shown<QMenu>([entry, path](QMenu* menu) {
            EXPECT_EQ(menu->objectName(), "harnessMenu");
            for (int i = 0; i <= entry; ++i)
                QTest::keyClick(menu, Qt::Key_Down);
            answer_dialog(path);
            QTest::keyClick(menu, Qt::Key_Return);
        });
        tab_to("writeHarness");
        keys(Qt::Key_Space);
        ASSERT_TRUE(QTest::qWaitFor([&] { return QFile::exists(path); }, 60000));
        back();
    }
    void read_wires(const QString& text) {
        const QString path = QString::fromStdString((folder_ / "in.csv").string());
        write_file(folder_ / "in.csv", text.toStdString());
        answer_dialog(path);
        tab_to("readWires");
        keys(Qt::Key_Space);
        back();
        settled();
    }
    /// An entry of the table's own menu on a row.
    void from_menu(int row, const QString& entry) {
        auto* table = find<Table>("wires");
        go(table, row, 0);
        QContextMenuEvent by_key(QContextMenuEvent::Keyboard, {}, QCursor::pos());
        QApplication::sendEvent(table, &by_key);
        auto* menu = find<QMenu>("wiresMenu");
        for (QAction* action : menu->actions())
            if (action->text() == entry) {
                action->trigger();
                menu->close();
                back();
                settled();
                return;
            }
        menu->close();
        FAIL() << "no entry " << entry.toStdString();
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
    for (int i = 0; i < 13; ++i) {
        keys(Qt::Key_Home, Qt::ControlModifier);
        keys(Qt::Key_Delete);
        settled();
    }
    ASSERT_TRUE(session().job().wires.empty());
    EXPECT_TRUE(find<QLabel>("wiresSaid")->text().contains("Nothing is wired yet"));
    press("wireMissing");
    ASSERT_EQ(session().job().wires.size(), 13u);
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
    write(0, path);
    QFile list(path);
    ASSERT_TRUE(list.open(QIODevice::ReadOnly));
    EXPECT_EQ(list.readAll().count('\n'), 14);
}

TEST_F(HarnessTest, AWireIsChosenInTheLanesTheTableAndTheFindings) {
    open_harness("Heron");
    auto* lanes = find<LanesView>("lanes");
    lanes->repaint();
    const Selection& selection = window_->job_view()->selection();
    // A copy: what is pointed at is painted anew, with new spots.
    const auto place = [lanes](const QString& ref) {
        for (const HitBox& spot : lanes->boxes())
            if (spot.ref == ref) {
                // Further down than there is room for, it is scrolled to.
                const QPoint at = spot.box.center().toPoint();
                for (QWidget* p = lanes->parentWidget(); p; p = p->parentWidget())
                    if (auto* scroll = qobject_cast<QScrollArea*>(p))
                        scroll->ensureVisible(at.x(), at.y());
                turn();
                return at;
            }
        return QPoint();
    };
    QTest::mouseClick(lanes, Qt::LeftButton, {}, place("W3"));
    EXPECT_EQ(selection.options().chosen, "W3");
    // Hovering lights a wire here and above, and what it ends on.
    auto* section = find<SectionView>("section");
    const QImage before_hover = section->grab().toImage();
    QTest::mouseMove(lanes, place("W8"));
    EXPECT_EQ(selection.options().lit, QStringList{"W8"});
    EXPECT_NE(section->grab().toImage(), before_hover);
    QTest::mouseMove(lanes, QPoint(3, lanes->height() - 3));
    EXPECT_TRUE(selection.options().lit.isEmpty());
    auto* table = find<Table>("wires");
    EXPECT_EQ(table->text(table->currentIndex().row(), 0), "W3");
    lanes->setFocus();
    keys(Qt::Key_Down);
    EXPECT_NE(selection.options().chosen, "W3");
    // Filtered and in another order it is the same harness.
    const job::Job before = session().job();
    find<QLineEdit>("wiresFilter")->setText("data");
    EXPECT_EQ(table->rows().rowCount(), 1 + 1) << "and the empty row";
    find<QLineEdit>("wiresFilter")->clear();
    auto* sort = find<QComboBox>("wiresSort");
    sort->setFocus();
    keys(Qt::Key_Down);
    const auto& rows = session().plan()->harness.wires;
    const auto longest = std::max_element(rows.begin(), rows.end(),
                                          [](auto& a, auto& b) { return a.length < b.length; });
    const std::string ref = longest->ref;
    EXPECT_EQ(table->text(0, 0).toStdString(), ref);
    retype("wires", 0, 5, "violet");
    EXPECT_EQ(job::find_ref(session().job().wires, ref)->colour, "violet");
    EXPECT_EQ(session().job().wires[0].ref, before.wires[0].ref);
    // Nonsense is said beside the table, and kept to be mended.
    retype("wires", 0, 4, "thick");
    EXPECT_TRUE(find<QLabel>("wiresRefusal")->isVisible());
    EXPECT_EQ(table->text(0, 4), "thick");
}

TEST_F(HarnessTest, EverythingIsWrittenFromTheMenu) {
    open_harness("Bittern");
    auto written = [&](int entry, const char* file) {
        const QString path = QString::fromStdString((folder_ / file).string());
        write(entry, path);
        EXPECT_TRUE(find<QLabel>("wiresSaid")->text().contains(file));
        QFile f(path);
        EXPECT_TRUE(f.open(QIODevice::ReadOnly));
        return f.readAll();
    };
    EXPECT_EQ(written(0, "cut.csv").count('\n'), 19);
    const QByteArray labels = written(1, "labels.svg");
    EXPECT_TRUE(labels.contains("W18") && labels.contains("</svg>"));
    for (const int entry : {2, 3}) {
        EXPECT_TRUE(written(entry, entry == 2 ? "lanes.svg" : "faces.svg").contains("<svg"));
        EXPECT_TRUE(written(entry, entry == 2 ? "lanes.pdf" : "faces.pdf").startsWith("%PDF"));
    }
    const QByteArray netlist = written(4, "worst.cir");
    EXPECT_TRUE(netlist.contains("w3_wire"));
    EXPECT_TRUE(netlist.trimmed().endsWith(".end"));
    EXPECT_TRUE(written(5, "set.json").contains("conductus-config"));
    EXPECT_FALSE(written(5, "board.txt").contains("{"));
}

TEST_F(HarnessTest, ATableIsTakenInOrRefusedWithEveryPlace) {
    open_harness("Heron");
    const job::Job before = session().job();
    read_wires("ref,from,to\nW1,B1.plsu,K1.in\nW2,K1.out,U9.bat\n");
    const QString said = find<QLabel>("wiresSaid")->text();
    EXPECT_TRUE(said.contains("line 2, column 4") && said.contains("line 3, column 11"))
        << said.toStdString();
    EXPECT_EQ(session().job(), before) << "nothing is taken where something is wrong";
    read_wires("from;to;gauge_awg;length_mm\nB1.plus;K1.in;20;60\nK1.out;U1.bat;20;\n");
    ASSERT_EQ(session().job().wires.size(), 2u);
    EXPECT_EQ(session().job().wires[0].length, Millimetre(60));
    EXPECT_FALSE(session().job().wires[1].length);
    EXPECT_TRUE(find<QPushButton>("wireMissing")->isVisible());
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), before);
    // Rows of a spreadsheet go in where the cursor is.
    auto* table = find<Table>("wires");
    tab_to("wires");
    go(table, table->rows().rowCount() - 1, 0);
    QApplication::clipboard()->setText("W20\tU1.bat\tP1.plus\tsupply\t22\tbrown\n");
    keys(Qt::Key_V, Qt::ControlModifier);
    settled();
    const job::Wire* w20 = job::find_ref(session().job().wires, "W20");
    ASSERT_TRUE(w20);
    EXPECT_EQ(w20->colour, "brown");
    EXPECT_EQ(session().job().wires.size(), before.wires.size() + 1);
    // And out again: what is copied is what is read.
    go(table, 0, 0);
    table->selectAll();
    keys(Qt::Key_C, Qt::ControlModifier);
    EXPECT_TRUE(QApplication::clipboard()->text().contains("W20\tU1.bat\tP1.plus"));
}

TEST_F(HarnessTest, AWireIsDoubledAndLedThroughAFuse) {
    open_harness("Heron");
    from_menu(2, "Double W3");
    ASSERT_EQ(session().job().wires.size(), 14u);
    EXPECT_EQ(session().job().wires[3].to, session().job().wires[2].to);
    const auto& h = session().plan()->harness;
    EXPECT_NEAR(h.wire("W3")->amps.value(), h.wire(session().job().wires[3].ref)->amps.value(),
                1e-9);
    (void)session().edit("fuse", [](job::Job& j) {
        job::Part fuse;
        fuse.ref = "F1", fuse.type = "fuse.blade-7a5", fuse.at = Millimetre(156);
        j.parts.push_back(fuse);
    });
    settled();
    EXPECT_TRUE(window_->findChild<QWidget*>("finding:harness.not-wired"));
    from_menu(0, "Lead W1 through F1");
    EXPECT_EQ(session().job().wires[0].to, "F1.a");
    EXPECT_EQ(session().job().wires[1].from, "F1.b");
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:harness.not-wired"));
    // Too short for its way: said, and cut again as its route asks.
    retype("wires", 0, 6, "12");
    EXPECT_TRUE(window_->findChild<QWidget*>("finding:wire.too-short"));
    press("fix:wire.too-short");
    EXPECT_FALSE(session().job().wires[0].length);
}

TEST_F(HarnessTest, ADockShowsWhatItsContactsCarry) {
    open_harness("Heron");
    (void)session().edit("dock", [](job::Job& j) { j = docked_heron(); });
    settled();
    turn_to(connectors);
    const auto& pins = session().plan()->harness.pins;
    EXPECT_TRUE(std::any_of(pins.begin(), pins.end(), [](const harness::PinLoad& l) {
        return l.ref == "DK1" && l.pin == "plus1" && l.wire == "W3" && l.amps.value() > 1;
    }));
    EXPECT_TRUE(find<QWidget>("faces")->accessibleDescription().contains("DK1"));
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
    ASSERT_TRUE(QTest::qWaitFor([&] { return find<QPushButton>("takeGauges")->isEnabled(); }));
    EXPECT_TRUE(find<QLabel>("gaugesSaid")->text().contains("copper"));
    const double before = session().plan()->harness.drop.value();
    press("takeGauges");
    EXPECT_GT(session().plan()->harness.drop.value(), before);
    EXPECT_LE(session().plan()->harness.drop.value(), 0.2);
    EXPECT_TRUE(QTest::qWaitFor([&] { return !find<QPushButton>("takeGauges")->isEnabled(); }));
}

TEST_F(HarnessTest, TicksAndWhatWasBuiltAreKept) {
    open_harness("Heron");
    turn_to(soldering);
    tab_to("solderOrder");
    auto* order = find<Table>("solderOrder");
    go(order, 0, 0);
    const std::string wire = order->text(0, 1).toStdString();
    keys(Qt::Key_Space);
    settled();
    ASSERT_EQ(session().job().soldered.size(), 1u);
    EXPECT_EQ(session().job().soldered[0].wire, wire);
    EXPECT_EQ(in_book("Heron").soldered, session().job().soldered);
    EXPECT_TRUE(find<QLabel>("solderSaid")->text().startsWith("1 of 13"));
    turn_to(built);
    press("recordBuilt");
    EXPECT_EQ(session().job().built, session().job().wires);
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return find<QLabel>("builtSaid")->text().contains("as it was planned"); }, 5000));
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
    auto* pins = find<Table>("measuredPins");
    const job::Part* p1 = job::find_ref(session().job().parts, "P1");
    ASSERT_TRUE(p1);
    ASSERT_EQ(pins->text(0, 1), "plus1");
    retype("measuredPins", 0, 3, "loose");
    EXPECT_TRUE(pins->refusal()->text().contains("P1.plus1"));
    retype("measuredPins", 0, 3, "80");
    const auto& measured = job::find_ref(session().job().parts, "P1")->measured.pins;
    ASSERT_EQ(measured.size(), 1u);
    EXPECT_EQ(measured[0].resistance, Ohm(0.08));
    EXPECT_FALSE(pins->refusal()->isVisible());
    // Nothing is typed: it is as the catalogue says.
    go(pins, 0, 3);
    keys(Qt::Key_Delete);
    EXPECT_TRUE(job::find_ref(session().job().parts, "P1")->measured.pins.empty());
}

} // namespace
} // namespace conductus::app
