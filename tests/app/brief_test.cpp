// SPDX-License-Identifier: GPL-3.0-or-later
// The brief: taking a job in, agreeing, inspecting, keeping milestones.
#include <QClipboard>
#include <QImage>
#include <QListWidget>
#include <QMimeData>
#include <QTabBar>

#include "app/shell/fields.h"
#include "app/shell/state_mark.h"
#include "app/stations/brief/owner_sheet.h"
#include "app/stations/brief/picture_strip.h"
#include "core/job/edits.h"
#include "core/job/limits.h"
#include "window.h"

namespace conductus::app {
namespace {

/// What can be read of all labels and lists in sight.
QString in_sight(QWidget& window) {
    QStringList all;
    for (auto* l : window.findChildren<QLabel*>())
        if (l->isVisible()) all << l->text();
    for (auto* l : window.findChildren<QListWidget*>())
        for (int i = 0; l->isVisible() && i < l->count(); ++i)
            all << l->item(i)->text();
    return all.join("\n");
}

TEST_F(Window, AJobIsTakenInAgreedBrokenAndFoundAgainByKeyboardAlone) {
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Sandpiper");
    tab_to("newKind");
    keys(Qt::Key_Down); // repair
    keys(Qt::Key_Up);   // conversion after all
    tab_to("newCreate");
    keys(Qt::Key_Space);
    settled();
    ASSERT_TRUE(window_->job_view());
    EXPECT_EQ(session().job().name, "Sandpiper");
    EXPECT_EQ(session().job().kind, job::Kind::conversion);
    EXPECT_TRUE(find<QAbstractButton>("toStart")->isChecked()) << "a new job begins at its start";
    keys(Qt::Key_1, Qt::AltModifier);

    tab_to("briefPromised");
    type("2 May 2027");
    tab_to("briefUse");
    for (int i = 0; i < 3; ++i)
        keys(Qt::Key_Down);
    EXPECT_EQ(session().job().promised, "2027-05-02");
    EXPECT_EQ(session().job().brief.occasion, job::Occasion::rehearsal);
    tab_to("briefClean");
    type("40");
    tab_to("briefLoudness");
    type("55 %");
    keys(Qt::Key_Return);
    EXPECT_EQ(session().job().use.clean, Minute(40));
    EXPECT_NEAR(session().job().use.volume, 0.55, 1e-12);
    tab_to("addWish");
    type("A sea green that holds to the tip");
    keys(Qt::Key_Return);
    ASSERT_EQ(session().job().brief.wishes.size(), 1u);

    keys(Qt::Key_PageDown, Qt::ControlModifier);
    keys(Qt::Key_PageDown, Qt::ControlModifier);
    tab_to("inspection");
    keys(Qt::Key_F);
    keys(Qt::Key_Down);
    keys(Qt::Key_W);
    EXPECT_EQ(session().job().inspection[0].condition, job::Condition::fine);
    EXPECT_EQ(session().job().inspection[1].condition, job::Condition::worn);

    keys(Qt::Key_2, Qt::AltModifier);
    tab_to("toStartSheet");
    keys(Qt::Key_Space);
    tab_to("startMake");
    keys(Qt::Key_Space);
    settled();
    ASSERT_FALSE(session().job().parts.empty());

    keys(Qt::Key_1, Qt::AltModifier);
    keys(Qt::Key_PageUp, Qt::ControlModifier);
    tab_to("addMeasure");
    EXPECT_EQ(find<QComboBox>("addMeasure")->currentText(), "clean runtime");
    tab_to("addAgreement");
    keys(Qt::Key_Space);
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "agreement1");
    type("Clean through two rehearsals");
    keys(Qt::Key_Return);
    settled();
    tab_to("agree1");
    keys(Qt::Key_Space);
    settled();
    const job::Agreement agreed = session().job().brief.agreements.at(0);
    EXPECT_EQ(agreed.text, "Clean through two rehearsals");
    EXPECT_EQ(agreed.on, QDate::currentDate().toString(Qt::ISODate).toStdString());
    ASSERT_TRUE(agreed.value);
    EXPECT_EQ(*agreed.value, *session().plan()->figure("first-crackle")->value);
    EXPECT_EQ(find<StateMark>("agreementState1")->accessibleName(), "holds");

