// SPDX-License-Identifier: GPL-3.0-or-later
// A second blade and a plug for one socket, from a new job and by keyboard: what is mated is drawn
// and reckoned with, and the worst set is told.
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <tuple>

#include "app/shell/gauge_bar.h"
#include "app/shell/section_pane.h"
#include "app/window.h"
#include "core/job/mating.h"

namespace conductus::app {
namespace {

class BladeSets : public Window {
protected:
    Gauge* peak() { return find<Gauge>("gauge1"); }
};

TEST_F(BladeSets, ASetIsMadeAndMatedFromANewJobByKeyboard) {
    begin_job("Two for one");
    ASSERT_EQ(session().job().blades.size(), 1u);
    const double one = *session().plan()->figure("peak-current")->value;
    EXPECT_TRUE(find<QPushButton>("mated")->isHidden()) << "there is no choice yet";

    keys(Qt::Key_3, Qt::AltModifier);
    turn_to("lightsSheets", 6);
    auto* table = find<Table>("blades");
    ASSERT_TRUE(table);
    retype(table, 1, 0, "LONG");
    settled();
    ASSERT_EQ(session().job().blades.size(), 2u) << table->refusal()->text().toStdString();
    EXPECT_EQ(session().job().blades[1].ref, "LONG");
    EXPECT_EQ(session().job().blades[1].connector, session().job().blades[0].connector);
    EXPECT_EQ(*session().plan()->figure("peak-current")->value, one) << "it is laid aside";
    EXPECT_EQ(table->text(1, 8), "laid aside");
    retype(table, 1, 7, "assumed");
    settled();
    EXPECT_EQ(session().job().blades[1].count, job::PixelCount::assumed);
    EXPECT_TRUE(find<QLabel>("setsSaid")->text().contains("assumed"));
    // Nonsense is refused beside the table and kept to be mended, in a cell of each kind.
    const std::tuple<int, const char*, const char*> nonsense[] = {
        {1, "stick", "blade"}, {2, "long", "813"},       {4, "Q9", "P1"},
        {5, "Q9", ""},         {6, "many", "100 + 100"}, {7, "lots", "assumed"}};
    for (const auto& [column, wrong, right] : nonsense) {
        const job::Job before = session().job();
        retype(table, 1, column, wrong);
        EXPECT_TRUE(table->refusal()->isVisible()) << wrong;
        EXPECT_EQ(table->text(1, column), wrong);
        EXPECT_EQ(session().job(), before) << wrong;
        retype(table, 1, column, right);
        EXPECT_TRUE(table->refusal()->isHidden()) << right;
    }
    EXPECT_EQ(session().job().blades[1].strips[0].pixels, 100);
    retype(table, 2, 0, "CAP");
    settled();
    retype(table, 2, 1, "plug");
    settled();
    EXPECT_EQ(session().job().blades[2].form, job::BladeForm::plug);

    auto* button = find<QPushButton>("mated");
    EXPECT_TRUE(button->isVisible());
    auto* sockets = find<Table>("sockets");
    retype(sockets, 0, 1, "Q9");
    EXPECT_TRUE(sockets->refusal()->isVisible());
    retype(sockets, 0, 1, "LONG");
    settled();
    EXPECT_EQ(job::set_text(job::mated_set(session().job())), "LONG in P1");
    EXPECT_EQ(table->text(0, 8), "laid aside");
    EXPECT_TRUE(button->text().contains("LONG in P1"));
    retype(sockets, 0, 1, "nothing");
    settled();
    EXPECT_EQ(job::set_text(job::mated_set(session().job())), "nothing in P1");
    EXPECT_LT(*session().plan()->figure("peak-current")->value, 0.5 * one);
    ASSERT_TRUE(QTest::qWaitFor([&] { return !peak()->worst_text().isEmpty(); }));
    EXPECT_TRUE(peak()->worst_text().contains("in P1"));

    // The same from the top of the section.
    QAction* put = nullptr;
    for (QAction* action : button->menu()->actions())
        if (action->text().startsWith("BL1")) put = action;
    ASSERT_TRUE(put);
    put->trigger();
    settled();
    EXPECT_EQ(*session().plan()->figure("peak-current")->value, one);
}

} // namespace
} // namespace conductus::app
