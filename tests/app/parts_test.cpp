// SPDX-License-Identifier: GPL-3.0-or-later
// The parts of the shop in the window: own parts made, changed, measured, taken in and out.
#include "app/parts/parts_page.h"

#include <QClipboard>
#include <QPushButton>

#include "app/parts/measure_page.h"
#include "app/parts/part_form.h"
#include "app/session/words.h"
#include "app/shell/drawing_view.h"
#include "app/window.h"
#include "core/catalogue/kinds.h"
#include "core/job/part_form.h"
#include "files/catalogue_json.h"
#include "files/readings_csv.h"
#include "support/bench_strip.h"

namespace conductus::app {
namespace {

class PartsPlace : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        keys(Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
        turn();
        ASSERT_TRUE(page()->isVisible());
    }
    PartsPage* page() { return window_->findChild<PartsPage*>(); }
    PartForm* form() { return window_->findChild<PartForm*>(); }
    Table* list() { return find<Table>("partsTable"); }
    Table* fields() { return find<Table>("formFields"); }
    const catalogue::PartType& part(const std::string& id) {
        const auto* type = page()->shelf().parts().find(id);
        EXPECT_TRUE(type) << id;
        static const catalogue::PartType none;
        return type ? *type : none;
    }
    void look_for(const QString& words) {
        keys(Qt::Key_F, Qt::ControlModifier);
        type(words);
        keys(Qt::Key_Return);
        turn();
    }
    /// A copy of the part that these words find, as its form stands open.
    std::string copy(const QString& words) {
        look_for(words);
        keys(Qt::Key_Insert);
        turn();
        EXPECT_TRUE(form()->isVisible());
        return form()->id();
    }
    int row(const QString& name) {
        for (int r = 0; r < fields()->rows().source_count(); ++r)
            if (fields()->text(r, 0) == name) return r;
        ADD_FAILURE() << name.toStdString() << " is no field";
        return 0;
    }
};

TEST_F(PartsPlace, ShowsEveryKindWithWhatDecidesAndWhereItIsUsed) {
    EXPECT_EQ(list()->rows().source_count(), static_cast<int>(parts().ids().size()));
    look_for("18650 power");
    EXPECT_EQ(list()->text(0, 1), "18650 power cell, 3000 mAh");
    EXPECT_EQ(list()->text(0, 4), "shipped");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !list()->text(0, 5).isEmpty(); }, 5000));
    EXPECT_TRUE(find<QLabel>("partsFacts")->text().contains("Heron"));
    auto* kind = find<QComboBox>("partsKind");
    find<QLineEdit>("partsWords")->clear();
    for (int i = 1; i < kind->count(); ++i) {
        choose_item(kind, i);
        emit kind->activated(i);
        EXPECT_GT(list()->rows().source_count(), 0) << kind->currentText().toStdString();
    }
    // A shipped part is read, not typed in.
    choose_item(kind, 0);
    emit kind->activated(0);
    look_for("18650 power");
    keys(Qt::Key_Return);
    turn();
    ASSERT_TRUE(form()->isVisible());
    EXPECT_FALSE(fields()->rows().is_typed(fields()->model()->index(row("capacity"), 1)));
    keys(Qt::Key_Escape);
    turn();
    EXPECT_TRUE(list()->isVisible());
}

