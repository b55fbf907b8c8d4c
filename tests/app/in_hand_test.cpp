// SPDX-License-Identifier: GPL-3.0-or-later
// What a cell is held between, when a board sleeps, and when to change the cell: from a new job, by
// keyboard, with nonsense typed on the way.
#include "app/session/words.h"
#include "app/shell/state_mark.h"
#include "app/window.h"

namespace conductus::app {
namespace {

class InHand : public Window {
protected:
    void page_of(const QString& ref) {
        window_->job_view()->selection().choose(ref);
        keys(Qt::Key_Return, Qt::AltModifier);
        turn();
    }
    Table* values() { return find<Table>("partValues"); }
    int row(const QString& name) {
        for (int r = 0; r < values()->rows().source_count(); ++r)
            if (values()->text(r, 0).startsWith(name)) return r;
        ADD_FAILURE() << name.toStdString() << " is not shown";
        return 0;
    }
    void refused(const QString& name, const QString& nonsense) {
        retype(values(), row(name), 1, nonsense);
        EXPECT_TRUE(values()->refusal()->isVisible()) << name.toStdString();
        EXPECT_EQ(values()->text(row(name), 1), nonsense) << "it is kept to be mended";
    }
    void taken(const QString& name, const QString& value) {
        retype(values(), row(name), 1, value);
        settled();
        EXPECT_TRUE(values()->refusal()->isHidden()) << values()->refusal()->text().toStdString();
    }
    const job::Part& part(const char* ref) { return *job::find_ref(session().job().parts, ref); }
    double figure(const char* id) { return session().plan()->figure(id)->value.value_or(-1); }
};

TEST_F(InHand, ABayABoardsSleepAndThePercentComeFromANewJobByKeyboard) {
    begin_job("From nothing");
    const double peak = figure("peak-current");

    page_of("B1");
    EXPECT_TRUE(values()->text(row("held between"), 1).contains("spring and plate"));
    taken("held between", "phosphor bronze leaves");
    EXPECT_EQ(part("B1").bay, "bay.leaf");
    EXPECT_GT(figure("peak-current"), peak) << "less resistance lets more through";
    EXPECT_TRUE(values()->text(row("measured bay contacts"), 1).contains("22"));
    refused("measured bay contacts", "as new");
    taken("measured bay contacts", "35");
    EXPECT_NEAR(part("B1").bay_measured->value(), 0.035, 1e-12);
    refused("held between", "chewing gum");
    taken("held between", "");
    EXPECT_FALSE(part("B1").bay);

    page_of("U1");
    refused("sleeps after", "soon");
    taken("sleeps after", "120");
    EXPECT_EQ(*part("U1").chosen.sleep_after, Second(120));
    keys(Qt::Key_Escape);

    // What follows for the owner, and that it can be agreed.
    keys(Qt::Key_4, Qt::AltModifier);
    turn_to("powerSheets", 7);
    const std::string look = session().job().looks.front().name;
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            const QString said = find<QLabel>("percentsSaid")->text();
            return said.contains(words(look) + ":") &&
                   said.count('\n') >= static_cast<int>(session().job().looks.size()) - 1;
        },
        10000))
        << find<QLabel>("percentsSaid")->text().toStdString();
    keys(Qt::Key_1, Qt::AltModifier);
    turn_to("briefSheets", 1);
    tab_to("addMeasure");
    auto* measures = find<QComboBox>("addMeasure");
    const QString wanted = "change the cell below, with " + words(look);
    for (int i = 0; i < measures->count() && measures->currentText() != wanted; ++i)
        keys(Qt::Key_Down);
    ASSERT_EQ(measures->currentText(), wanted);
    tab_to("addAgreement");
    keys(Qt::Key_Space);
    type("The gauge is looked at in the breaks");
    keys(Qt::Key_Return);
    settled();
    tab_to("agree1");
    keys(Qt::Key_Space);
    settled();
    const job::Agreement& agreed = session().job().brief.agreements.at(0);
    EXPECT_EQ(agreed.measure, job::percent_measure + look);
    ASSERT_TRUE(agreed.value);
    EXPECT_GE(*agreed.value, 0);
    EXPECT_LE(*agreed.value, 100);
    EXPECT_EQ(find<StateMark>("agreementState1")->accessibleName(), "holds");
}

} // namespace
} // namespace conductus::app
