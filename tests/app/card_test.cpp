// SPDX-License-Identifier: GPL-3.0-or-later
// Presets found and asked for, the card and motion, by keyboard in the real window.
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTabBar>
#include <filesystem>
#include <fstream>

#include "app/stations/handling/card_sheet.h"
#include "app/stations/handling/commands_sheet.h"
#include "app/stations/handling/motion_sheet.h"
#include "app/stations/handling/preset_changes_sheet.h"
#include "app/stations/handling/rehearse_sheet.h"
#include "app/window.h"
#include "core/handling/tour.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/trigger.h"
#include "core/motion/felt.h"
#include "support/made_up_card.h"

namespace conductus::app {
namespace {

namespace fs = std::filesystem;

enum Sheet { map, commands, states, rehearse, presets, card, motion };

class HandlingStation : public Window {
protected:
    void at(Sheet sheet, const char* job = "Heron") {
        open_card(job);
        keys(Qt::Key_6, Qt::AltModifier);
        turn();
        turn_to("handlingSheets", sheet);
        settled();
    }
    void check(const fs::path& folder) {
        auto* field = find<QComboBox>("cardFolder")->lineEdit();
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, QString::fromStdString(folder.string()));
        QTest::keyClick(field, Qt::Key_Return);
        ASSERT_TRUE(QTest::qWaitFor([&] { return !find<QPushButton>("cardStop")->isVisible(); }));
        turn();
    }
    void look(const char* combo, int index) {
        auto* view = find<QComboBox>(combo);
        view->setFocus();
        QTest::keyClick(view, Qt::Key_Home);
        for (int i = 0; i < index; ++i)
            QTest::keyClick(view, Qt::Key_Down);
        emit view->activated(index);
        turn();
    }
    void press(const char* button) {
        auto* b = find<QPushButton>(button);
        b->setFocus();
        QTest::keyClick(b, Qt::Key_Space);
        turn();
    }
    QString said(const char* name) { return find<QLabel>(name)->text(); }
};

TEST_F(HandlingStation, TheDemoCardIsCheckedAndItsSoundsArePlannedWith) {
    at(card);
    EXPECT_TRUE(find<QComboBox>("cardFolder")->currentText().endsWith("cards/heron"))
        << "the card beside the demo job is offered";
    check(test::source_dir() / "data" / "cards" / "heron");
    auto* presets = find<Table>("cardPresets");
    ASSERT_EQ(presets->model()->rowCount(), 8);
    EXPECT_EQ(presets->text(0, 3), "ready");
    EXPECT_EQ(presets->text(4, 3), "font missing");
    auto* troubles = find<Table>("cardTroubles");
    ASSERT_EQ(troubles->model()->rowCount(), 4);
    EXPECT_EQ(troubles->text(0, 0), "stop");
    EXPECT_TRUE(troubles->text(0, 1).contains("Rename Kelp to kelp"))
        << troubles->text(0, 1).toStdString();
    look("cardView", CardSheet::course);
    EXPECT_GT(find<Table>("cardSounds")->model()->rowCount(), 30);
    const QString before = gauge(4);
    press("cardTakeSounds");
    settled();
    EXPECT_EQ(session().job().card.fonts.size(), 6u) << "kelp is not there";
    EXPECT_NE(gauge(4), before) << "first crackle follows the fonts";
    // What was taken is undone.
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(gauge(4), before);
}

TEST_F(HandlingStation, ACardThatComesBackIsComparedAndADifferenceIsMeant) {
    test::TemporaryFolder folder;
    test::make_card(folder.path(), test::demo("heron"), test::parts());
    at(card);
    check(folder.path());
    EXPECT_EQ(find<Table>("cardTroubles")->model()->rowCount(), 0);
    press("cardKeep");
    settled();
    EXPECT_EQ(session().job().card.files.size(), 44u);
    EXPECT_TRUE(said("cardSaid").contains("as it was kept")) << said("cardSaid").toStdString();
    fs::remove(folder.path() / "dusk" / "bolt.wav");
    test::write_tone(folder.path() / "tracks" / "march.wav",
                     {1.4, 500, 0.3, 22050, 1, 16, 0, 3, false});
    check(folder.path());
    look("cardView", CardSheet::changes);
    auto* differences = find<Table>("cardDifferences");
    ASSERT_EQ(differences->model()->rowCount(), 2);
    EXPECT_EQ(differences->text(0, 1), "gone");
    EXPECT_EQ(differences->text(1, 1), "changed");
    retype(differences, 1, 2, "the owner's new march");
    settled();
    ASSERT_EQ(session().job().card.meant.size(), 1u);
    EXPECT_EQ(session().job().card.meant[0].path, "tracks/march.wav");
    EXPECT_EQ(differences->text(1, 2), "the owner's new march");
    // A folder that is not there is said, and nothing is lost.
    const job::Job kept = session().job();
    check(folder.path() / "nowhere");
    EXPECT_TRUE(said("cardSaid").contains("no such folder")) << said("cardSaid").toStdString();
    EXPECT_EQ(session().job(), kept);
}

TEST_F(HandlingStation, ACardIsPreparedAfterItIsSaidWhatWouldBeCopied) {
    test::TemporaryFolder folder;
    const fs::path from = folder.path() / "source", to = folder.path() / "card";
    test::make_card(from, test::demo("heron"), test::parts());
    at(card);
    look("cardView", CardSheet::preparing);
    const auto type_in = [&](const char* name, const fs::path& path) {
        auto* line = find<QLineEdit>(name);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, QString::fromStdString(path.string()));
    };
    EXPECT_FALSE(find<QPushButton>("prepareBegin")->isEnabled());
    type_in("prepareFrom", from);
    type_in("prepareTo", to);
    press("prepareDry");
    EXPECT_EQ(find<Table>("cardCopies")->model()->rowCount(), 44);
    EXPECT_FALSE(fs::exists(to)) << "nothing is changed before it is said so";
    press("prepareBegin");
    ASSERT_TRUE(QTest::qWaitFor([&] { return said("cardSaid").contains("whole"); }))
        << said("cardSaid").toStdString();
    check(to);
    look("cardView", CardSheet::wrong);
    EXPECT_EQ(find<Table>("cardTroubles")->model()->rowCount(), 0);
    // What the source lacks is told, and there is nothing to begin.
    fs::remove_all(from / "moon");
    look("cardView", CardSheet::preparing);
    press("prepareDry");
    EXPECT_TRUE(said("cardSaid").contains("moon")) << said("cardSaid").toStdString();
    EXPECT_FALSE(find<QPushButton>("prepareBegin")->isEnabled());
}

