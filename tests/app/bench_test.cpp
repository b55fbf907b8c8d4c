// SPDX-License-Identifier: GPL-3.0-or-later
// The Bench station on the real window: a plan tried by keyboard, a fault found with a pretend
// meter, a discharge, a case that is practised.
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <algorithm>

#include "app/stations/bench/bench_page.h"
#include "app/stations/bench/bench_work.h"
#include "app/stations/bench/discharge_record_sheet.h"
#include "app/stations/bench/practice_sheet.h"
#include "core/diagnose/test_plan.h"
#include "files/disk.h"
#include "support/sample_bench.h"
#include "window.h"

namespace conductus::app {
namespace {

class BenchStation : public Window {
protected:
    enum Sheet { tests, find_it, meter, discharge, practice };

    BenchPage* page() { return window_->findChild<BenchPage*>(); }
    void open_bench(const QString& job) {
        open_card(job);
        go_to_bench();
    }
    void go_to_bench() {
        keys(Qt::Key_7, Qt::AltModifier);
        settled();
        ASSERT_TRUE(page());
        ASSERT_TRUE(QTest::qWaitFor([&] { return page()->work().diagnosis() != nullptr; }, 60000));
    }
    /// Until the finder has judged what the job holds now.
    void judged() {
        settled();
        ASSERT_TRUE(QTest::qWaitFor(
            [&] {
                const auto& d = page()->work().diagnosis();
                return d && d->rows.size() == session().job().bench.readings.size() &&
                       session().asking().is_idle();
            },
            60000));
        turn();
    }
    void press(const QString& button) {
        auto* b = find<QAbstractButton>(button);
        ASSERT_TRUE(b && b->isEnabled()) << button.toStdString();
        b->setFocus();
        keys(Qt::Key_Space);
        settled();
    }
    void type_reading(double value) {
        auto* line = find<QLineEdit>("readValue");
        line->setFocus();
        QTest::keyClicks(line, value > 9e5 ? QString("open") : QString::number(value, 'f', 4));
        QTest::keyClick(line, Qt::Key_Return);
    }
    QString said(const QString& label) { return find<QLabel>(label)->text(); }
    void tell(const QString& symptom) {
        auto* combo = find<QComboBox>("symptomToTell");
        choose_item(combo, combo->findText(symptom));
        press("symptomTell");
        judged();
    }
};

TEST_F(BenchStation, APlanIsTriedByKeyboardAndSignedOff) {
    open_bench("Heron");
    auto* table = find<Table>("testPlan");
    const auto& steps = page()->work().bench()->tests.steps;
    ASSERT_EQ(table->rows().rowCount(), static_cast<int>(steps.size()));
    EXPECT_TRUE(said("testSaid").contains("0 of"));
    tab_to("testPlan");
    // The first is the cell in the hand; the next whether it is the right way round.
    app::retype(table, 0, 5, "4.1 V");
    settled();
    EXPECT_EQ(session().job().bench.tried.size(), 1u);
    EXPECT_TRUE(table->text(0, 6).contains("fine")) << table->text(0, 6).toStdString();
    app::retype(table, 1, 5, "yes");
    settled();
    // One that is out: it stands in the way of signing.
    int continuity = 0;
    while (steps[static_cast<std::size_t>(continuity)].open() ||
           steps[static_cast<std::size_t>(continuity)].what != job::Reads::ohms)
        ++continuity;
    app::retype(table, continuity, 5, "3 Ohm");
    settled();
    EXPECT_TRUE(table->text(continuity, 6).contains("out"));
    // The probes of the chosen step are in the section, and what to do stands under the table.
    go(table, continuity, 5);
    const auto& probes = window_->job_view()->selection().options().probes;
    ASSERT_EQ(probes.size(), 2u);
    EXPECT_EQ(probes[0].terminal.toStdString(), steps[static_cast<std::size_t>(continuity)].from);
    EXPECT_FALSE(said("testWhenOut").isEmpty());
    press("testSign");
    EXPECT_TRUE(session().job().bench.signed_on.empty());
    go(table, continuity, 5);
    keys(Qt::Key_Delete);
    settled();
    EXPECT_EQ(session().job().bench.tried.size(), 2u);
    press("testSign");
    EXPECT_FALSE(session().job().bench.signed_on.empty());
    EXPECT_TRUE(said("testSaid").contains("untried"));
    EXPECT_EQ(in_book("Heron").bench, session().job().bench);
    // Nonsense is refused beside the table, with what was typed kept.
    app::retype(table, continuity, 5, "a lot");
    settled();
    EXPECT_TRUE(table->refusal()->isVisible());
    keys(Qt::Key_Escape);
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    // Only what is untried is shown.
    choose_item(find<QComboBox>("testShown"), 1);
    EXPECT_LT(table->rows().rowCount(), static_cast<int>(steps.size()));
    // In a small window the words of a step keep their room.
    choose_item(find<QComboBox>("testShown"), 0);
    window_->resize(1024, 700);
    settled();
    EXPECT_GT(table->columnWidth(1), table->fontMetrics().horizontalAdvance("W12 from end to end"));
    EXPECT_TRUE(table->isColumnHidden(4));
    window_->resize(1280, 800);
    settled();
    EXPECT_FALSE(table->isColumnHidden(4));
    // The stations after it do not show the probes any more.
    keys(Qt::Key_5, Qt::AltModifier);
    settled();
    EXPECT_TRUE(window_->job_view()->selection().options().probes.empty());
}

TEST_F(BenchStation, AvocetsMisleadingSymptomsLeadToTheFaultItsMendAndTheProof) {
    open_bench("Avocet");
    turn_to("benchSheets", find_it);
    ASSERT_TRUE(page()->work().start_stand_in({"--fault", "turned P1.plus", "--seed", "4"}));
    diagnose::Finder hilt = *page()->work().bench()->finder;
    const auto* wrong = &hilt.faults()[test::fault_named(hilt, "turned P1.plus")];
    ASSERT_TRUE(QTest::qWaitFor([&] { return page()->work().meter().is_there(); }, 30000));
    // The owner suspects the blade, the last bench the cell: the finder goes by what is seen.
    tell("flickers when turned");
    EXPECT_TRUE(find<QPushButton>("told:flickers when turned"));
    EXPECT_TRUE(said("nextWords").startsWith("Next"));
    for (int k = 0; k < 8 && page()->work().diagnosis()->may[0].p < 0.9; ++k) {
        ASSERT_FALSE(page()->work().diagnosis()->next.empty());
        const auto then = page()->work().diagnosis()->next.front();
        if (then.measure.what == job::Reads::pixels) { // is counted by eye
            EXPECT_FALSE(find<QPushButton>("readTake")->isEnabled());
            type_reading(hilt.world().read(then.measure, {wrong}, {}, then.turned).value_or(0));
            judged();
            continue;
        }
        // The meter follows the probes; what is steady there is taken.
        ASSERT_TRUE(QTest::qWaitFor([&] { return page()->work().meter().is_steady(); }, 30000))
            << find<QPlainTextEdit>("meterLog")->toPlainText().toStdString();
        const std::size_t before = session().job().bench.readings.size();
        press("readTake");
        ASSERT_EQ(session().job().bench.readings.size(), before + 1);
        EXPECT_EQ(session().job().bench.readings.back().from, then.measure.from);
        EXPECT_FALSE(session().job().bench.readings.back().source.empty());
        judged();
    }
    const auto found = page()->work().diagnosis()->may[0];
    EXPECT_EQ(found.id, "turned P1.plus");
    EXPECT_TRUE(said("mendWords").contains("P1"));
    press("itIsThis");
    judged();
    ASSERT_EQ(session().job().bench.mends.size(), 1u);
    EXPECT_TRUE(said("mayHead").contains("not proved yet"));
    // The spring is bent; the meter shows the mended hilt.
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return page()->work().diagnosis() && page()->work().diagnosis()->proof; }, 60000));
    ASSERT_TRUE(page()->work().start_stand_in({"--seed", "9"}));
    ASSERT_TRUE(QTest::qWaitFor([&] { return page()->work().meter().is_there(); }, 30000));
    const auto proof = *page()->work().diagnosis()->proof;
    page()->work().put_probes(proof.measure.what, proof.measure.state, proof.measure.from,
                              proof.measure.to, proof.turned);
    EXPECT_TRUE(said("nextWords").startsWith("To prove the mend"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return page()->work().meter().is_steady(); }, 30000));
    press("readTake");
    judged();
    EXPECT_FALSE(session().job().bench.mends[0].proof.empty());
    EXPECT_TRUE(said("mayHead").contains("proved by")) << said("mayHead").toStdString();
    // All of it is undone and done again.
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_TRUE(session().job().bench.mends[0].proof.empty());
}

