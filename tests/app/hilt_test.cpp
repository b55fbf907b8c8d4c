// SPDX-License-Identifier: GPL-3.0-or-later
// The Hilt station: survey from nothing by keyboard, what passes, assembly, arranging.
#include <QClipboard>
#include <QSlider>
#include <QTabBar>

#include "app/stations/hilt/passing_sheet.h"
#include "core/job/edits.h"
#include "window.h"

namespace conductus::app {
namespace {

class HiltTest : public Window {
protected:
    static void cell(Table* table, int row, int column, const QString& text) {
        retype(table, row, column, text);
    }
    void row_of(Table* table, int row, const QStringList& texts) {
        for (int column = 0; column < texts.size(); ++column)
            if (!texts[column].isEmpty()) cell(table, row, column, texts[column]);
    }
    Table* table(const QString& name) {
        auto* t = find<Table>(name);
        tab_to(name);
        return t;
    }
    void open_sheet(const QString& job, int sheet) {
        open_card(job);
        keys(Qt::Key_2, Qt::AltModifier);
        for (int i = 0; i < sheet; ++i)
            keys(Qt::Key_PageDown, Qt::ControlModifier);
        ASSERT_EQ(find<QTabBar>("hiltSheets")->currentIndex(), sheet);
        settled();
    }
};

TEST_F(HiltTest, ABlankSurveyIsTypedByTabAlone) {
    const job::Job heron = demo("heron");
    keys(Qt::Key_N, Qt::ControlModifier);
    type("By Tab");
    keys(Qt::Key_Return);
    settled();
    keys(Qt::Key_2, Qt::AltModifier);
    tab_to("survey");
    // As read off the calipers, into an empty table: the pommel end is where the first begins.
    bool first = true;
    for (const job::BoreSection& s : heron.hilt.sections) {
        QStringList cells{QString::fromStdString(s.name)};
        if (!first) cells << QString::number(s.from.value());
        cells << QString::number(s.to.value()) << QString::number(s.bore.value())
              << QString::number(s.outer.value());
        for (const QString& cell : cells) {
            if (!first || cell != cells.front()) keys(Qt::Key_Tab);
            type(cell.left(1)); // the first letter opens the cell, the rest goes into it
            type(cell.mid(1));
        }
        first = false;
    }
    keys(Qt::Key_Return);
    settled();
    EXPECT_EQ(session().job().hilt.sections, heron.hilt.sections);
    // Where nothing is typed, Tab goes through the cells and on to what comes after the table.
    auto* survey = find<Table>("survey");
    go(survey, 0, 0);
    survey->setFocus();
    for (int i = 0; i < 30 && survey->hasFocus(); ++i)
        keys(Qt::Key_Tab);
    EXPECT_FALSE(survey->hasFocus());
    EXPECT_EQ(session().job().hilt.sections.size(), heron.hilt.sections.size());
}

TEST_F(HiltTest, NonsenseStaysInItsCellWhileTabGoesOn) {
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Nonsense");
    keys(Qt::Key_Return);
    settled();
    keys(Qt::Key_2, Qt::AltModifier);
    tab_to("survey");
    for (const char* cell : {"grip", "many", "-3", "36"}) {
        if (std::string(cell) != "grip") keys(Qt::Key_Tab);
        type(QString(cell).left(1));
        type(QString(cell).mid(1));
    }
    keys(Qt::Key_Return);
    settled();
    auto* survey = find<Table>("survey");
    ASSERT_EQ(survey->rows().rowCount(), 2) << "one, and the empty row";
    EXPECT_EQ(survey->text(0, 2), "many");
    EXPECT_EQ(survey->text(0, 3), "-3");
    EXPECT_TRUE(find<QLabel>("surveyRefusal")->isVisible());
    const job::BoreSection& kept = session().job().hilt.sections.at(0);
    EXPECT_EQ(kept.name, "grip");
    EXPECT_EQ(kept.outer, Millimetre(36)) << "what was typed after it is not lost";
    EXPECT_GT(kept.to, Millimetre(0));
    EXPECT_GT(kept.bore, Millimetre(0));
}

TEST_F(HiltTest, HeronIsSurveyedFromNothingByKeyboard) {
    const job::Job heron = demo("heron");
    // A new, blank job.
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Heron again");
    keys(Qt::Key_Return);
    settled();
    ASSERT_TRUE(session().job().hilt.sections.empty());
    keys(Qt::Key_2, Qt::AltModifier);

    auto* survey = table("survey");
    // As read off the calipers: a comma here, inches there.
    row_of(survey, 0, {"pommel", "", "34", "31", "38 mm"});
    row_of(survey, 1, {"grip", "", "150", "28,4", "35"});
    row_of(survey, 2, {"ring", "", "168", "25.2", "35"});
    row_of(survey, 3, {"box", "", "232", "28.4", "35"});
    row_of(survey, 4, {"socket", "", "286", "25.7", "37"});
    settled();
    EXPECT_EQ(session().job().hilt.sections, heron.hilt.sections);

    keys(Qt::Key_PageDown, Qt::ControlModifier);
    tab_to("hiltClearance");
    keys(Qt::Key_A, Qt::ControlModifier);
    type("0.3");
    keys(Qt::Key_Return);
    auto* joints = table("joints");
    row_of(joints, 0, {"pommel", "34", "thread", "right", "1", "8"});
    row_of(joints, 1, {"box", "168", "th", "left", "1", "12"});
    auto* bores = table("socketBores");
    row_of(bores, 0, {"41", "25.7"});
    row_of(bores, 1, {"54", "25.2"});
    tab_to("socketNominal");
    type("1 in");
    keys(Qt::Key_Return);
    auto* screws = table("screws");
    int n = 0;
    for (const job::Fastener& f : heron.hilt.fasteners) {
        const bool never = f.loosen == job::Loosen::never;
        row_of(screws, n++,
               {QString::fromStdString(f.name), QString::number(f.at.value()),
                QString::number(f.angle.value()), QString::fromStdString(f.thread),
                QString::fromStdString(f.key), QString::fromStdString(f.holds),
                never ? "never" : "may", "", QString::fromStdString(f.note)});
    }
    auto* openings = table("openings");
    n = 0;
    for (const job::Opening& o : heron.hilt.openings)
        row_of(openings, n++,
               {QString::fromStdString(o.name), o.use == job::OpeningUse::vent ? "vent" : "switch",
                QString::number(o.at.value()), QString::number(o.angle.value()),
                QString::number(o.length.value()), QString::number(o.width.value()),
                QString::fromStdString(o.part)});
    auto* carriers = table("carriers");
    row_of(carriers, 0, {"C1", "fixed", "1.2", "pommel"});
    settled();

    const job::Hilt surveyed = session().job().hilt;
    EXPECT_EQ(surveyed, heron.hilt);
    EXPECT_EQ(in_book("Heron again").hilt, surveyed) << "and it is kept";
    // Every one of it can be undone.
    for (int i = 0; i < 400 && session().can_undo(); ++i)
        keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_TRUE(session().job().hilt.sections.empty());
}

TEST_F(HiltTest, AColumnOfReadingsIsPasted) {
    open_sheet("Heron", 0);
    auto* survey = table("survey");
    go(survey, 1, 3);
    QApplication::clipboard()->setText("28.6\n25.6\n7/8 in\n");
    keys(Qt::Key_V, Qt::ControlModifier);
    settled();
    const auto& sections = session().job().hilt.sections;
    EXPECT_NEAR(sections[1].bore.value(), 28.6, 1e-9);
    EXPECT_NEAR(sections[2].bore.value(), 25.6, 1e-9);
    EXPECT_NEAR(sections[3].bore.value(), 22.225, 1e-9);
    // A whole survey into an empty hilt, and what is impossible in it stays marked.
    window_->show_shelf();
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Pasted");
    keys(Qt::Key_Return);
    settled();
    keys(Qt::Key_2, Qt::AltModifier);
    survey = table("survey");
    QApplication::clipboard()->setText(
        "pommel\t0\t30\t31\t38\ngrip\t30\t140\t28,4\t35\nsocket\t140\t"
        "190\t39\t37\n");
    keys(Qt::Key_V, Qt::ControlModifier);
    settled();
    ASSERT_EQ(session().job().hilt.sections.size(), 3u);
    EXPECT_EQ(session().job().hilt.sections[1].to, Millimetre(140));
    EXPECT_EQ(session().job().hilt.sections[1].name, "grip");
    EXPECT_NEAR(session().job().hilt.sections[1].bore.value(), 28.4, 1e-9);
    EXPECT_TRUE(find<QLabel>("surveyRefusal")->text().contains("no wall"));
    EXPECT_EQ(survey->text(2, 3), "39");
}

TEST_F(HiltTest, WhatCanNotBeReadStaysAsTyped) {
    open_sheet("Heron", 1);
    const job::Job before = session().job();
    auto* joints = table("joints");
    cell(joints, 1, 3, "upside down");
    auto* refusal = find<QLabel>("jointsRefusal");
    EXPECT_TRUE(refusal->isVisible());
    EXPECT_TRUE(refusal->text().contains("box, hand"));
    EXPECT_TRUE(refusal->text().contains("right, left"));
    EXPECT_EQ(joints->text(1, 3), "upside down");
    EXPECT_EQ(session().job(), before);
    cell(joints, 1, 3, "r");
    EXPECT_FALSE(refusal->isVisible());
    EXPECT_EQ(session().job().hilt.joints[1].hand, job::Hand::right);
    cell(joints, 1, 1, "900");
    EXPECT_TRUE(refusal->text().contains("not between two sections"));
    auto* carriers = table("carriers");
    cell(carriers, 0, 4, "B1, K1, X9");
    EXPECT_TRUE(find<QLabel>("carriersRefusal")->text().contains("no part X9"));
    cell(carriers, 0, 4, "B1 U1");
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "K1")->carrier, "");
    EXPECT_EQ(job::find_ref(session().job().parts, "U1")->carrier, "C1");
}