    for (int i = 0; i < 3; ++i)
        keys(Qt::Key_PageDown, Qt::ControlModifier);
    tab_to("markWhat");
    keys(Qt::Key_Down);
    tab_to("markNote");
    type("at the bench");
    keys(Qt::Key_Return);
    tab_to("addNote");
    type("Came wrapped in oilcloth.");
    keys(Qt::Key_Return);
    settled();
    ASSERT_EQ(session().job().milestones.size(), 1u);
    EXPECT_EQ(session().job().milestones[0].mark, job::Mark::agreed);
    EXPECT_EQ(session().job().milestones[0].note, "at the bench");
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:agreement.broken"));

    // A smaller cell breaks the promise, and it is seen at once.
    keys(Qt::Key_2, Qt::AltModifier);
    tab_to("parts");
    const auto& fitted = session().job().parts;
    const auto row = static_cast<int>(job::find_ref(fitted, "B1") - fitted.data());
    retype(find<Table>("parts"), row, 1, "14500");
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.14500");
    EXPECT_TRUE(findings::finding_of(session().plan()->findings, "agreement.broken"));
    keys(Qt::Key_1, Qt::AltModifier);
    for (int i = 0; i < 3; ++i)
        keys(Qt::Key_PageUp, Qt::ControlModifier);
    EXPECT_EQ(find<StateMark>("agreementState1")->accessibleName(), "broken");
    EXPECT_TRUE(find<QLabel>("agreementNow1")->text().contains("now"));
    for (int i = 0; i < 3; ++i)
        keys(Qt::Key_PageDown, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return in_sight(*window_).contains("agreement 1 is now broken"); }, 5000));
    EXPECT_TRUE(in_sight(*window_).contains(QString::fromUtf8("3000 mAh → 14500 cell, 800 mAh")));

    keys(Qt::Key_0, Qt::AltModifier);
    keys(Qt::Key_F, Qt::ControlModifier);
    type("oilcl");
    ASSERT_TRUE(find<JobCard>("card:Sandpiper")->isVisible());
    EXPECT_FALSE(find<JobCard>("card:Heron")->isVisible());
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return find<JobCard>("card:Sandpiper")->foot().contains("oilcloth"); }));
    keys(Qt::Key_Return);
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "card:Sandpiper");
    keys(Qt::Key_Return);
    settled();
    EXPECT_EQ(session().job().name, "Sandpiper");
}

class BriefTest : public Window {
protected:
    void open_sheet(const QString& job, int sheet) {
        open_card(job);
        keys(Qt::Key_1, Qt::AltModifier);
        find<QTabBar>("briefSheets")->setCurrentIndex(sheet);
        settled();
    }
    void fill(const QString& field, const QString& text) {
        auto* line = find<QLineEdit>(field);
        line->setFocus();
        line->selectAll();
        QTest::keyClick(line, Qt::Key_Delete);
        // Signs that are on no key are pasted.
        const bool keys_have_it =
            std::all_of(text.begin(), text.end(), [](QChar c) { return c.unicode() < 128; });
        QApplication::clipboard()->setText(text);
        if (keys_have_it)
            QTest::keyClicks(line, text);
        else
            QTest::keyClick(line, Qt::Key_V, Qt::ControlModifier);
        QTest::keyClick(line, Qt::Key_Return);
    }
    /// What stands under a field that refused.
    QString refusal(const QString& field) {
        return qobject_cast<EntryField*>(find<QLineEdit>(field)->parentWidget())->refusal();
    }
    void choose(const QString& combo, const QString& text) {
        auto* c = find<QComboBox>(combo);
        const int at = c->findText(text, Qt::MatchStartsWith);
        ASSERT_GE(at, 0) << text.toStdString();
        c->setFocus();
        while (c->currentIndex() != at)
            QTest::keyClick(c, c->currentIndex() < at ? Qt::Key_Down : Qt::Key_Up);
    }
};