TEST_F(PartsPlace, ABoardOfOnesOwnIsTypedFromTheNearest) {
    const std::string id = copy("standard sound board, 4 pads");
    EXPECT_EQ(id, "own.board-1");
    EXPECT_EQ(fields()->text(fields()->currentIndex().row(), 0), "name") << "its name comes first";
    retype(fields(), row("name"), 1, "board of the second batch");
    retype(fields(), row("a pad carries"), 1, "7500 mA");
    retype(fields(), row("asleep"), 1, "45");
    retype(fields(), row("pixels on one data line"), 1, "600");
    retype(fields(), row("body: length"), 1, "1.6 in");
    retype(fields(), row("its card is drawn at"), 1, "end");
    retype(fields(), row("terminal 7"), 1, "acc");
    find<QPushButton>("formMore_terminal")->click();
    turn();
    const auto& type = part(id);
    const auto& board = std::get<catalogue::Board>(type.figures);
    EXPECT_EQ(type.name, "board of the second batch");
    EXPECT_EQ(board.pad_rating, Ampere(7.5));
    EXPECT_NEAR(board.sleep.value(), 45e-6, 1e-12) << "in the unit that stands there";
    EXPECT_EQ(board.max_pixels, 600);
    EXPECT_NEAR(type.body.length.value(), 40.64, 1e-9);
    EXPECT_EQ(board.card, catalogue::Board::Edge::end);
    EXPECT_EQ(type.terminals[6], "acc");
    EXPECT_EQ(type.terminals.size(), 13u);
    // All of it typed at one sitting is one version, and it is in the book.
    auto book = shop::Book::open(book_, shop::Access::read_only);
    ASSERT_EQ(book->versions_of(id)->size(), 1u);
    EXPECT_EQ(*files::parse_part(book->own_parts()->front().definition, "part"), type);
    // What can not be is refused in its line, and what was typed stays.
    retype(fields(), row("efficiency of its amplifier"), 1, "12");
    EXPECT_TRUE(fields()->refusal()->text().contains("between 0.1 and 1"));
    go(fields(), row("efficiency of its amplifier"), 1);
    keys(Qt::Key_Escape);
    turn();
    EXPECT_TRUE(fields()->refusal()->isHidden());
    EXPECT_TRUE(form()->isVisible());
    // Back to the beginning, and forward.
    for (int i = 0; i < 8; ++i)
        keys(Qt::Key_Z, Qt::ControlModifier);
    catalogue::PartType copied = *parts().find("board.standard");
    copied.id = id;
    copied.name += ", own";
    EXPECT_EQ(part(id), copied);
    for (int i = 0; i < 8; ++i)
        keys(Qt::Key_Y, Qt::ControlModifier);
    EXPECT_EQ(part(id).terminals.size(), 13u);
}

TEST_F(PartsPlace, OwnPartsAreFittedAndAJobSaysThatTheyChanged) {
    const std::string id = copy("18650 power");
    retype(fields(), row("name"), 1, "18650 cell, drawer three");
    retype(fields(), row("capacity"), 1, "2850");
    keys(Qt::Key_Escape);
    turn();
    open_card("Heron");
    session().change("fit", job::fit_type("B1", id));
    settled();
    const QString first = gauge(3);
    window_->show_shelf();
    turn();
    // Another sitting: a new version, and the job keeps the one it was planned with.
    keys(Qt::Key_P, Qt::ControlModifier | Qt::ShiftModifier);
    turn();
    look_for("drawer three");
    EXPECT_EQ(list()->text(0, 4), "own, 1");
    keys(Qt::Key_Return);
    turn();
    retype(fields(), row("capacity"), 1, "2000");
    keys(Qt::Key_Escape);
    turn();
    EXPECT_EQ(list()->text(0, 4), "own, 2");
    ASSERT_TRUE(QTest::qWaitFor([&] { return list()->text(0, 5) == "1"; }, 5000));
    open_card("Heron");
    EXPECT_EQ(gauge(3), first);
    const auto& findings = session().plan()->findings;
    EXPECT_TRUE(std::any_of(findings.begin(), findings.end(),
                            [](const auto& f) { return f.id == "part.changed"; }));
}

