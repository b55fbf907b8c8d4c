// SPDX-License-Identifier: GPL-3.0-or-later
// The one table: what is typed changes one value, keys walk as in a spreadsheet, what is refused
// stays where it was typed.
#include "app/table/table.h"

#include <QClipboard>
#include <QHeaderView>
#include <QTabBar>
#include <nlohmann/json.hpp>

#include "core/job/places.h"
#include "files/job_json.h"
#include "window.h"

namespace conductus::app {
namespace {

using nlohmann::json;

json document_of(const job::Job& job) { return json::parse(files::job_text(job)); }

class TableTest : public Window {
protected:
    /// Every sheet of every station, one after the other.
    template <class Visit>
    void every_sheet(Visit visit) {
        for (int station = 1; station <= 5; ++station) {
            keys(static_cast<Qt::Key>(Qt::Key_0 + station), Qt::AltModifier);
            const auto bars = window_->findChildren<QTabBar*>();
            const auto bar =
                std::find_if(bars.begin(), bars.end(), [](QTabBar* b) { return b->isVisible(); });
            const int sheets = bar == bars.end() ? 1 : (*bar)->count();
            for (int i = 0; i < sheets; ++i) {
                if (bar != bars.end()) (*bar)->setCurrentIndex(i);
                settled();
                for (Table* table : window_->findChildren<Table*>())
                    if (table->isVisible()) visit(*table);
            }
        }
    }
    Table* heron_table(const QString& name, Qt::Key station, int sheet) {
        open_card("Heron");
        keys(station, Qt::AltModifier);
        for (int i = 0; i < sheet; ++i)
            keys(Qt::Key_PageDown, Qt::ControlModifier);
        settled();
        return find<Table>(name);
    }
};

TEST_F(TableTest, WhatIsShownTypedBackChangesNothingInAnyTable) {
    int typed = 0;
    for (const char* name : {"Heron", "Bittern", "Avocet", "Curlew", "Dunlin", "Godwit"}) {
        open_card(name);
        std::set<QString> tables;
        const JobPtr before = session().job_ptr();
        every_sheet([&](Table& table) {
            TableModel& rows = table.rows();
            tables.insert(table.objectName());
            for (int row = 0; row < rows.rowCount(); ++row)
                for (int column = 0; column < rows.columnCount(); ++column) {
                    const QModelIndex cell = rows.index(row, column);
                    if (!rows.is_typed(cell)) continue;
                    for (const QString& text : {cell.data().toString(), rows.typed_text(cell)}) {
                        rows.setData(cell, text, Qt::EditRole);
                        ASSERT_EQ(session().job_ptr(), before)
                            << name << " " << table.objectName().toStdString() << " " << row << " "
                            << column << " " << text.toStdString();
                        ++typed;
                    }
                }
        });
        EXPECT_GE(tables.size(), 25u) << name;
        keys(Qt::Key_0, Qt::AltModifier);
        window_->show_shelf();
    }
    EXPECT_GT(typed, 3000);
}

TEST_F(TableTest, OneCellTypedIsOneValueOfTheDocument) {
    int typed = 0, refused = 0;
    for (const char* name : {"Heron", "Bittern"}) {
        open_card(name);
        every_sheet([&](Table& table) {
            TableModel& rows = table.rows();
            for (int row = 0; row < std::min(rows.source_count(), 3); ++row)
                for (int column = 0; column < rows.columnCount(); ++column) {
                    const QModelIndex cell = rows.index(row, column);
                    if (!rows.is_typed(cell)) continue;
                    const QString was = rows.typed_text(cell);
                    const Column& c = rows.column(column);
                    const json before = document_of(session().job());
                    QString next;
                    bool number = false;
                    const double value = was.toDouble(&number);
                    if (c.choices)
                        for (const QString& choice : c.choices(rows.source_row(row)))
                            if (choice != was) next = choice;
                    if (next.isEmpty()) next = number ? QString::number(value + 0.5) : was + "9";
                    if (number && (c.title == "pixels" || c.title == "first" || c.title == "last"))
                        next = QString::number(value - 1);
                    const JobPtr held = session().job_ptr();
                    rows.setData(cell, next, Qt::EditRole);
                    if (session().job_ptr() == held) {
                        // Refused: it stays there, and is given back.
                        EXPECT_EQ(cell.data().toString(), next) << table.objectName().toStdString();
                        EXPECT_FALSE(rows.refusal().isEmpty());
                        EXPECT_TRUE(rows.give_back(cell));
                        ++refused;
                        continue;
                    }
                    json patch;
                    for (const json& change : json::diff(before, document_of(session().job())))
                        if (change["path"] != "/version") patch.push_back(change);
                    const std::string at = table.objectName().toStdString() + " " + patch.dump();
                    std::set<std::string> lists;
                    for (const json& change : patch) {
                        const std::string path = change["path"];
                        const json::json_pointer place(path);
                        // A name takes along what names it; a boundary is of two sections; what
                        // rides on a carrier is said by each part.
                        const bool named = before.contains(place) && before[place].is_string() &&
                                           QString::fromStdString(before[place]).startsWith(was);
                        const bool follows =
                            path.starts_with("/hilt/sections") ||
                            path.starts_with("/hilt/joints") || path.ends_with("/carrier") ||
                            path.starts_with("/use/") || path.starts_with("/as_found/on") ||
                            path.ends_with("/measured") ||
                            path.starts_with("/hilt/fasteners") || // with the socket it is in
                            path.find("/strips") != std::string::npos ||
                            path.find("/goes_into") != std::string::npos ||
                            path.ends_with("/connector") || // with where else the blade goes
                            path.starts_with("/mated");
                        EXPECT_TRUE(patch.size() == 1 || named || follows) << at;
                    }
                    EXPECT_GE(patch.size(), 1u) << at;
                    ++typed;
                    session().undo();
                    ASSERT_EQ(document_of(session().job()), before);
                }
        });
        window_->show_shelf();
    }
    EXPECT_GT(typed, 150);
    EXPECT_GT(refused, 5);
}

TEST_F(TableTest, WhatIsBeingTypedStaysWhenAnAnswerComes) {
    auto* table = heron_table("wires", Qt::Key_5, 0);
    ASSERT_TRUE(table);
    const int column = 6; // its length
    table->setFocus();
    table->setCurrentIndex(table->model()->index(0, column));
    keys(Qt::Key_F2);
    auto* line = table->findChild<QLineEdit*>();
    ASSERT_TRUE(line);
    QTest::keyClicks(line, "61.");
    table->refresh(); // as an answer does that fills other cells
    QTest::keyClicks(line, "25");
    EXPECT_EQ(line->text(), "61.25");
    QTest::keyClick(line, Qt::Key_Return);
    turn();
    EXPECT_EQ(session().job().wires[0].length, Millimetre(61.25));
}

TEST_F(TableTest, AnotherCellOfAnotherRowKeepsItsDigits) {
    auto* table = heron_table("wires", Qt::Key_5, 0);
    retype(table, 0, 6, "60.27");
    retype(table, 0, 8, "12.6");
    retype(table, 3, 5, "violet");
    settled();
    EXPECT_EQ(session().job().wires[0].length, Millimetre(60.27));
    EXPECT_EQ(session().job().wires[0].turn, Degree(12.6));
    EXPECT_EQ(session().job().wires[3].colour, "violet");
    // A wire that is renamed keeps what was measured of it, and its tick.
    ASSERT_TRUE(session().edit("measured", job::write_at("/wires/1/resistance_Ohm", "0.011")));
    ASSERT_TRUE(session().edit("soldered", job::set_soldered("W2", true)));
    retype(table, 1, 0, "W20");
    settled();
    EXPECT_EQ(session().job().wires[1].ref, "W20");
    EXPECT_EQ(session().job().wires[1].resistance, Ohm(0.011));
    EXPECT_EQ(session().job().soldered, std::vector<job::Soldered>{{"W20"}});
    EXPECT_EQ(session().undo_label(), "Wire W2, wire");
}

TEST_F(TableTest, TabAndEnterWalkOnAndAddRows) {
    auto* table = heron_table("joints", Qt::Key_2, 1);
    const auto joints = session().job().hilt.joints.size();
    // Tab goes on past the last row into the empty one; Enter goes down, to where the Tabs began.
    go(table, static_cast<int>(joints), 0);
    const auto type_on = [&](const QString& text, Qt::Key then) {
        keys(static_cast<Qt::Key>(text[0].toUpper().unicode()));
        auto* field = QApplication::focusWidget();
        QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(field, text);
        QTest::keyClick(field, then);
        turn();
    };
    type_on("ring", Qt::Key_Tab);
    EXPECT_EQ(table->currentIndex().column(), 1);
    type_on("34", Qt::Key_Tab);
    type_on("push fit", Qt::Key_Return);
    settled();
    ASSERT_EQ(session().job().hilt.joints.size(), joints + 1)
        << table->refusal()->text().toStdString();
    EXPECT_EQ(session().job().hilt.joints.back().kind, job::JointKind::push_fit);
    EXPECT_EQ(table->currentIndex(), table->model()->index(static_cast<int>(joints) + 1, 0));
    // Enter opens a cell; Esc gives back what stood there.
    go(table, 0, 1);
    keys(Qt::Key_Return);
    auto* field = QApplication::focusWidget();
    ASSERT_NE(field, table);
    QTest::keyClicks(field, "99");
    QTest::keyClick(field, Qt::Key_Escape);
    turn();
    EXPECT_EQ(table->text(0, 1), "34");
    // Shift+Tab goes back.
    go(table, 1, 1);
    keys(Qt::Key_Backtab, Qt::ShiftModifier);
    EXPECT_EQ(table->currentIndex(), table->model()->index(1, 0));
}

TEST_F(TableTest, BlocksAreCutPastedAndFilledDown) {
    auto* table = heron_table("wires", Qt::Key_5, 0);
    const job::Job before = session().job();
    // A block: what is copied is what is read.
    go(table, 0, 4);
    for (int i = 0; i < 2; ++i)
        keys(Qt::Key_Down, Qt::ShiftModifier);
    keys(Qt::Key_Right, Qt::ShiftModifier);
    keys(Qt::Key_C, Qt::ControlModifier);
    EXPECT_EQ(QApplication::clipboard()->text().count('\n'), 2);
    EXPECT_EQ(QApplication::clipboard()->text().count('\t'), 3);
    keys(Qt::Key_V, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), before) << "pasted where it came from";
    // Fill down: the first of the block into the others, in one step of the undo list.
    retype(table, 0, 5, "orange");
    go(table, 0, 5);
    for (int i = 0; i < 3; ++i)
        keys(Qt::Key_Down, Qt::ShiftModifier);
    keys(Qt::Key_D, Qt::ControlModifier);
    settled();
    for (std::size_t i = 0; i < 4; ++i)
        EXPECT_EQ(session().job().wires[i].colour, "orange");
    keys(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NE(session().job().wires[1].colour, "orange");
    EXPECT_EQ(session().job().wires[0].colour, "orange");
    // One cell into many.
    QApplication::clipboard()->setText("brown");
    go(table, 1, 5);
    keys(Qt::Key_Down, Qt::ShiftModifier);
    keys(Qt::Key_V, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job().wires[1].colour, "brown");
    EXPECT_EQ(session().job().wires[2].colour, "brown");
    // Delete clears; in the name it takes the row out; Ctrl+X takes along.
    go(table, 1, 5);
    keys(Qt::Key_X, Qt::ControlModifier);
    settled();
    EXPECT_EQ(QApplication::clipboard()->text(), "brown");
    EXPECT_TRUE(session().job().wires[1].colour.empty());
    EXPECT_EQ(table->text(1, 5), "red") << "the usual colour is shown";
    go(table, 1, 0);
    keys(Qt::Key_Delete);
    settled();
    EXPECT_EQ(session().job().wires.size(), before.wires.size() - 1);
    go(table, 1, 3);
    keys(Qt::Key_Delete, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job().wires.size(), before.wires.size() - 2);
}

TEST_F(TableTest, ANewRowWaitsUntilItIsWhole) {
    auto* table = heron_table("wires", Qt::Key_5, 0);
    const job::Job before = session().job();
    const int last = static_cast<int>(before.wires.size());
    retype(table, last, 1, "U1.l2");
    EXPECT_EQ(session().job(), before) << "a wire with one end is none";
    EXPECT_TRUE(table->refusal()->text().contains("not whole yet"));
    EXPECT_EQ(table->text(last, 1), "U1.l2");
    // Undo and redo elsewhere do not take it away.
    retype(table, 0, 5, "violet");
    keys(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(table->text(last, 1), "U1.l2");
    retype(table, last, 2, "P1.minus");
    settled();
    ASSERT_EQ(session().job().wires.size(), before.wires.size() + 1);
    EXPECT_EQ(session().job().wires.back().from, "U1.l2");
    EXPECT_FALSE(table->refusal()->isVisible());
    EXPECT_EQ(session().job().wires.back().ref, "W14") << "the next that is free";
    // A draft is given back as a whole.
    retype(table, last + 1, 1, "U9.bat");
    go(table, last + 1, 2);
    keys(Qt::Key_Escape);
    EXPECT_EQ(table->text(last + 1, 1), "");
    EXPECT_FALSE(table->refusal()->isVisible());
}

TEST_F(TableTest, WhatWasRefusedStaysWithItsRowWhateverComesBefore) {
    auto* table = heron_table("wires", Qt::Key_5, 0);
    retype(table, 4, 4, "thick");
    ASSERT_EQ(table->text(4, 4), "thick");
    const QString ref = table->rows().row_name(4);
    // A row before it goes, and comes again by undo.
    ASSERT_TRUE(session().edit("out", job::take_out_at("/wires/1")));
    EXPECT_EQ(table->text(3, 4), "thick");
    EXPECT_NE(table->text(4, 4), "thick") << "the next row is not asked to take it";
    EXPECT_EQ(table->rows().row_name(3), ref);
    session().undo();
    EXPECT_EQ(table->text(4, 4), "thick");
    // Another cell of another row leaves it; its own row can be renamed under it.
    retype(table, 4, 0, "W40");
    EXPECT_EQ(table->text(4, 4), "thick");
    EXPECT_TRUE(table->refusal()->text().startsWith("W40, AWG"))
        << table->refusal()->text().toStdString();
    // It goes with its row.
    ASSERT_TRUE(session().edit("out", job::take_out_at("/wires/4")));
    for (int row = 0; row < table->rows().rowCount(); ++row)
        EXPECT_NE(table->text(row, 4), "thick");
    EXPECT_FALSE(table->refusal()->isVisible());
}

TEST_F(TableTest, ALongPasteWithAMistakeInItIsTakenButForThat) {
    auto* table = heron_table("effects", Qt::Key_3, 3);
    QStringList lines;
    for (int i = 0; i < 120; ++i)
        lines << QString("spark %1\t%2\t0\t%3")
                     .arg(i)
                     .arg(i == 70 ? "fireworks" : "clash")
                     .arg(i % 90 + 5);
    const auto before = session().job().effects.size();
    go(table, table->rows().rowCount() - 1, 0);
    QApplication::clipboard()->setText(lines.join('\n'));
    keys(Qt::Key_V, Qt::ControlModifier);
    settled();
    ASSERT_EQ(session().job().effects.size(), before + 120);
    EXPECT_EQ(session().job().effects[before + 119].name, "spark 119");
    EXPECT_EQ(table->text(static_cast<int>(before) + 70, 1), "fireworks");
    EXPECT_TRUE(table->refusal()->text().startsWith("spark 70, kind"))
        << table->refusal()->text().toStdString();
    // One step of the undo list.
    keys(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(session().job().effects.size(), before);
}

TEST_F(TableTest, RowsAreSortedByTheirHeadersAndTheHarnessStaysAsItIs) {
    open_card("Bittern");
    keys(Qt::Key_3, Qt::AltModifier);
    keys(Qt::Key_PageDown, Qt::ControlModifier);
    settled();
    auto* table = find<Table>("loads");
    const auto click = [&](int column) {
        QHeaderView* header = table->horizontalHeader();
        QTest::mouseClick(header->viewport(), Qt::LeftButton, {},
                          QPoint(header->sectionViewportPosition(column) + 8, 8));
    };
    const QString first = table->text(0, 0);
    const auto amps = [&](int row) {
        return session()
            .plan()
            ->lights.loads[static_cast<std::size_t>(table->rows().source_row(row))]
            .most;
    };
    ASSERT_GE(table->rows().rowCount(), 2);
    click(5);
    EXPECT_EQ(table->rows().ordered_by(), std::pair(5, false));
    EXPECT_TRUE(table->model()->headerData(5, Qt::Horizontal).toString().endsWith(QChar(0x2191)));
    for (int row = 1; row < table->rows().rowCount(); ++row)
        EXPECT_LE(amps(row - 1), amps(row));
    click(5);
    for (int row = 1; row < table->rows().rowCount(); ++row)
        EXPECT_GE(amps(row - 1), amps(row));
    click(5);
    EXPECT_EQ(table->text(0, 0), first) << "and as they come again";
}

} // namespace
} // namespace conductus::app