TEST_F(BriefTest, TermsAreTypedAndRefusedInWords) {
    open_sheet("Heron", 0);
    fill("briefPromised", "soon");
    EXPECT_TRUE(refusal("briefPromised").contains("no date"));
    EXPECT_EQ(find<QLineEdit>("briefPromised")->text(), "soon") << "what was typed stays";
    EXPECT_EQ(session().job().promised, "2027-03-12");
    fill("briefPromised", "3.4.2027");
    EXPECT_EQ(session().job().promised, "2027-04-03");
    EXPECT_EQ(refusal("briefPromised"), "");
    fill("briefBlades", QString::fromUtf8("32 in x 1 in; 178 × 19.1"));
    ASSERT_EQ(session().job().brief.blades.size(), 2u);
    EXPECT_NEAR(session().job().brief.blades[0].length.value(), 812.8, 1e-9);
    EXPECT_NEAR(session().job().brief.blades[1].outer.value(), 19.1, 1e-9);
    settled();
    EXPECT_TRUE(window_->findChild<QWidget*>("finding:brief.blade-differs"));
    fill("briefBlades", "813");
    EXPECT_TRUE(refusal("briefBlades").contains("semicolon"));
    fill("briefBudget", "1200,50 EUR");
    EXPECT_NEAR(*session().job().brief.budget, 1200.5, 1e-9);
    fill("briefBudget", "much");
    EXPECT_FALSE(refusal("briefBudget").isEmpty());
    fill("briefClean", "9999");
    EXPECT_TRUE(refusal("briefClean").contains("1440"));
    choose("briefKind", "repair");
    EXPECT_EQ(session().job().kind, job::Kind::repair);
    choose("briefSwap", "not acceptable");
    settled();
    EXPECT_TRUE(window_->findChild<QWidget*>("finding:brief.needs-swap"));
    fill("briefName", "");
    EXPECT_FALSE(refusal("briefName").isEmpty()) << "a job has a name";
}

TEST_F(BriefTest, WishesAreLinkedTickedAndTakenOut) {
    open_sheet("Heron", 0);
    auto state = [&](int n) {
        return find<StateMark>(QString("wishState%1").arg(n))->accessibleName();
    };
    EXPECT_EQ(state(1), "done");
    EXPECT_EQ(state(4), "open");
    EXPECT_TRUE(find<StateMark>("wishState4")->toolTip().contains("Pins of P1 carry"));
    EXPECT_FALSE(find<QAbstractButton>("wishDone4")->isEnabled()) << "the plan knows better";
    QTest::mouseClick(find<QAbstractButton>("fix:pins.over-current"), Qt::LeftButton);
    settled();
    EXPECT_EQ(state(4), "done");
    EXPECT_EQ(state(6), "open");
    QTest::mouseClick(find<QAbstractButton>("wishDone6"), Qt::LeftButton, {},
                      QPoint(8, find<QAbstractButton>("wishDone6")->height() / 2));
    settled();
    EXPECT_EQ(state(6), "done");
    choose("wishProof6", "look Kelp");
    settled();
    EXPECT_EQ(session().job().brief.wishes[5].by, job::Proof::look);
    EXPECT_EQ(session().job().brief.wishes[5].target, "Kelp");
    EXPECT_EQ(state(6), "done");
    QTest::mouseClick(find("wishRemove6"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().job().brief.wishes.size() == 6; }));
    EXPECT_EQ(find<QLineEdit>("wish6")->text(), "Spare cell in a case, not in a pocket");
    EXPECT_FALSE(window_->findChild<QWidget*>("wish7"));
    keys(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(find("wish7"));
}

TEST_F(BriefTest, AgreementsPromiseAreBrokenAndAgreedAnew) {
    open_sheet("Dunlin", 1);
    auto state = [&] { return find<StateMark>("agreementState1")->accessibleName(); };
    EXPECT_EQ(state(), "broken");
    EXPECT_TRUE(find<QLabel>("agreementNow1")->text().contains("now 43"));
    EXPECT_TRUE(find<QLabel>("agreementNow1")->text().contains("agreed 26 Oct 2026"));
    EXPECT_EQ(find<QLabel>("agreementCount")->text(), "1 broken");
    fill("agreementValue1", "a while");
    EXPECT_FALSE(refusal("agreementValue1").isEmpty());
    fill("agreementValue1", "30 min");
    settled();
    EXPECT_EQ(session().job().brief.agreements[0].value, 30);
    EXPECT_EQ(state(), "holds");
    choose("agreementBound1", "at most");
    settled();
    EXPECT_EQ(state(), "broken");
    QTest::mouseClick(find("agree1"), Qt::LeftButton);
    settled();
    EXPECT_EQ(state(), "holds") << "what the plan says now is what is promised";
    EXPECT_NEAR(*session().job().brief.agreements[0].value, 42.5, 1);
    choose("addMeasure", "blades");
    QTest::mouseClick(find("addAgreement"), Qt::LeftButton);
    settled();
    EXPECT_EQ(find<StateMark>("agreementState4")->accessibleName(), "proposed");
    EXPECT_EQ(session().job().brief.agreements[3].bound, job::Bound::same);
    QTest::mouseClick(find("agreementRemove4"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return session().job().brief.agreements.size() == 3; }));
}