TEST_F(BenchStation, OnceTheProbesMovedASteadyReadingIsTakenByItself) {
    open_bench("Heron");
    const auto& steps = page()->work().bench()->tests.steps;
    int first = 0;
    while (steps[static_cast<std::size_t>(first)].open() ||
           steps[static_cast<std::size_t>(first)].what != job::Reads::ohms)
        ++first;
    ASSERT_TRUE(page()->work().start_stand_in({"--seed", "2"}));
    ASSERT_TRUE(QTest::qWaitFor([&] { return page()->work().meter().is_there(); }, 30000));
    auto* table = find<Table>("testPlan");
    go(table, first, 5);
    auto* tick = find<QAbstractButton>("testTakeByItself");
    tick->setFocus();
    keys(Qt::Key_Space);
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().job().bench.tried.size() >= 3; }, 60000));
    keys(Qt::Key_Space);
    settled();
    // Each step once, from the chosen one on, and each in its band or at its edge.
    const auto& tried = session().job().bench.tried;
    for (std::size_t i = 0; i < tried.size(); ++i) {
        EXPECT_EQ(tried[i].step, steps[static_cast<std::size_t>(first) + i].id);
        EXPECT_TRUE(tried[i].fine) << tried[i].step;
    }
    // The other sheet's tick is the same one.
    EXPECT_FALSE(find<QAbstractButton>("readTakeByItself")->isChecked());
}