TEST_F(HandlingStation, PresetsFoundAndAskedForAreTypedAndTheChangeListIsWritten) {
    at(presets);
    press("foundAsNow");
    settled();
    ASSERT_EQ(session().job().presets_found.size(), 8u);
    auto* now = find<Table>("presetsNow");
    EXPECT_EQ(now->text(0, 3), "untouched");
    // Found with another look and another font than it has now.
    auto* found = find<Table>("presetsFound");
    retype(found, 0, 2, "white");
    retype(found, 2, 1, "sygnal");
    settled();
    EXPECT_EQ(now->text(0, 3), "recoloured");
    EXPECT_EQ(now->text(2, 3), "mended");
    EXPECT_TRUE(now->text(2, 4).contains("sygnal")) << now->text(2, 4).toStdString();
    auto* asked = find<Table>("presetsAsked");
    retype(asked, 0, 0, "Squall");
    settled();
    EXPECT_TRUE(said("notAsAsked").contains("Squall")) << said("notAsAsked").toStdString();
    test::TemporaryFolder folder;
    test::write_file(folder.path() / "found.csv", "preset,font,look\nGale,gale,grey\n");
    test::write_file(folder.path() / "wrong.csv", "preset,font\n,gale\n");
    auto* sheet = window_->findChild<PresetChangesSheet*>();
    sheet->take_in(QString::fromStdString((folder.path() / "found.csv").string()), false);
    settled();
    EXPECT_EQ(session().job().presets_found.back().name, "Gale");
    const job::Job before = session().job();
    sheet->take_in(QString::fromStdString((folder.path() / "wrong.csv").string()), true);
    EXPECT_TRUE(said("presetChangesSaid").contains("line 2"));
    EXPECT_EQ(session().job(), before);
    sheet->write_list(QString::fromStdString((folder.path() / "list.txt").string()));
    const std::string list = test::read_file(folder.path() / "list.txt");
    for (const char* line : {"1. Harbour: recoloured", "look: white → Tidewater", "Gale: taken out",
                             "Not as asked: preset Squall"})
        EXPECT_NE(list.find(line), std::string::npos) << line << " in " << list;
}

