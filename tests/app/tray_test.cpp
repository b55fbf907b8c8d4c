// SPDX-License-Identifier: GPL-3.0-or-later
// Parts in, out and instead, in the window: by keyboard from a blank job, and every kind of part.
#include <QDragEnterEvent>
#include <QLineEdit>
#include <QMimeData>
#include <QTabBar>

#include "app/shell/drawing_view.h"
#include "app/shell/section_pane.h"
#include "app/stations/hilt/tray_sheet.h"
#include "core/catalogue/kinds.h"
#include "core/harness/derive.h"
#include "core/job/lookup.h"
#include "window.h"

namespace conductus::app {
namespace {

class TrayTest : public Window {
protected:
    void open_tray() {
        keys(Qt::Key_2, Qt::AltModifier);
        while (find<QTabBar>("hiltSheets")->currentIndex() != 5)
            keys(Qt::Key_PageDown, Qt::ControlModifier);
        settled();
    }
};

TEST_F(TrayTest, ABlankJobIsBuiltByWordsAndEnter) {
    keys(Qt::Key_N, Qt::ControlModifier);
    type("By Hand");
    keys(Qt::Key_Return);
    settled();
    open_tray();
    for (const char* words : {"18650 power", "slide 10 A", "board.standard", "speaker.28-8ohm",
                              "momentary-12", "5 pins", "strip.rgb-144"})
        fit(words);
    const job::Job& job = session().job();
    ASSERT_EQ(job.parts.size(), 6u);
    ASSERT_EQ(job.blades.size(), 1u);
    EXPECT_EQ(job.blades[0].connector, "P1");
    EXPECT_TRUE(find<QLabel>("traySaid")->text().contains("is fitted"));
    auto* wire = find<QPushButton>("trayWire");
    ASSERT_TRUE(wire->isVisible());
    EXPECT_TRUE(wire->text().contains("wires"));
    tab_to("trayWire");
    keys(Qt::Key_Space);
    settled();
    EXPECT_TRUE(harness::missing_wires(session().job(), session().parts()).empty());
    EXPECT_FALSE(wire->isVisible());
    // All of it is undone, a step at a time, to the blank job.
    for (int i = 0; i < 8; ++i)
        keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_TRUE(session().job().parts.empty());
    EXPECT_TRUE(session().job().blades.empty());
    EXPECT_TRUE(session().job().wires.empty());
}

TEST_F(TrayTest, EveryKindIsFoundFittedReplacedTakenOutAndUndone) {
    open_card("Heron");
    open_tray();
    const job::Job heron = session().job();
    auto* kind = find<QComboBox>("trayKind");
    auto* table = find<Table>("trayParts");
    int kinds = 0;
    for (const catalogue::Kind& k : catalogue::kinds()) {
        choose_item(kind, kind->findData(QString::fromUtf8(k.key.data(), qsizetype(k.key.size()))));
        const int rows = table->rows().rowCount();
        if (rows == 0) continue; // no part of the catalogue is of this kind
        ++kinds;
        go(table, 0, 0);
        keys(Qt::Key_Return);
        settled();
        if (session().job() == heron) {
            // Refused, and told: an adapter for a cell that is not there.
            EXPECT_FALSE(find<QLabel>("traySaid")->text().isEmpty()) << std::string(k.key);
            continue;
        }
        if (session().job().parts.size() > heron.parts.size()) {
            const std::string ref = session().job().parts.back().ref;
            EXPECT_EQ(window_->job_view()->selection().options().chosen.toStdString(), ref);
            // Another one of the kind in its place, and both gone again.
            if (rows > 1) {
                go(table, rows - 1, 0);
                QTest::mouseClick(find<QPushButton>("trayReplace"), Qt::LeftButton);
                settled();
                const auto* part = job::find_ref(session().job().parts, ref);
                ASSERT_TRUE(part);
                EXPECT_EQ(part->type, table->rows().row_name(rows - 1).toStdString());
                keys(Qt::Key_Z, Qt::ControlModifier);
            }
            window_->job_view()->selection().choose(QString::fromStdString(ref));
            QTest::mouseClick(find<QPushButton>("trayRemove"), Qt::LeftButton);
            settled();
            EXPECT_FALSE(job::find_ref(session().job().parts, ref));
            keys(Qt::Key_Z, Qt::ControlModifier);
        }
        keys(Qt::Key_Z, Qt::ControlModifier);
        settled();
        EXPECT_EQ(session().job(), heron) << std::string(k.key);
    }
    EXPECT_GT(kinds, 18);
}

TEST_F(TrayTest, ATypeThatIsLetGoOnTheSectionIsFittedThere) {
    open_card("Heron");
    auto* section = window_->findChild<SectionView*>("section");
    section->grab();
    QPointF over;
    for (const HitBox& spot : section->boxes())
        if (spot.ref == "U1") over = section->to_widget(spot.box.center());
    QMimeData mime;
    mime.setData(dragged_type, "fuse.resettable-5a");
    const std::size_t before = session().job().parts.size();
    QDragEnterEvent enter(over.toPoint(), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(section, &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDragMoveEvent move(over.toPoint(), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(section, &move);
    EXPECT_EQ(session().job().parts.size(), before) << "only shown";
    QDropEvent drop(over, Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(section, &drop);
    settled();
    ASSERT_EQ(session().job().parts.size(), before + 1);
    const job::Part& fuse = session().job().parts.back();
    EXPECT_EQ(fuse.type, "fuse.resettable-5a");
    const job::Part& board = *job::find_ref(session().job().parts, "U1");
    EXPECT_NEAR(fuse.at.value(), board.at.value() + 20, 12) << "about the middle of the board";
    QMimeData other;
    other.setText("something else");
    QDragEnterEvent foreign(over.toPoint(), Qt::CopyAction, &other, Qt::LeftButton, {});
    foreign.ignore();
    QApplication::sendEvent(section, &foreign);
    EXPECT_FALSE(foreign.isAccepted());
}

TEST_F(TrayTest, ThePartIsDrawnToScaleAndItsPlaceIsTold) {
    open_card("Dunlin"); // a short hilt, where little is free
    open_tray();
    auto* words = find<QLineEdit>("trayWords");
    words->setFocus();
    type("cell 26650");
    auto* table = find<Table>("trayParts");
    ASSERT_GE(table->rows().rowCount(), 1);
    go(table, 0, 0);
    EXPECT_TRUE(table->text(0, 3).contains("no free place")) << table->text(0, 3).toStdString();
    auto* drawing = find<DrawingView>("trayDrawing");
    EXPECT_TRUE(drawing->accessibleDescription().contains("mAh"));
    words->setFocus();
    words->selectAll();
    type("no such thing");
    EXPECT_EQ(table->rows().rowCount(), 0);
    EXPECT_FALSE(find<QPushButton>("trayFit")->isEnabled());
}

} // namespace
} // namespace conductus::app