TEST_F(BriefTest, AnInspectedReadingIsPlannedWith) {
    open_sheet("Heron", 2);
    const double before = *session().plan()->figure("board-sag")->value;
    find("inspection")->setFocus();
    keys(Qt::Key_Down);
    const std::string item = session().job().inspection[1].item;
    EXPECT_EQ(find<QLabel>("itemTitle")->text().toStdString(), item);
    choose("itemPart", "B1");
    fill("itemReading", QString::fromUtf8("70 mΩ"));
    choose("itemCondition", "worn");
    settled();
    EXPECT_NEAR(job::find_ref(session().job().parts, "B1")->measured.resistance->value(), 0.07,
                1e-12);
    EXPECT_GT(*session().plan()->figure("board-sag")->value, before + 0.05);
    EXPECT_TRUE(find<QLabel>("itemFeeds")->isVisible());
    EXPECT_TRUE(find<QLabel>("itemFeeds")->text().contains("overrides"));
    fill("itemReading", "70 furlongs");
    EXPECT_TRUE(refusal("itemReading").contains("unit"));
    fill("itemReading", "70");
    find("inspection")->setFocus();
    keys(Qt::Key_R);
    settled();
    EXPECT_EQ(session().job().inspection[1].fate, job::Fate::replaced);
    EXPECT_FALSE(job::find_ref(session().job().parts, "B1")->measured.resistance);
    fill("addInspected", "The bell");
    EXPECT_EQ(session().job().inspection.back().item, "The bell");
}

TEST_F(BriefTest, PicturesArePastedBoundedAndKept) {
    open_sheet("Heron", 2);
    find("inspection")->setFocus();
    QImage photo(3000, 2000, QImage::Format_RGB32);
    for (int y = 0; y < photo.height(); ++y)
        for (int x = 0; x < photo.width(); ++x)
            photo.setPixel(x, y, qRgb(x * y % 251, (x * 7 + y) % 255, (x ^ y) % 255));
    auto* list = find<QListWidget>("pictures");
    auto paste = [&](const QImage& image) {
        auto* data = new QMimeData;
        data->setImageData(image);
        QApplication::clipboard()->setMimeData(data);
        QTest::keyClick(list, Qt::Key_V, Qt::ControlModifier);
        settled();
    };
    paste(photo);
    ASSERT_EQ(session().job().inspection[0].pictures.size(), 1u);
    const std::string id = session().job().inspection[0].pictures[0].id;
    const auto kept = session().attachment(id);
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept->type, "image/jpeg");
    EXPECT_LE(kept->bytes.size(), job::limits::picture_bytes);
    const QImage back = QImage::fromData(reinterpret_cast<const uchar*>(kept->bytes.data()),
                                         static_cast<int>(kept->bytes.size()));
    EXPECT_EQ(back.width(), 1600);
    EXPECT_EQ(list->count(), 1);
    EXPECT_TRUE(shop::Book::open(book_, shop::Access::read_only)->attachment(id)) << "in the book";

    QImage small(40, 30, QImage::Format_RGB32);
    for (unsigned i = 1; i < job::limits::pictures_each + 3; ++i) {
        small.fill(qRgb(static_cast<int>(i) * 10, 0, 0));
        paste(small);
    }
    EXPECT_EQ(session().job().inspection[0].pictures.size(), job::limits::pictures_each);
    EXPECT_TRUE(find<QLabel>("pictureRefusal")->isVisible());
    list->setCurrentRow(0);
    QTest::keyClick(list, Qt::Key_Delete);
    EXPECT_EQ(session().job().inspection[0].pictures.size(), job::limits::pictures_each - 1);
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job().inspection[0].pictures[0].id, id);
    EXPECT_TRUE(shop::Book::open(book_, shop::Access::read_only)->verify(parts()));
    EXPECT_FALSE(picture_to_keep(QImage()));
}