TEST_F(HandlingStation, ThresholdsAreTypedSetAndHeldAgainstALog) {
    at(motion);
    auto* table = find<Table>("motionThresholds");
    ASSERT_EQ(table->model()->rowCount(), 6);
    EXPECT_EQ(table->text(0, 1), "not entered");
    retype(table, 5, 1, "0.4");
    settled();
    EXPECT_DOUBLE_EQ(session().job().config.motion.clash, 0.4);
    const auto* f = findings::finding_of(session().plan()->findings, "motion.false");
    ASSERT_TRUE(f);
    EXPECT_NE(f->text.english().find("lighting up"), std::string::npos) << f->text;
    const job::Job before = session().job();
    for (const char* wrong : {"lively", "-3", "9999"}) {
        retype(table, 5, 1, wrong);
        EXPECT_TRUE(table->refusal()->isVisible()) << wrong;
        EXPECT_EQ(session().job(), before);
    }
    keys(Qt::Key_Escape);
    turn();
    press("motionUsual");
    settled();
    EXPECT_FALSE(findings::finding_of(session().plan()->findings, "motion.false"));
    for (const job::Felt what : {job::Felt::swing, job::Felt::twist, job::Felt::roll,
                                 job::Felt::thrust, job::Felt::tap, job::Felt::clash})
        EXPECT_GT(motion::threshold_of(session().job().config.motion, what), 0);
    // A log of this hilt that rattles.
    auto* sheet = window_->findChild<MotionSheet*>();
    sheet->take_log(QString::fromStdString(
        (test::source_dir() / "data" / "motion" / "loose-board.csv").string()));
    turn();
    EXPECT_TRUE(said("motionSaid").contains("loose board")) << said("motionSaid").toStdString();
    EXPECT_EQ(find<QComboBox>("motionMovement")->currentText(), "loose board, own log");
    test::TemporaryFolder folder;
    test::write_file(folder.path() / "bad.csv", "a,b\n1,2\n");
    sheet->take_log(QString::fromStdString((folder.path() / "bad.csv").string()));
    EXPECT_TRUE(said("motionSaid").contains("no column")) << said("motionSaid").toStdString();
    // The test sheet.
    look("motionView", MotionSheet::tests);
    press("motionBeginTests");
    settled();
    auto* tests = find<Table>("motionTests");
    ASSERT_EQ(tests->model()->rowCount(), 10 + 1);
    EXPECT_EQ(tests->text(0, 4), "untried");
    retype(tests, 0, 2, "clash");
    retype(tests, 0, 3, "2026-11-20");
    settled();
    EXPECT_TRUE(tests->text(0, 4).contains("loose board"));
    EXPECT_TRUE(findings::finding_of(session().plan()->findings, "motion.not-as-wanted"));
}

TEST_F(HandlingStation, TheQuizAsksTellsAndKeepsWhatWasLearned) {
    at(rehearse);
    auto* sheet = window_->findChild<RehearseSheet*>();
    look("rehearseWay", 1);
    ASSERT_TRUE(sheet->quiz());
    EXPECT_FALSE(find<Table>("understoodHere")->isVisible()) << "it has the answers";
    const job::Handling& map = session().job().handling;
    const auto press_of = [&](const job::Trigger& t) {
        const Qt::Key key = t.buttons[0].button == "S2" ? Qt::Key_A : Qt::Key_B;
        if (t.attitude != job::Attitude::any)
            QTest::keyClick(sheet, t.attitude == job::Attitude::down ? Qt::Key_D : Qt::Key_U);
        QTest::keyPress(sheet, key);
        if (t.held > Second(0)) QTest::qWait(static_cast<int>(t.held.value() * 1000) + 60);
        QTest::keyRelease(sheet, key);
        if (t.attitude != job::Attitude::any) QTest::keyClick(sheet, Qt::Key_L);
    };
    int right = 0;
    for (int i = 0; i < 4; ++i) {
        const job::Command c = map.commands[*sheet->quiz()->asked()];
        EXPECT_TRUE(said("quizQuestion").contains(QString::fromStdString(c.name)));
        press_of(c.trigger);
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return sheet->quiz()->right() + sheet->quiz()->wrong() == i + 1; }, 6000))
            << c.name;
        right = sheet->quiz()->right();
    }
    EXPECT_EQ(right, 4);
    // A swing means nothing: that is wrong, and how it is done is said.
    QTest::keyClick(sheet, Qt::Key_S);
    ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->quiz()->wrong() == 1; }, 3000));
    EXPECT_TRUE(said("playHeard").startsWith("Not that")) << said("playHeard").toStdString();
    find<QPushButton>("quizKeep")->click();
    settled();
    const auto learned = handling::learned(session().job().handling);
    ASSERT_EQ(learned.size(), 1u);
    EXPECT_EQ(learned[0].who, "owner");
    EXPECT_EQ(learned[0].right, 4u);
    EXPECT_TRUE(said("rehearseLearned").contains("the owner knew 4 of"));
    // Alone in a window: nothing in it changes the job but what is learned.
    look("rehearseWay", 0);
    press("rehearseApart");
    auto* apart = window_->findChild<RehearseWindow*>("rehearseWindow");
    ASSERT_TRUE(apart);
    EXPECT_TRUE(apart->isWindow() && apart->isVisible());
    const job::Job before = session().job();
    QTest::keyClick(apart->sheet(), Qt::Key_A);
    turn();
    EXPECT_EQ(session().job(), before);
    apart->close();
    turn();
    EXPECT_EQ(session().job(), before);
    // Closing the job while it is open does no harm.
    press("rehearseApart");
    window_->activateWindow();
    ASSERT_TRUE(QTest::qWaitFor([&] { return QApplication::activeWindow() == window_.get(); }));
    keys(Qt::Key_0, Qt::AltModifier);
    turn();
    EXPECT_TRUE(QTest::qWaitFor([&] { return !window_->job_view(); }));
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return !window_->findChild<RehearseWindow*>("rehearseWindow"); }));
}