TEST_F(PartsPlace, VersionsTellWhatChangedAndAreGoneBackTo) {
    const std::string id = copy("fuse, 7.5 A");
    retype(fields(), row("hold"), 1, "6");
    keys(Qt::Key_Escape);
    look_for("fuse");
    keys(Qt::Key_Return);
    turn();
    ASSERT_EQ(form()->id(), id);
    // Somebody looks at another part between: this is another sitting.
    keys(Qt::Key_Escape);
    look_for("18650 power");
    keys(Qt::Key_Return);
    turn();
    keys(Qt::Key_Escape);
    look_for("fuse, 7.5");
    keys(Qt::Key_Return);
    turn();
    ASSERT_EQ(form()->id(), id);
    retype(fields(), row("hold"), 1, "5");
    auto* versions = find<Table>("formVersions");
    ASSERT_EQ(versions->rows().source_count(), 2);
    EXPECT_EQ(versions->text(0, 2).simplified(), "hold: 5 A, was 6 A");
    versions->setFocus();
    versions->choose(1);
    keys(Qt::Key_Return);
    turn();
    EXPECT_EQ(std::get<catalogue::Fuse>(part(id).figures).hold, Ampere(6));
    keys(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(std::get<catalogue::Fuse>(part(id).figures).hold, Ampere(5));
}

TEST_F(PartsPlace, DiesAreAddedAndTakenOut) {
    const std::string id = copy("red LED, 3 mm");
    find<QPushButton>("formMore_die")->click();
    turn();
    ASSERT_EQ(std::get<catalogue::Led>(part(id).figures).dies.size(), 2u);
    retype(fields(), row("die 2: colour"), 1, "G");
    EXPECT_EQ(std::get<catalogue::Led>(part(id).figures).dies[1].colour, 'G');
    go(fields(), row("die 2: colour"), 1);
    auto* out = find<QPushButton>("formTakeOut");
    ASSERT_TRUE(out->isVisible());
    EXPECT_EQ(out->text(), "Take die 2 out");
    out->click();
    turn();
    EXPECT_EQ(std::get<catalogue::Led>(part(id).figures).dies.size(), 1u);
    // The last one is not taken out: an LED has one.
    go(fields(), row("die 1: colour"), 1);
    out->click();
    turn();
    EXPECT_EQ(std::get<catalogue::Led>(part(id).figures).dies.size(), 1u);
    EXPECT_TRUE(find<QLabel>("formSaid")->text().contains("one to four dies"));
}

TEST_F(PartsPlace, GoOutAndComeInAsJsonAndCsv) {
    const std::string cell = copy("18650 power");
    retype(fields(), row("name"), 1, "=cell, \"third\" drawer");
    keys(Qt::Key_Escape);
    const std::string board = copy("small sound board");
    keys(Qt::Key_Escape);
    turn();
    find<QLineEdit>("partsWords")->clear();
    const catalogue::PartType was = part(cell), other = part(board);
    for (const char* name : {"parts.json", "parts.csv"}) {
        const auto file = folder_ / name;
        page()->write_out(file);
        EXPECT_TRUE(find<QLabel>("partsSaid")->text().startsWith("2 parts are in")) << name;
        ASSERT_TRUE(page()->shelf().drop(cell));
        ASSERT_TRUE(page()->shelf().drop(board));
        EXPECT_FALSE(page()->shelf().parts().find(cell));
        page()->take_in(file);
        EXPECT_EQ(part(cell), was) << name;
        EXPECT_EQ(part(board), other) << name;
    }
    // A file that is wrong says where, and nothing of it comes in.
    std::string text = read_file(folder_ / "parts.csv");
    const auto at = text.find("cell,own.cell-1");
    ASSERT_NE(at, std::string::npos);
    text.replace(at, 4, "sell");
    write_file(folder_ / "wrong.csv", text);
    page()->take_in(folder_ / "wrong.csv");
    EXPECT_TRUE(find<QLabel>("partsSaid")->text().contains("'sell' is not a kind of part"));
}

TEST_F(PartsPlace, DeleteTakesAPartOffTheShelfAndCtrlZPutsItBack) {
    const std::string id = copy("fuse, 7.5 A");
    const catalogue::PartType was = part(id);
    keys(Qt::Key_Escape);
    look_for("fuse, 7.5");
    ASSERT_EQ(list()->text(0, 4), "own, 1");
    keys(Qt::Key_Delete);
    turn();
    EXPECT_FALSE(page()->shelf().is_own(id));
    EXPECT_EQ(list()->text(0, 4), "shipped");
    EXPECT_TRUE(find<QLabel>("partsSaid")->text().contains("Ctrl+Z"));
    keys(Qt::Key_Z, Qt::ControlModifier);
    turn();
    EXPECT_TRUE(page()->shelf().is_own(id));
    EXPECT_EQ(part(id), was);
    // A shipped part stays.
    look_for("18650 power");
    keys(Qt::Key_Delete);
    turn();
    EXPECT_EQ(list()->text(0, 1), "18650 power cell, 3000 mAh");
}

TEST_F(PartsPlace, ACellIsMeasuredByKeyboardAloneAsInASpreadsheet) {
    look_for("18650 power");
    tab_to("partsMeasure");
    keys(Qt::Key_Space);
    turn();
    auto* readings = find<Table>("measureReadings");
    ASSERT_EQ(QApplication::focusWidget(), readings) << "it is ready to be typed in";
    // Key by key: the first letter opens the field, Tab goes on, Enter to the next line.
    const auto type_in = [&](const QString& text) {
        for (const QChar c : text)
            QTest::keyClick(QApplication::focusWidget(), c.toLatin1());
    };
    keys(Qt::Key_Right);
    for (const auto& [charge, volts, amps] : {std::tuple{"80", "3.980", "0"},
                                              {"80", "3.939", "1"},
                                              {"80", "3.777", "5"},
                                              {"10", "3.420", "0"},
                                              {"10", "3.340", "1"},
                                              {"10", "3.020", "5"}}) {
        type_in(charge);
        keys(Qt::Key_Tab);
        turn();
        type_in(volts);
        keys(Qt::Key_Tab);
        turn();
        type_in(amps);
        keys(Qt::Key_Return);
        turn();
    }
    EXPECT_EQ(readings->rows().source_count(), 6);
    EXPECT_TRUE(readings->refusal()->isHidden()) << readings->refusal()->text().toStdString();
    auto* found = find<Table>("measureFound");
    ASSERT_TRUE(QTest::qWaitFor([&] { return found->rows().source_count() >= 3; }, 5000))
        << find<QLabel>("measureSaid")->text().toStdString();
    tab_to("measureMake");
    keys(Qt::Key_Space);
    turn();
    const auto& cell = std::get<catalogue::Cell>(part("own.cell-1").figures);
    EXPECT_NEAR(cell.resistance.value(), 0.0407, 0.001);
    // Twice as much at 10 %, which a runtime reckons with.
    const auto at = std::find_if(cell.by_charge.begin(), cell.by_charge.end(),
                                 [](const auto& b) { return b.charge == 0.1; });
    ASSERT_NE(at, cell.by_charge.end());
    EXPECT_NEAR(at->times, 0.08 / 0.0407, 0.05);
}

TEST_F(PartsPlace, ATableFromASpreadsheetGoesIntoTheColumnsInSight) {
    look_for("18650 power");
    find<QPushButton>("partsMeasure")->click();
    turn();
    auto* readings = find<Table>("measureReadings");
    QApplication::clipboard()->setText("0\t80\t3.980\t0\n10\t80\t3.939\t1\n");
    keys(Qt::Key_V, Qt::ControlModifier);
    turn();
    ASSERT_EQ(readings->rows().source_count(), 2);
    EXPECT_TRUE(readings->refusal()->isHidden()) << readings->refusal()->text().toStdString();
    const QStringList wanted{"10", "80", "3.939", "1"};
    QStringList there;
    for (int c = 0; c < readings->model()->columnCount(); ++c)
        if (!readings->isColumnHidden(c)) there << readings->text(1, c);
    EXPECT_EQ(there, wanted);
    // Copied, it is the same table again.
    readings->selectAll();
    keys(Qt::Key_C, Qt::ControlModifier);
    EXPECT_TRUE(QApplication::clipboard()->text().startsWith("0\t80\t3.98\t0\n10\t80\t3.939\t1"));
}

TEST_F(PartsPlace, NonsenseIsRefusedInItsFieldAndKept) {
    const std::string id = copy("standard sound board, 4 pads");
    const catalogue::PartType was = part(id);
    // One field of each kind: a length, amps, volts, a share, a count, a word, a yes, a terminal.
    for (const auto& [name, nonsense] : {std::pair{"body: length", "long"},
                                         {"a pad carries", "6 V"},
                                         {"resets at", "1,2,3"},
                                         {"efficiency of its amplifier", "-1"},
                                         {"pixels on one data line", "4.5"},
                                         {"its card is drawn at", "nowhere"},
                                         {"its sound rail is boosted", "perhaps"},
                                         {"terminal 3", "l 1"},
                                         {"name", ""}}) {
        retype(fields(), row(name), 1, nonsense);
        EXPECT_FALSE(fields()->refusal()->isHidden()) << name << ": " << nonsense;
        EXPECT_EQ(part(id), was) << name;
        EXPECT_EQ(fields()->text(row(name), 1), nonsense) << name << ": what was typed is kept";
        go(fields(), row(name), 1);
        keys(Qt::Key_Escape);
        turn();
        EXPECT_TRUE(fields()->refusal()->isHidden()) << name;
        ASSERT_TRUE(form()->isVisible());
    }
    // Readings, and the pixels of a strip.
    keys(Qt::Key_Escape);
    turn();
    look_for("strip.rgb-144");
    find<QPushButton>("partsMeasure")->click();
    turn();
    auto* readings = find<Table>("measureReadings");
    retype(readings, 0, 0, "purple");
    EXPECT_FALSE(readings->refusal()->isHidden());
    EXPECT_TRUE(readings->refusal()->text().contains("red")) << "the words there are";
    auto* pixels = find<QWidget>("measurePixels")->findChild<QLineEdit*>();
    pixels->setFocus();
    QTest::keyClicks(pixels, "117.5");
    QTest::keyClick(pixels, Qt::Key_Return);
    EXPECT_TRUE(pixels->accessibleDescription().contains("whole number"));
    EXPECT_EQ(pixels->text(), "117.5");
}

TEST_F(PartsPlace, AContactIsMeasuredByTypedReadings) {
    look_for("slide switch, 3 A");
    find<QPushButton>("partsMeasure")->click();
    turn();
    auto* readings = find<Table>("measureReadings");
    ASSERT_TRUE(readings->isVisible());
    const auto type_row = [&](int r, const char* volts, const char* amps) {
        retype(readings, r, 3, volts);
        retype(readings, r, 5, amps);
    };
    type_row(0, "20 mV", "1");
    type_row(1, "0.0401", "2");
    type_row(2, "60.2 mV", "3 A");
    auto* found = find<Table>("measureFound");
    ASSERT_TRUE(QTest::qWaitFor([&] { return found->rows().source_count() == 1; }, 5000));
    EXPECT_EQ(found->text(0, 0), "resistance");
    EXPECT_TRUE(found->text(0, 1).startsWith("20")) << found->text(0, 1).toStdString();
    EXPECT_EQ(found->text(0, 3), "the readings");
    EXPECT_TRUE(find<QLabel>("measureNotes")->text().contains("Residual"));
    find<QPushButton>("measureMake")->click();
    turn();
    ASSERT_TRUE(form()->isVisible());
    EXPECT_EQ(form()->id(), "own.kill-1");
    EXPECT_NEAR(std::get<catalogue::Kill>(part("own.kill-1").figures).contact.value(), 0.0201,
                0.0002);
    // The readings stay with the part.
    find<QPushButton>("formMeasure")->click();
    turn();
    EXPECT_EQ(readings->rows().source_count(), 3);
    EXPECT_EQ(find<QPushButton>("measureMake")->text(), "Write it into the part");
    // Readings that contradict each other are said, and nothing is made of them.
    retype(readings, 1, 3, "0.4");
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return !find<QLabel>("measureSaid")->text().isEmpty(); }, 5000));
    EXPECT_FALSE(find<QPushButton>("measureMake")->isEnabled());
    keys(Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return found->rows().source_count() == 1; }, 5000));
}