TEST_F(BenchStation, AFaultIsFoundFromABlankJobByTypingAlone) {
    open_card("Heron");
    begin_job("Sandpiper");
    keys(Qt::Key_5, Qt::AltModifier);
    settled();
    // Whatever the start sheet wired; else the harness wires what is missing.
    if (auto* missing = find<QPushButton>("wireMissing"); missing && missing->isVisible())
        press("wireMissing");
    go_to_bench();
    ASSERT_TRUE(page()->work().bench()) << page()->work().trouble().toStdString();
    EXPECT_GT(find<Table>("testPlan")->rows().rowCount(), 10);
    turn_to("benchSheets", find_it);
    EXPECT_TRUE(said("mayHead").contains("nothing to judge yet"));
    tell("nothing at all");
    diagnose::Finder hilt = *page()->work().bench()->finder;
    std::size_t wrong = 0;
    while (!hilt.faults()[wrong].id.starts_with("open W") ||
           !hilt.world().shows({diagnose::Symptom::nothing_at_all, {}}, {&hilt.faults()[wrong]}))
        ++wrong;
    for (int k = 0; k < 8 && page()->work().diagnosis()->may[0].p < 0.9; ++k) {
        const auto then = page()->work().diagnosis()->next.front();
        const auto value =
            hilt.world().read(then.measure, {&hilt.faults()[wrong]}, {}, then.turned);
        ASSERT_TRUE(value);
        type_reading(*value);
        judged();
    }
    EXPECT_EQ(page()->work().diagnosis()->may[0].id, hilt.faults()[wrong].id);
    // What is no reading is refused beside the field, and kept there.
    auto* line = find<QLineEdit>("readValue");
    line->setFocus();
    QTest::keyClicks(line, "plenty");
    QTest::keyClick(line, Qt::Key_Return);
    EXPECT_TRUE(find<QLabel>("readRefused")->isVisible());
    EXPECT_EQ(line->text(), "plenty");
    press("readingDrop");
    judged();
    press("benchClear");
    judged();
    EXPECT_TRUE(session().job().bench.readings.empty());
    EXPECT_FALSE(page()->work().diagnosis()->anything);
}

