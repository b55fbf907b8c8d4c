// SPDX-License-Identifier: GPL-3.0-or-later
// The pages, as a person works on them.
#include "app/stations/power/ribbon_list.h"
#include "window.h"

namespace conductus::app {
namespace {

TEST_F(Window, SurveyIsTypedAndNonsenseIsKeptBesideItsReason) {
    open_card("Heron");
    keys(Qt::Key_2, Qt::AltModifier);
    auto* survey = find<Table>("survey");
    auto type = [&](int row, int column, const QString& text) {
        retype(survey, row, column, text);
    };
    type(2, 3, "1 in");
    settled();
    EXPECT_NEAR(session().job().hilt.sections[2].bore.value(), 25.4, 1e-9);
    type(1, 2, "145,5");
    settled();
    EXPECT_EQ(session().job().hilt.sections[1].to, Millimetre(145.5));
    EXPECT_EQ(session().job().hilt.sections[2].from, Millimetre(145.5));

    auto* refusal = find<QLabel>("surveyRefusal");
    EXPECT_FALSE(refusal->isVisible());
    const job::Job before = session().job();
    type(2, 3, "wide");
    EXPECT_TRUE(refusal->isVisible());
    EXPECT_TRUE(refusal->text().contains("not a number"));
    EXPECT_EQ(survey->text(2, 3), "wide") << "what was typed is kept";
    EXPECT_EQ(session().job(), before);
    type(2, 3, "36");
    EXPECT_TRUE(refusal->text().contains("no wall"));
    type(2, 3, "25.2");
    settled();
    EXPECT_FALSE(refusal->isVisible());
    EXPECT_NEAR(session().job().hilt.sections[2].bore.value(), 25.2, 1e-9);
}

TEST_F(Window, SectionsAreAddedAndRemoved) {
    open_card("Dunlin");
    keys(Qt::Key_2, Qt::AltModifier);
    auto* survey = find<Table>("survey");
    const int rows = survey->rows().rowCount();
    QTest::mouseClick(find("addSection"), Qt::LeftButton);
    settled();
    EXPECT_EQ(survey->rows().rowCount(), rows + 1);
    go(survey, 0, 0);
    QTest::mouseClick(find("removeSection"), Qt::LeftButton);
    settled();
    EXPECT_EQ(survey->rows().rowCount(), rows);
    EXPECT_EQ(session().job().hilt.sections[0].from, Millimetre(0));
    keys(Qt::Key_Z, Qt::ControlModifier);
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("dunlin"));
}

TEST_F(Window, PartsAreChosenAndMoved) {
    open_card("Heron");
    keys(Qt::Key_2, Qt::AltModifier);
    auto* table = find<Table>("parts");
    // By the beginning of a name; by the list behind the arrow.
    retype(table, 2, 1, "no such thing");
    EXPECT_TRUE(find<QLabel>("partsRefusal")->text().contains("K1, what"));
    EXPECT_EQ(table->text(2, 1), "no such thing");
    const QString other = QString::fromStdString(parts().find("kill.slide-10a")->name);
    const QRect box = table->visualRect(table->model()->index(2, 1));
    retype(table, 2, 1, other);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "K1")->type, "kill.slide-10a");
    EXPECT_FALSE(find<QLabel>("partsRefusal")->isVisible());
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                      QPoint(box.right() - 4, box.center().y()));
    auto* list = table->findChild<QMenu*>("partsChoices");
    ASSERT_TRUE(list) << "the arrow opens what may be chosen";
    QStringList offered;
    for (QAction* action : list->actions())
        offered << action->text();
    EXPECT_TRUE(offered.contains(other)) << offered.join(", ").toStdString();
    QTest::keyClick(list, Qt::Key_Escape);
    window_->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    retype(table, 2, 2, "5");
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "K1")->at, Millimetre(5));
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return window_->findChild<QWidget*>("finding:fit.body-does-not-fit"); }));
    const job::Job before = session().job();
    retype(table, 2, 2, "beside the cell");
    EXPECT_EQ(session().job(), before);
    EXPECT_EQ(table->text(2, 2), "beside the cell");
    EXPECT_TRUE(
        table->model()->index(2, 2).data(Qt::ToolTipRole).toString().contains("not a number"));
}