TEST_F(BriefTest, TheSnapshotIsPastedAndComparedWithThePlan) {
    open_sheet("Heron", 3);
    auto* wires = find<Table>("foundWires");
    QApplication::clipboard()->setText(
        "B1.plus\tK1.in\tred\t\nB1.minus\tP1.minus\tblack\tbridged\n");
    wires->setFocus();
    go(wires, 0, 0);
    QTest::keyClick(wires, Qt::Key_V, Qt::ControlModifier);
    ASSERT_EQ(session().job().as_found.wires.size(), 2u);
    EXPECT_EQ(session().job().as_found.wires[1].note, "bridged");
    EXPECT_EQ(session().job().as_found.on,
              QDate::currentDate().toString(Qt::ISODate).toStdString());
    EXPECT_EQ(wires->text(0, 4), "the same");
    EXPECT_EQ(wires->text(1, 4), "not so");
    EXPECT_TRUE(find<QLabel>("notFound")->text().contains("W2"));
    QTest::mouseClick(find("foundAsPlanned"), Qt::LeftButton);
    EXPECT_EQ(session().job().as_found.wires.size(), session().job().wires.size() + 1);
    go(wires, 1, 0);
    QTest::keyClick(wires, Qt::Key_Delete);
    EXPECT_EQ(session().job().as_found.wires.size(), session().job().wires.size());
    auto* settings = find<Table>("foundSettings");
    settings->setFocus();
    go(settings, 0, 0);
    for (const char c : std::string("pixels")) // the first opens the cell, the rest go into it
        QTest::keyClick(QApplication::focusWidget(), c);
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    turn(); // the table takes the text a turn later
    ASSERT_EQ(session().job().as_found.settings.size(), 1u);
    EXPECT_EQ(session().job().as_found.settings[0].name, "pixels");
}

TEST_F(BriefTest, MilestonesAreComparedAndGoneBackTo) {
    open_sheet("Heron", 4);
    auto* words = find<QListWidget>("compareWords");
    ASSERT_TRUE(QTest::qWaitFor([&] { return words->count() > 0; }));
    const QString told = in_sight(*window_);
    EXPECT_TRUE(
        told.contains(QString::fromUtf8("cell B1: 18500 cell, 2000 mAh → 18650 power cell")))
        << told.toStdString();
    EXPECT_TRUE(told.contains("clean runtime 4"));
    EXPECT_TRUE(told.contains("Two-pin pair for the kill ordered"));
    const auto before = session().job();
    QTest::mouseClick(find("goBack"), Qt::LeftButton);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18500");
    EXPECT_EQ(session().job().milestones, before.milestones);
    EXPECT_EQ(session().job().log, before.log);
    EXPECT_TRUE(find<QAbstractButton>("undo")->toolTip().contains("Go back to agreed"));
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), before);
    // Any edit of the history can be compared with, and gone back to.
    ASSERT_TRUE(session().edit("Quieter", [](job::Job& j) { j.use.volume = 0.1; }));
    settled();
    choose("compareBefore", QString::fromUtf8("after “from the demo shop”"));
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return in_sight(*window_).contains(QString::fromUtf8("volume: 0.7 → 0.1")); }));
    EXPECT_TRUE(find<QLabel>("compareSummary")->text().contains("1 change"));
}

TEST_F(BriefTest, TheOwnersPageGoesOutAsPdfAndText) {
    open_sheet("Dunlin", 5);
    auto* sheet = window_->findChild<OwnerSheet*>();
    ASSERT_TRUE(sheet);
    const QString pdf = QString::fromStdString((folder_ / "page.pdf").string());
    sheet->write(pdf);
    EXPECT_EQ(find<QLabel>("ownerNote")->text(), "saved");
    EXPECT_EQ(read_file(folder_ / "page.pdf").substr(0, 5), "%PDF-");
    EXPECT_GT(std::filesystem::file_size(folder_ / "page.pdf"), 5000u);
    sheet->write(QString::fromStdString((folder_ / "page.txt").string()));
    EXPECT_NE(read_file(folder_ / "page.txt").find("An hour of the ferry scene"),
              std::string::npos);
    sheet->write(QString::fromStdString((folder_ / "none/page.pdf").string()));
    EXPECT_TRUE(find<QLabel>("ownerNote")->text().contains("can not be written"));
    sheet->write("page.doc");
    EXPECT_TRUE(find<QLabel>("ownerNote")->text().contains(".pdf or .txt"));
    QTest::mouseClick(find("ownerCopy"), Qt::LeftButton);
    EXPECT_TRUE(QApplication::clipboard()->text().contains("Cautions"));
    EXPECT_TRUE(find("ownerPreview")->accessibleDescription().contains("Must-haves"));
}

} // namespace
} // namespace conductus::app