TEST_F(BenchStation, AHalfChargedCellMovesEveryBandAndUndoMovesThemBack) {
    open_bench("Avocet");
    turn_to("benchSheets", find_it);
    const auto lit_band = [&] { // of what stands across the supply
        double most = 0;
        for (const auto& s : page()->work().bench()->tests.steps)
            if (s.stage == diagnose::TestStage::lit && s.what == job::Reads::volts)
                most = std::max(most, s.high);
        return most;
    };
    const double full = lit_band();
    tell("boots, no blade");
    judged();
    find<QComboBox>("readState")->setEditText("idle");
    find<QComboBox>("readFrom")->setEditText("U1.bat");
    find<QComboBox>("readTo")->setEditText("U1.gnd");
    choose_item(find<QComboBox>("readWhat"), 0);
    type_reading(3.70);
    judged();
    EXPECT_TRUE(said("mayHead").contains("with the cell at 5")) << said("mayHead").toStdString();
    EXPECT_LT(lit_band(), full - 0.1);
    EXPECT_NE(page()->work().diagnosis()->rows[0].verdict, diagnose::Verdict::out);
    EXPECT_FALSE(page()->work().diagnosis()->may[0].unknown);
    keys(Qt::Key_Z, Qt::ControlModifier);
    judged();
    EXPECT_NEAR(lit_band(), full, 1e-9);
}

TEST_F(BenchStation, AMeterIsJoinedCutAndJoinedAgainAndNothingIsLost) {
    open_bench("Heron");
    turn_to("benchSheets", meter);
    EXPECT_TRUE(said("meterState").contains("typed"));
    press("meterJoin"); // without an address
    EXPECT_FALSE(find<QPlainTextEdit>("meterLog")->toPlainText().isEmpty());
    press("meterStandIn");
    MeterLink& link = page()->work().meter();
    ASSERT_TRUE(QTest::qWaitFor([&] { return link.is_there(); }, 30000));
    EXPECT_TRUE(said("meterState").contains("PRETEND"));
    page()->work().put_probes(job::Reads::volts, "idle", "B1.plus", "B1.minus", false);
    ASSERT_TRUE(QTest::qWaitFor([&] { return link.is_steady(); }, 30000));
    EXPECT_NEAR(*link.reading(), 4.17, 0.08);
    EXPECT_TRUE(said("meterReading").contains("V"));
    // The far end goes in the middle of it: the reading is gone, the program is not.
    const QString address = link.address();
    press("meterJoin");
    EXPECT_FALSE(link.reading());
    EXPECT_FALSE(link.is_wanted());
    // Nobody is there: it says so and goes on trying.
    find<QLineEdit>("meterAddress")->setText("127.0.0.1:1");
    press("meterJoin");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return find<QPlainTextEdit>("meterLog")->toPlainText().contains("tried again"); },
        10000));
    press("meterJoin");
    find<QLineEdit>("meterAddress")->setText("noSuchPort 9600");
    press("meterJoin");
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return find<QPlainTextEdit>("meterLog")->toPlainText().contains("noSuchPort"); },
        10000));
    press("meterJoin");
    // Its words are a table, and one that can not be is refused.
    auto* words = find<Table>("meterWords");
    app::retype(words, 1, 1, "*RST");
    EXPECT_EQ(page()->work().dialect().clear, "*RST");
    app::retype(words, words->rows().rowCount() - 1, 1, "soon");
    EXPECT_TRUE(words->refusal()->isVisible());
    EXPECT_EQ(page()->work().dialect().patience_ms, 1500);
}