TEST_F(Window, LooksAreEditedInPlace) {
    open_card("Heron");
    keys(Qt::Key_3, Qt::AltModifier);
    find<QAbstractButton>("rankLooks")->click(); // as the board has them
    auto* looks = find("looks");
    looks->setFocus();
    keys(Qt::Key_Down);
    EXPECT_EQ(find<QComboBox>("sectionLook")->currentText(), "Lamplight");
    EXPECT_EQ(find<QLineEdit>("lookName")->text(), "Lamplight");
    auto* cap = find<QSlider>("lookCap");
    cap->setFocus();
    QTest::keyClick(cap, Qt::Key_PageDown);
    settled();
    EXPECT_NEAR(session().job().looks[1].cap, 0.9, 1e-9);
    auto* style = find<QComboBox>("lookStyle");
    style->setFocus();
    QTest::keyClick(style, Qt::Key_Home);
    settled();
    EXPECT_EQ(session().job().looks[1].style, job::Style::steady);
    auto* name = find<QLineEdit>("lookName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Dusk");
    QTest::keyClick(name, Qt::Key_Return);
    EXPECT_EQ(session().job().looks[1].name, "Lamplight") << "a name that is taken is refused";
    EXPECT_EQ(name->text(), "Dusk");
    EXPECT_TRUE(name->accessibleDescription().contains("used twice"));
    name->selectAll();
    QTest::keyClicks(name, "Oil lamp");
    QTest::keyClick(name, Qt::Key_Return);
    settled();
    EXPECT_EQ(session().job().looks[1].name, "Oil lamp");
    EXPECT_EQ(name->accessibleDescription(), "");
    const auto count = session().job().looks.size();
    QTest::mouseClick(find("addLook"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().looks.size(), count + 1);
    QTest::mouseClick(find("removeLook"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().looks.size(), count);
}

TEST_F(Window, UseFieldsRefuseNonsenseBesideThem) {
    open_card("Heron");
    keys(Qt::Key_4, Qt::AltModifier);
    auto* clean = find<QLineEdit>("useClean");
    auto type = [&](const QString& text) {
        clean->setFocus();
        clean->selectAll();
        QTest::keyClicks(clean, text);
        QTest::keyClick(clean, Qt::Key_Return);
    };
    type("soon");
    EXPECT_EQ(clean->text(), "soon");
    EXPECT_TRUE(clean->accessibleDescription().contains("not a number"));
    EXPECT_EQ(session().job(), demo("heron"));
    type("99999");
    EXPECT_TRUE(clean->accessibleDescription().contains("out of range"));
    type("20 min");
    settled();
    EXPECT_EQ(session().job().use.clean, Minute(20));
    EXPECT_EQ(clean->text(), "20");
    EXPECT_FALSE(window_->findChild<QWidget*>("finding:sound.crackle-early"));
}

TEST_F(Window, ChangesTheCellByKeyboardAndUndoes) {
    open_card("Heron");
    EXPECT_EQ(find<QLabel>("jobName")->text(), "Heron");
    keys(Qt::Key_4, Qt::AltModifier);
    auto* ribbons = find<RibbonList>("ribbons");
    EXPECT_TRUE(ribbons->isVisible());
    ribbons->setFocus();
    const QString clean = gauge(4), fitted = ribbons->row_words(0);
    EXPECT_TRUE(fitted.startsWith("18650 power cell"));
    // Down to the 18350, Enter.
    for (int i = 0; i < 9 && !ribbons->row_words(ribbons->row()).startsWith("18350"); ++i)
        keys(Qt::Key_Down);
    ASSERT_TRUE(ribbons->row_words(ribbons->row()).startsWith("18350"));
    keys(Qt::Key_Return);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18350");
    EXPECT_TRUE(ribbons->row_words(0).startsWith("18350"));
    EXPECT_NE(gauge(4), clean);
    EXPECT_TRUE(find<Gauge>("gauge4")->change_text().startsWith("worse, was"));
    const job::Job kept = in_book("Heron");
    EXPECT_EQ(job::find_ref(kept.parts, "B1")->type, "cell.18350");

    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(gauge(4), clean);
    EXPECT_EQ(ribbons->row_words(0), fitted);
    EXPECT_EQ(in_book("Heron"), demo("heron"));
    keys(Qt::Key_Y, Qt::ControlModifier);
    settled();
    EXPECT_EQ(job::find_ref(session().job().parts, "B1")->type, "cell.18350");
}

} // namespace
} // namespace conductus::app
