// SPDX-License-Identifier: GPL-3.0-or-later
// The long section under the hand: boundaries of sections, readings as they are typed, the way to a
// part and back, every blade where it stands.
#include <QTabBar>
#include <cmath>

#include "app/drawing/section_blade.h"
#include "app/drawing/section_drawing.h"
#include "app/session/words.h"
#include "app/shell/section_pane.h"
#include "app/window.h"
#include "core/job/places.h"
#include "core/plan/analyse.h"

namespace conductus::app {
namespace {

class OnSection : public Window {
protected:
    SectionView* view() { return window_->findChild<SectionView*>(); }
    Scale scale() {
        return section_scale(session().figures(), window_->job_view()->selection().options(),
                             view()->frame(), view()->lettering(), window_->appearance().inks());
    }
    /// A place on the wall where a section ends, in the widget.
    QPoint wall_end(std::size_t section) {
        const auto& sections = session().job().hilt.sections;
        const Scale s = scale();
        const double off = (sections[section].bore.value() + sections[section].outer.value()) / 4;
        return view()->to_widget({s.x(sections[section].to), s.y(-off)}).toPoint();
    }
    void drag(QPoint from, QPoint to) {
        QTest::mousePress(view(), Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i)
            QTest::mouseMove(view(), from + (to - from) * i / 4);
        turn();
    }
};

TEST_F(OnSection, ABoundaryIsDraggedInOneEdit) {
    open_card("Heron");
    const double was = session().job().hilt.sections[1].to.value();
    const QPoint from = wall_end(1);
    const QPoint to = from + QPoint(qRound(6 * scale().per_mm), 0);
    drag(from, to);
    // While it is held nothing is changed, and where it is held is said.
    EXPECT_EQ(session().job().hilt.sections[1].to.value(), was);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return find<QLabel>("sectionMoment")->text().startsWith("end of grip at"); }, 3000));
    QTest::mouseRelease(view(), Qt::LeftButton, {}, to);
    settled();
    const auto& sections = session().job().hilt.sections;
    EXPECT_NEAR(sections[1].to.value(), was + 6, 1.01);
    EXPECT_EQ(sections[2].from, sections[1].to) << "the section beside it goes along";
    session().undo();
    EXPECT_EQ(session().job().hilt.sections[1].to.value(), was);
    // Held too far it stays where it can be; given up it is where it was.
    drag(wall_end(1), wall_end(1) + QPoint(4000, 0));
    keys(Qt::Key_Escape);
    view()->setFocus();
    QTest::keyClick(view(), Qt::Key_Escape);
    QTest::mouseRelease(view(), Qt::LeftButton, {}, wall_end(1));
    EXPECT_EQ(session().job().hilt.sections[1].to.value(), was);
}

TEST_F(OnSection, AReadingIsDrawnLetterByLetter) {
    open_card("Heron");
    auto* survey = find<Table>("survey");
    go(survey, 1, 3);
    std::vector<double> drawn;
    QObject::connect(&session(), &Session::previewed, survey, [&](const PlanPtr& plan) {
        drawn.push_back(plan->job->hilt.sections[1].bore.value());
    });
    QTest::keyClick(survey, Qt::Key_F2);
    auto* field = QApplication::focusWidget();
    ASSERT_NE(field, survey);
    QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(field, "2");
    QTest::qWait(60);
    QTest::keyClicks(field, "9");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !drawn.empty() && drawn.back() == 29; }, 5000));
    QTest::keyClicks(field, ".");
    QTest::keyClicks(field, "6");
    ASSERT_TRUE(QTest::qWaitFor([&] { return drawn.back() == 29.6; }, 5000));
    EXPECT_EQ(session().job().hilt.sections[1].bore, Millimetre(28.4)) << "nothing is changed yet";
    // Nonsense is passed over; Esc gives back what was there.
    QTest::keyClicks(field, "x");
    QTest::keyClick(field, Qt::Key_Escape);
    turn();
    EXPECT_EQ(session().job().hilt.sections[1].bore, Millimetre(28.4));
    EXPECT_FALSE(session().can_undo());
    EXPECT_EQ(survey->text(1, 3), "28.4");
    retype(survey, 1, 3, "29.6");
    settled();
    EXPECT_EQ(session().job().hilt.sections[1].bore, Millimetre(29.6));
}