TEST_F(HiltTest, TheSliderMovesTheCarrierAlongItsWay) {
    open_sheet("Dunlin", 2);
    EXPECT_TRUE(find<QLabel>("passes")->text().contains("C1"));
    auto* way = find<QSlider>("slideWay");
    way->setFocus();
    QTest::keyClick(way, Qt::Key_Home);
    EXPECT_EQ(window_->job_view()->selection().options().sliding, "C1");
    EXPECT_GT(window_->job_view()->selection().options().to_go, 50);
    QTest::keyClick(way, Qt::Key_End);
    EXPECT_EQ(window_->job_view()->selection().options().sliding, "");
    EXPECT_TRUE(find<QLabel>("slideWords")->text().contains("in its place"));
    // With a cell that does not pass the ring.
    ASSERT_TRUE(session().edit("Try", job::fit_type("B1", "cell.18650-power")));
    settled();
    EXPECT_TRUE(find<QLabel>("passes")->text().contains("binds"));
    for (int i = 0; i < 30; ++i)
        QTest::keyClick(way, Qt::Key_Left);
    EXPECT_TRUE(find<QLabel>("slideWords")->text().contains("binds"))
        << find<QLabel>("slideWords")->text().toStdString();
    // Leaving the sheet puts it back.
    keys(Qt::Key_PageDown, Qt::ControlModifier);
    EXPECT_EQ(window_->job_view()->selection().options().sliding, "");
}