TEST_F(HandlingStation, TheBladeShowsWhatIsPlayed) {
    at(rehearse);
    auto* sheet = window_->findChild<RehearseSheet*>();
    auto* blade = find<QWidget>("playedBlade");
    const auto brightest = [&] {
        const QImage image = blade->grab().toImage();
        int most = 0;
        for (int x = image.width() / 2; x < image.width() - 4; x += 3)
            most = std::max(most, image.pixelColor(x, image.height() / 2).blue());
        return most;
    };
    const int dark = brightest();
    QTest::keyClick(sheet, Qt::Key_A); // light the blade
    ASSERT_TRUE(QTest::qWaitFor([&] { return said("playState").startsWith("State: lit"); }, 3000));
    EXPECT_TRUE(QTest::qWaitFor([&] { return brightest() > dark + 60; }, 8000)) << brightest();
}

TEST_F(HandlingStation, TheMapIsShownForOneStateOneButtonOrAPresetsExceptions) {
    at(map);
    ASSERT_TRUE(
        session().edit("Only with Storm", job::write_at("/handling/commands/2/preset", "Storm")));
    settled();
    auto* which = find<QComboBox>("mapState");
    auto* table = find<Table>("commandMap");
    const int all = table->model()->rowCount();
    const auto rows_of = [&](const QString& item) {
        const int index = which->findText(item);
        EXPECT_GE(index, 0) << item.toStdString();
        look("mapState", index);
        return table->model()->rowCount();
    };
    const int lit = rows_of("lit"), b = rows_of("button B");
    EXPECT_GT(lit, 1);
    EXPECT_LT(lit, all);
    EXPECT_GT(b, 1);
    EXPECT_LT(b, all);
    EXPECT_EQ(rows_of("only with Storm"), 1 + 1) << "and the row for another command";
    EXPECT_EQ(rows_of("all states"), all);
}

TEST_F(HandlingStation, CommandsAreReadFromATextOrRefusedWithTheirLine) {
    at(commands);
    const auto many = session().job().handling.commands.size();
    test::TemporaryFolder folder;
    test::write_file(folder.path() / "sheet.txt", "lit: near the pommel twice: lock-up\n");
    test::write_file(folder.path() / "wrong.txt", "lit: A: one\nlit: Z: two\n");
    auto* sheet = window_->findChild<CommandsSheet*>();
    const job::Job before = session().job();
    sheet->take_in(QString::fromStdString((folder.path() / "wrong.txt").string()));
    EXPECT_TRUE(said("commandsSaid").contains("line 2")) << said("commandsSaid").toStdString();
    EXPECT_EQ(session().job(), before);
    sheet->take_in(QString::fromStdString((folder.path() / "sheet.txt").string()));
    settled();
    // A name is there once in a state: what is there already is refused as well.
    EXPECT_EQ(session().job().handling.commands.size(), many);
    test::write_file(folder.path() / "sheet.txt", "lit: near the pommel twice: melt\n");
    sheet->take_in(QString::fromStdString((folder.path() / "sheet.txt").string()));
    settled();
    ASSERT_EQ(session().job().handling.commands.size(), many + 1);
    EXPECT_EQ(job::trigger_text(session().job().handling.commands.back().trigger), "S1 twice");
}