TEST_F(BenchStation, ADischargeSaysWhatTheCellHas) {
    open_bench("Heron");
    turn_to("benchSheets", discharge);
    auto* sheet = window_->findChild<DischargeRecordSheet*>();
    EXPECT_TRUE(said("dischargeSaid").contains("Nothing was logged yet"));
    const auto log = logged_discharge(session().job(), parts(), 2610, 0.021,
                                      page()->work().bench()->path_ohms + 0.07, 1.9, 5);
    std::string text = "time_s,board_V,amps_A\n";
    for (const auto& p : log.points)
        text += std::to_string(p.seconds) + "," + std::to_string(p.volts) + "," +
                std::to_string(p.amps) + "\n";
    write_file(folder_ / "evening.csv", text);
    sheet->take_log(QString::fromStdString((folder_ / "evening.csv").string()));
    settled();
    ASSERT_EQ(session().job().bench.discharges.size(), 1u);
    EXPECT_TRUE(said("dischargeSaid").contains("less than planned"))
        << said("dischargeSaid").toStdString();
    EXPECT_TRUE(said("dischargeSaid").contains("between cell and board"));
    press("dischargeUse");
    EXPECT_NEAR(job::find_ref(session().job().parts, "B1")->measured.capacity->value(), 2610, 60);
    write_file(folder_ / "wrong.csv", "time_s,volts\n1,2\n");
    sheet->take_log(QString::fromStdString((folder_ / "wrong.csv").string()));
    EXPECT_TRUE(said("dischargeSaid").contains("no column amps"));
    EXPECT_EQ(session().job().bench.discharges.size(), 1u);
    press("dischargeDrop");
    EXPECT_TRUE(session().job().bench.discharges.empty());
}

TEST_F(BenchStation, ACaseIsPractisedScoredAndKept) {
    open_bench("Heron");
    turn_to("benchSheets", practice);
    auto* sheet = window_->findChild<PracticeSheet*>();
    choose_item(find<QComboBox>("practiceLevel"), 0);
    find<QSpinBox>("practiceSeed")->setValue(7);
    press("practiceBegin");
    EXPECT_TRUE(said("practiceSeen").contains("Seen and heard"));
    const auto field = [&](const char* name, const QString& text) {
        find<QComboBox>(name)->setEditText(text);
    };
    choose_item(find<QComboBox>("practiceWhat"), 2);
    field("practiceState", "idle");
    field("practiceFrom", "K1.in");
    field("practiceTo", "K1.out");
    press("practiceMeasure");
    EXPECT_TRUE(said("practiceSaid").contains("Stopped")) << "ohms on a live hilt";
    field("practiceState", "cell out");
    press("practiceMeasure");
    EXPECT_TRUE(said("practiceSaid").contains("reads"));
    EXPECT_EQ(find<Table>("practiceTaken")->rows().rowCount(), 2);
    // What it is, by the case's own account.
    diagnose::Exercise same(*page()->work().bench()->finder, 1, 7);
    const auto& faults = page()->work().bench()->finder->faults();
    const std::size_t wrong = same.hidden()[0] == 0 ? 1 : 0;
    auto* named = find<QComboBox>("practiceNamed");
    named->setCurrentIndex(static_cast<int>(wrong));
    press("practiceMend");
    EXPECT_TRUE(said("practiceSaid").contains("not it"));
    named->setCurrentIndex(static_cast<int>(same.hidden()[0]));
    press("practiceMend");
    EXPECT_TRUE(said("practiceSaid")
                    .contains(QString::fromStdString(faults[same.hidden()[0]].says.english())));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !session().job().bench.practised.empty(); }, 60000));
    settled();
    EXPECT_TRUE(said("practiceScore").contains("the finder took"));
    EXPECT_TRUE(find<Table>("practiceTaken")->text(0, 5).contains("nothing"));
    EXPECT_FALSE(session().job().bench.practised[0].right);
    // A teacher's list goes out and comes back.
    auto* lists = find<QPushButton>("practiceLists");
    lists->setFocus();
    once_shown<QMenu>([](QMenu* menu) {
        QTest::keyClick(menu, Qt::Key_Down);
        QTest::keyClick(menu, Qt::Key_Down);
        QTest::keyClick(menu, Qt::Key_Return);
    });
    keys(Qt::Key_Space);
    settled();
    EXPECT_TRUE(find<QComboBox>("practiceList")->isVisible());
    const auto file = QString::fromStdString((folder_ / "cases.csv").string());
    sheet->write_list(file);
    sheet->read_list(file);
    EXPECT_EQ(find<QComboBox>("practiceList")->count(), 1);
    write_file(folder_ / "cases.csv", "job,level\n");
    sheet->read_list(file);
    EXPECT_TRUE(said("practiceSaid").contains("no column"));
}

} // namespace
} // namespace conductus::app