TEST_F(HiltTest, ATaperIsTypedWithItsTwoDiameters) {
    open_sheet("Heron", 0);
    auto* survey = table("survey");
    cell(survey, 1, 3, "28.4 > 1.1 in");
    settled();
    EXPECT_NEAR(session().job().hilt.sections[1].bore_end->value(), 27.94, 1e-9);
    EXPECT_EQ(survey->text(1, 3), "28.4 > 27.94");
    cell(survey, 1, 3, "28.4 > 36");
    EXPECT_TRUE(find<QLabel>("surveyRefusal")->text().contains("far end"));
    cell(survey, 1, 3, "28.4");
    settled();
    EXPECT_FALSE(session().job().hilt.sections[1].bore_end);
}

TEST_F(HiltTest, PartsArePlacedBesideEachOther) {
    open_sheet("Heron", 2);
    auto* places = table("places");
    cell(places, 2, 1, "112");
    cell(places, 2, 2, "8");
    cell(places, 3, 4, "180");
    settled();
    const job::Part& kill = *job::find_ref(session().job().parts, "K1");
    EXPECT_EQ(kill.at, Millimetre(112));
    EXPECT_EQ(kill.off_axis, Millimetre(8));
    EXPECT_EQ(job::find_ref(session().job().parts, "U1")->turn, Degree(180));
    EXPECT_EQ(session().plan()->fit.of("K1")->beside, std::vector<std::string>{"U1"});
    cell(places, 2, 2, "high");
    EXPECT_TRUE(find<QLabel>("placesRefusal")->text().contains("K1, up"));
    EXPECT_EQ(places->text(2, 2), "high");
}