TEST_F(PartsPlace, AStripIsMeasuredFromATableAndBringsItsPixels) {
    // Readings of a strip that there is, at its foot and tip, in three colours and white.
    look_for("strip.rgb-144");
    find<QPushButton>("partsMeasure")->click();
    turn();
    auto* page = window_->findChild<MeasurePage*>();
    write_file(folder_ / "strip.csv", files::readings_csv(read_strip()));
    page->read_file(folder_ / "strip.csv");
    auto* found = find<Table>("measureFound");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return found->rows().source_count() > 0 ||
                   !find<QLabel>("measureSaid")->text().isEmpty();
        },
        10000));
    ASSERT_GT(found->rows().source_count(), 0) << find<QLabel>("measureSaid")->text().toStdString();
    find<QPushButton>("measureMake")->click();
    turn();
    EXPECT_EQ(form()->id(), "own.strip-1");
    const auto& strip = std::get<catalogue::Strip>(part("own.strip-1").figures);
    EXPECT_EQ(strip.pixel, "own.pixel-1");
    EXPECT_NEAR(strip.rail.value(), 0.19, 0.01);
    const auto& pixel = std::get<catalogue::Pixel>(part("own.pixel-1").figures);
    EXPECT_NEAR(pixel.channels[0].full.value(), 0.0122, 0.0002);
}

} // namespace
} // namespace conductus::app