TEST_F(OnSection, GoesToAPartAndBackByOneKey) {
    open_card("Heron");
    view()->setFocus();
    window_->job_view()->selection().choose("K1");
    QTest::keyClick(view(), Qt::Key_Z);
    EXPECT_GT(view()->zoom(), 2);
    QRectF part;
    for (const HitBox& box : view()->boxes())
        if (box.ref == "K1") part = box.box;
    const QPointF middle = view()->to_widget(part.center());
    EXPECT_TRUE(QRectF(view()->rect()).contains(view()->to_widget(part.topLeft())));
    EXPECT_TRUE(QRectF(view()->rect()).contains(view()->to_widget(part.bottomRight())));
    EXPECT_NEAR(middle.x(), view()->width() / 2.0, view()->width() * 0.1);
    QTest::keyClick(view(), Qt::Key_Z);
    EXPECT_EQ(view()->zoom(), 1);
    keys(Qt::Key_Z, Qt::AltModifier);
    EXPECT_GT(view()->zoom(), 2) << "the same from anywhere";
}

TEST_F(OnSection, EveryBladeOfTheBuildIsThereToScale) {
    open_card("Bittern");
    std::map<QString, QRectF> boxes;
    for (const HitBox& box : view()->boxes())
        boxes[box.ref] = box.box;
    const Scale s = scale();
    for (const char* ref : {"BL1", "BL2", "BL3"})
        ASSERT_TRUE(boxes.contains(ref)) << ref;
    // Across, each as wide as its tube, one up and one down, where they stand.
    EXPECT_NEAR(boxes["BL2"].width(), 19.1 * s.per_mm, 0.6);
    EXPECT_NEAR(boxes["BL2"].center().x(), s.x(Millimetre(205)), 0.6);
    EXPECT_LT(boxes["BL2"].bottom(), s.axis);
    EXPECT_GT(boxes["BL3"].top(), s.axis);
    // A click chooses one, and its page has its angle, to be typed.
    QTest::mouseClick(view(), Qt::LeftButton, {},
                      view()->to_widget(boxes["BL2"].center()).toPoint());
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "BL2");
    window_->job_view()->open_chosen();
    turn();
    auto* values = find<Table>("partValues");
    for (int r = 0; r < values->rows().source_count(); ++r)
        if (values->text(r, 0).startsWith("points")) retype(values, r, 1, "60");
    settled();
    EXPECT_EQ(session().job().blades[1].angle, Degree(60));
}

TEST(SectionBlades, StandAtTheirAnglesAsLongAsThereIsRoom) {
    job::Job job = demo("bittern");
    job::Blade& blade = job.blades[1];
    blade.length = Millimetre(60);
    for (const double angle : {90.0, -90.0, 45.0, 135.0}) {
        blade.angle = Degree(angle);
        ASSERT_TRUE(stands_out(blade));
        const BladeExtent whole = extent_across(blade, job.hilt, Millimetre(80));
        EXPECT_EQ(whole.cut, whole.rest) << "whole where there is room";
        EXPECT_NEAR((whole.end - whole.foot).value(), 60, 1e-9);
        const BladeExtent cut = extent_across(blade, job.hilt, Millimetre(30));
        EXPECT_LT(cut.cut, cut.rest);
        EXPECT_NEAR((cut.end - cut.foot).value(), 30, 1e-9);
        EXPECT_GT(cut.foot.value(), 21.9) << "it begins at the wall";
        const auto [up, down] = reach_of(blade, whole);
        EXPECT_EQ(up > down, angle > 0);
    }
    blade.angle = Degree(0);
    EXPECT_FALSE(stands_out(blade));
}

TEST(SectionPorts, ShowThePlugThatGoesIn) {
    job::Job job = demo("heron");
    job::Part port;
    port.ref = "J1", port.type = "port.charge-2p1", port.at = Millimetre(150);
    job.parts.push_back(port);
    job::Opening hole;
    hole.name = "port hole", hole.use = job::OpeningUse::port, hole.at = Millimetre(157);
    hole.angle = Degree(180), hole.length = hole.width = Millimetre(10), hole.part = "J1";
    const auto reach = [&](bool with) {
        job::Job now = job;
        if (with) now.hilt.openings.push_back(hole);
        const auto plan = std::make_shared<const plan::Plan>(
            plan::analyse_figures(std::make_shared<const job::Job>(now), shared_parts()));
        // Drawn narrow, so that the height decides the scale.
        return section_scale(plan, {}, QRectF(0, 0, 4000, 260), 13, Inks::day()).per_mm;
    };
    EXPECT_LT(reach(true), reach(false) * 0.9) << "a plug needs room outside the hilt";
}

} // namespace
} // namespace conductus::app