TEST_F(HiltTest, TheSliceSaysWhatIsInIt) {
    open_sheet("Heron", 2);
    auto* line = find<QLineEdit>("sliceField");
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, "151");
    QTest::keyClick(line, Qt::Key_Return);
    const QString words = find<DrawingView>("slice")->accessibleDescription();
    EXPECT_TRUE(words.contains("ring at 151 mm")) << words.toStdString();
    EXPECT_TRUE(words.contains("U1"));
    line->selectAll();
    QTest::keyClicks(line, "7000");
    QTest::keyClick(line, Qt::Key_Return);
    EXPECT_TRUE(
        qobject_cast<EntryField*>(line->parentWidget())->refusal().contains("not on the hilt"));
}

TEST_F(HiltTest, StepsAndAccessAreRead) {
    open_sheet("Heron", 3);
    auto* steps = find<Table>("assemblySteps");
    ASSERT_GT(steps->rows().rowCount(), 8);
    bool left_hand = false;
    for (int r = 0; r < steps->rows().rowCount(); ++r) {
        EXPECT_FALSE(steps->text(r, 2).isEmpty());
        left_hand = left_hand || steps->text(r, 1).contains("left-hand");
    }
    EXPECT_TRUE(left_hand);
    EXPECT_TRUE(find<QLabel>("assemblyKeys")->text().contains("2.5 mm hex"));
    auto* access = find<Table>("access");
    EXPECT_EQ(access->rows().rowCount(), 5);
    EXPECT_EQ(access->text(3, 0), "kill switch");
    EXPECT_EQ(access->text(3, 1), "0");
    EXPECT_TRUE(find<QLabel>("hiltFigures")->text().contains("without blade"));
}

TEST_F(HiltTest, AnArrangementIsTakenAndUndone) {
    open_sheet("Dunlin", 4);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("arrange1"); }, 8000));
    QTest::mouseClick(find("arrange1"), Qt::LeftButton);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18500");
    EXPECT_GE(session().plan()->fit.tightest()->spare.value(), 0);
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("dunlin"));
    // Where nothing goes in, the smallest change is told.
    ASSERT_TRUE(session().edit("Ring", [](job::Job& j) {
        job::find_name(j.hilt.sections, "ring")->bore = Millimetre(16);
    }));
    settled();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return find<QLabel>("arrangeSays")->text().contains("smallest change"); }, 8000));
}

} // namespace
} // namespace conductus::app
