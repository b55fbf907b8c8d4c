// SPDX-License-Identifier: GPL-3.0-or-later
// A second blade and a plug for one socket, from a new job and by keyboard: what is mated is drawn
// and reckoned with, and the worst set is told.
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QTabBar>

#include "app/shell/gauge_bar.h"
#include "app/shell/section_pane.h"
#include "app/window.h"
#include "core/job/mating.h"

namespace conductus::app {
namespace {

class BladeSets : public Window {
protected:
    void sheet(int to) {
        auto* bar = find<QTabBar>("lightsSheets");
        for (int i = 0; i < bar->count() && bar->currentIndex() != to; ++i)
            keys(bar->currentIndex() < to ? Qt::Key_PageDown : Qt::Key_PageUp, Qt::ControlModifier);
        ASSERT_EQ(bar->currentIndex(), to);
        settled();
    }
    Gauge* peak() { return find<Gauge>("gauge1"); }
};

TEST_F(BladeSets, ASetIsMadeAndMatedFromANewJobByKeyboard) {
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Two for one");
    keys(Qt::Key_Return);
    settled();
    keys(Qt::Key_2, Qt::AltModifier);
    tab_to("toStartSheet");
    keys(Qt::Key_Space);
    tab_to("startMake");
    keys(Qt::Key_Space);
    settled();
    ASSERT_EQ(session().job().blades.size(), 1u);
    const double one = *session().plan()->figure("peak-current")->value;
    EXPECT_TRUE(find<QPushButton>("mated")->isHidden()) << "there is no choice yet";

    keys(Qt::Key_3, Qt::AltModifier);
    sheet(6);
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
    retype(table, 1, 5, "Q9");
    EXPECT_TRUE(table->refusal()->isVisible());
    retype(table, 1, 5, "");
    retype(table, 2, 0, "CAP");
    settled();
    retype(table, 2, 1, "plug");
    settled();
    EXPECT_EQ(session().job().blades[2].form, job::BladeForm::plug);

    auto* button = find<QPushButton>("mated");
    EXPECT_TRUE(button->isVisible());
    auto* sockets = find<Table>("sockets");
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