TEST_F(HandlingStation, FromABlankJobByTabAndEnter) {
    begin_job("Handled from nothing");
    keys(Qt::Key_6, Qt::AltModifier);
    turn();
    turn_to("handlingSheets", presets);
    // The first letter opens the cell, the rest goes into it; Tab goes to the next cell, Enter into
    // the next row.
    const auto fill = [&](const QString& text) {
        type(text.left(1));
        type(text.mid(1));
    };
    tab_to("presetsFound");
    for (const char* row : {"Old harbour", "Old storm"}) {
        fill(row);
        keys(Qt::Key_Tab);
        fill("harbour");
        keys(Qt::Key_Tab);
        fill("blue");
        keys(Qt::Key_Return);
        settled();
    }
    ASSERT_EQ(session().job().presets_found.size(), 2u);
    EXPECT_EQ(session().job().presets_found[1].name, "Old storm");
    EXPECT_EQ(session().job().presets_found[1].look, "blue");
    turn_to("handlingSheets", card);
    test::TemporaryFolder folder;
    check(folder.path());
    ASSERT_EQ(find<Table>("cardTroubles")->model()->rowCount(), 1);
    EXPECT_TRUE(find<Table>("cardTroubles")->text(0, 1).contains("no presets yet"));
    EXPECT_FALSE(said("cardSaid").contains("ready")) << said("cardSaid").toStdString();
    turn_to("handlingSheets", motion);
    tab_to("motionThresholds");
    go(find<Table>("motionThresholds"), 0, 1);
    for (const char* value : {"200", "350", "85", "1,2", "1.1", "3.7"}) {
        fill(value);
        keys(Qt::Key_Return);
        turn(); // the table takes the text a turn later
    }
    settled();
    EXPECT_DOUBLE_EQ(session().job().config.motion.swing, 200);
    EXPECT_DOUBLE_EQ(session().job().config.motion.thrust, 1.2);
    EXPECT_DOUBLE_EQ(session().job().config.motion.clash, 3.7);
}

/// All of it in one sitting.
TEST_F(HandlingStation, AMapIsMendedRehearsedAndTheCardCheckedAndTheListWritten) {
    at(map, "Avocet");
    auto* table = find<Table>("commandMap");
    const int last = table->model()->rowCount() - 1;
    retype(table, last, 0, "second blast");
    const auto& all = session().job().handling.commands;
    const job::Command* blast = nullptr;
    for (const job::Command& c : all)
        if (c.state == "lit" && c.trigger.press == job::Press::press && !blast) blast = &c;
    ASSERT_TRUE(blast);
    const QString trigger = QString::fromStdString(job::trigger_text(blast->trigger));
    int row = -1;
    for (int i = 0; i < table->model()->rowCount(); ++i)
        if (table->text(i, 0) == "second blast") row = i;
    ASSERT_GE(row, 0);
    retype(table, row, 2, "lit");
    for (int i = 0; i < table->model()->rowCount(); ++i)
        if (table->text(i, 0) == "second blast") row = i;
    retype(table, row, 1, trigger);
    settled();
    ASSERT_TRUE(findings::finding_of(session().plan()->findings, "handling.means-two"));
    auto* fix = find<QAbstractButton>("fix:handling.means-two");
    ASSERT_TRUE(fix);
    fix->setFocus();
    QTest::keyClick(fix, Qt::Key_Space);
    settled();
    EXPECT_FALSE(findings::finding_of(session().plan()->findings, "handling.means-two"));
    turn_to("handlingSheets", rehearse);
    EXPECT_EQ(static_cast<std::size_t>(find<Table>("tour")->model()->rowCount()),
              handling::shortest_tour(session().job()).steps.size());
    turn_to("handlingSheets", card);
    test::TemporaryFolder folder;
    test::make_card(folder.path(), session().job(), test::parts());
    fs::remove_all(folder.path() / "foghorn");
    check(folder.path());
    EXPECT_EQ(find<Table>("cardPresets")->text(1, 3), "font missing");
    turn_to("handlingSheets", presets);
    window_->findChild<PresetChangesSheet*>()->write_list(
        QString::fromStdString((folder.path() / "list.txt").string()));
    const std::string list = test::read_file(folder.path() / "list.txt");
    EXPECT_NE(list.find("1. Signal lamp: moved, mended"), std::string::npos) << list;
    EXPECT_NE(list.find("asked: Signal lamp first, with the march"), std::string::npos) << list;
}

} // namespace
} // namespace conductus::app
