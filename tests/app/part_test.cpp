// SPDX-License-Identifier: GPL-3.0-or-later
// All of a part in one place, in the real window.
#include "app/stations/part/part_page.h"

#include "app/session/words.h"
#include "app/shell/section_pane.h"
#include "app/window.h"

namespace conductus::app {
namespace {

class PartSheet : public Window {
protected:
    void open(const QString& ref) {
        window_->job_view()->selection().open(ref);
        turn();
        ASSERT_TRUE(page()->isVisible()) << ref.toStdString();
        ASSERT_EQ(page()->ref(), ref);
    }
    PartPage* page() { return window_->findChild<PartPage*>(); }
    Table* values() { return find<Table>("partValues"); }
    int row(const QString& name) {
        for (int r = 0; r < values()->rows().source_count(); ++r)
            if (values()->text(r, 0).startsWith(name)) return r;
        ADD_FAILURE() << name.toStdString() << " is not shown";
        return 0;
    }
    const job::Part& part(const char* ref) { return *job::find_ref(session().job().parts, ref); }
};

TEST_F(PartSheet, OpensFromTheSectionByDoubleClickAndEnterAndClosesByEsc) {
    open_card("Heron");
    auto* view = window_->findChild<SectionView*>();
    QPointF at;
    for (const HitBox& box : view->boxes())
        if (box.ref == "B1") at = box.box.center();
    QTest::mouseDClick(view, Qt::LeftButton, {}, view->to_widget(at).toPoint());
    turn();
    EXPECT_TRUE(page()->isVisible());
    EXPECT_EQ(page()->ref(), "B1");
    keys(Qt::Key_Escape);
    turn();
    EXPECT_FALSE(page()->isVisible());
    EXPECT_TRUE(find<QWidget>("survey")->isVisible()) << "the station's page is there again";
    view->setFocus();
    keys(Qt::Key_Return);
    turn();
    EXPECT_TRUE(page()->isVisible());
    keys(Qt::Key_Escape);
    keys(Qt::Key_Return, Qt::AltModifier);
    turn();
    EXPECT_TRUE(page()->isVisible()) << "from anywhere, what is chosen";
}

TEST_F(PartSheet, EveryValueOfACellIsTypedThere) {
    open_card("Heron");
    open("B1");
    retype(values(), row("starts at"), 1, "24.5");
    retype(values(), row("up"), 1, "1.5");
    retype(values(), row("its minus faces"), 1, "emitter");
    retype(values(), row("measured resistance"), 1, "31");
    retype(values(), row("measured capacity"), 1, "2750");
    retype(values(), row("protection"), 1, "12 A");
    retype(values(), row("note"), 1, "the second of two");
    settled();
    const job::Part& b1 = part("B1");
    EXPECT_EQ(b1.at, Millimetre(24.5));
    EXPECT_EQ(b1.off_axis, Millimetre(1.5));
    EXPECT_EQ(b1.minus_faces, job::End::emitter);
    EXPECT_NEAR(b1.measured.resistance->value(), 0.031, 1e-12);
    EXPECT_EQ(*b1.measured.capacity, MilliAmpereHour(2750));
    EXPECT_EQ(b1.protection, "protection.12a");
    EXPECT_EQ(b1.note, "the second of two");
    // Cleared, the catalogue's figure counts again, and the panel says which that is.
    go(values(), row("measured resistance"), 1);
    keys(Qt::Key_Delete);
    turn();
    EXPECT_FALSE(part("B1").measured.resistance);
    EXPECT_TRUE(values()->text(row("measured resistance"), 1).contains("of the catalogue"));
}

TEST_F(PartSheet, AnotherNameAndAnotherTypeKeepItOpen) {
    open_card("Heron");
    open("K1");
    retype(values(), row("called"), 1, "K7");
    settled();
    window_->job_view()->selection().choose("K7");
    EXPECT_TRUE(job::find_ref(session().job().parts, "K7"));
    open("K7");
    retype(values(), row("type"), 1, "slide switch, 10 A");
    settled();
    EXPECT_EQ(part("K7").type, "kill.slide-10a");
    EXPECT_TRUE(page()->isVisible());
    QTest::mouseClick(find<QAbstractButton>("partRemove"), Qt::LeftButton);
    turn();
    EXPECT_FALSE(page()->isVisible()) << "what is gone is not shown";
    EXPECT_FALSE(job::find_ref(session().job().parts, "K7"));
}

TEST_F(PartSheet, TerminalsSayWhatIsOnThemAndLeadThere) {
    open_card("Heron");
    open("U1");
    auto* ends = find<Table>("partTerminals");
    int kill = -1, open_pads = 0;
    for (int r = 0; r < ends->rows().source_count(); ++r) {
        if (ends->text(r, 1).contains("K1.out")) kill = r;
        open_pads += ends->text(r, 1).startsWith("free");
    }
    ASSERT_GE(kill, 0);
    EXPECT_GT(open_pads, 0);
    EXPECT_TRUE(ends->text(kill, 2).contains("A"));
    go(ends, kill, 0);
    keys(Qt::Key_Return);
    turn();
    EXPECT_EQ(page()->ref(), "K1");
}

TEST_F(PartSheet, EveryPartStripAndBladeOfEveryDemoJobHasAPanel) {
    for (const char* name : {"Heron", "Bittern", "Avocet", "Curlew", "Dunlin", "Godwit"}) {
        window_->show_shelf();
        turn();
        open_card(name);
        const job::Job job = session().job();
        QStringList refs;
        for (const job::Part& p : job.parts)
            refs << words(p.ref);
        for (const job::Blade& b : job.blades) {
            refs << words(b.ref);
            for (const auto& s : b.strips)
                refs << words(s.ref);
            for (const auto& s : b.strings)
                refs << words(s.ref);
        }
        for (const QString& ref : refs) {
            open(ref);
            EXPECT_EQ(values()->text(0, 1), ref);
            for (int r = 0; r < values()->rows().source_count(); ++r)
                EXPECT_FALSE(values()->text(r, 0).isEmpty());
        }
    }
}

TEST_F(PartSheet, ABladesPadsAndTheirWiresAreThere) {
    open_card("Bittern");
    open("BL2");
    auto* terminals = find<Table>("partTerminals");
    ASSERT_EQ(terminals->rows().source_count(), 3);
    EXPECT_EQ(terminals->text(0, 0), "plus");
    EXPECT_EQ(terminals->text(0, 1), "on P2");
    // A blade that is wired to its pads has the wires itself.
    open_card("Godwit");
    open("BL1");
    terminals = find<Table>("partTerminals");
    const auto& wires = session().job().wires;
    const auto plus = std::find_if(wires.begin(), wires.end(), [](const job::Wire& w) {
        return w.from == "BL1.plus" || w.to == "BL1.plus";
    });
    ASSERT_NE(plus, wires.end());
    EXPECT_EQ(terminals->text(0, 0), "plus");
    EXPECT_TRUE(terminals->text(0, 1).startsWith(words(plus->ref) + " to "))
        << terminals->text(0, 1).toStdString();
}

} // namespace
} // namespace conductus::app
