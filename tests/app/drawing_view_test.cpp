// SPDX-License-Identifier: GPL-3.0-or-later
// One view for every drawing: zoom, pan, copy, save, words; and every drawing from the registry.
#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QImage>
#include <QTemporaryDir>
#include <set>

#include "app/drawing/drawings.h"
#include "app/session/asking.h"
#include "app/shell/drawing_view.h"
#include "app/window.h"
#include "core/plan/analyse.h"

namespace conductus::app {
namespace {

/// A part in the left upper quarter, and one in its middle.
DrawingPtr two_parts() {
    return make_drawing([](double lettering) { return QSizeF(200, lettering * 10); },
                        [](const Surface& on) {
                            const QRectF a(on.frame.topLeft(), on.frame.size() / 2);
                            const QRectF b(a.center() - QPointF(10, 10), QSizeF(20, 20));
                            on.p.fillRect(a, on.inks.petrol);
                            on.p.fillRect(b, on.inks.stop);
                            return std::vector<HitBox>{{"A", a}, {"B", b}};
                        },
                        [] { return QString("two parts"); });
}

class DrawingViewTest : public ::testing::Test {
protected:
    DrawingViewTest() : view_("drawing", "Parts", appearance_, two_parts, nullptr) {
        view_.resize(400, 200);
        view_.show();
        view_.redraw();
        turn();
        (void)view_.grab();
    }
    Appearance appearance_;
    DrawingView view_;
};

TEST_F(DrawingViewTest, IsToldInWordsAndNamesWhatIsUnderTheMouse) {
    EXPECT_EQ(view_.accessibleName(), "Parts");
    EXPECT_EQ(view_.accessibleDescription(), "two parts");
    EXPECT_EQ(view_.ref_at({5, 5}), "A");
    EXPECT_EQ(view_.ref_at({100, 50}), "B") << "the smaller of two";
    EXPECT_EQ(view_.ref_at({300, 150}), "");
}

TEST_F(DrawingViewTest, ZoomsAboutAPlaceAndPansNoFurtherThanItsEdge) {
    const QPointF about(100, 50);
    view_.zoom_to(4, about);
    EXPECT_EQ(view_.zoom(), 4);
    EXPECT_EQ(view_.to_drawing(about), about) << "what lies under the mouse stays there";
    EXPECT_EQ(view_.to_widget(view_.to_drawing({17, 31})), QPointF(17, 31));
    // A click names what is drawn there now.
    QPointF clicked;
    QObject::connect(&view_, &DrawingView::pressed, [&](QPointF at) { clicked = at; });
    (void)view_.grab();
    QTest::mouseClick(&view_, Qt::LeftButton, {}, QPoint(130, 50));
    EXPECT_EQ(view_.ref_at(clicked), "B");
    QTest::mouseClick(&view_, Qt::LeftButton, {}, QPoint(200, 50));
    EXPECT_EQ(view_.ref_at(clicked), "A");
    for (int i = 0; i < 40; ++i)
        QTest::keyClick(&view_, Qt::Key_Right, Qt::ShiftModifier);
    EXPECT_NEAR(view_.to_drawing({400, 200}).x(), 400, 1e-9);
    for (int i = 0; i < 40; ++i)
        QTest::keyClick(&view_, Qt::Key_Up, Qt::ShiftModifier);
    EXPECT_NEAR(view_.to_drawing({0, 0}).y(), 0, 1e-9);
    // With the keys, and never out of bounds.
    QTest::keyClick(&view_, Qt::Key_0);
    EXPECT_EQ(view_.zoom(), 1);
    EXPECT_EQ(view_.to_drawing({17, 31}), QPointF(17, 31));
    QTest::keyClick(&view_, Qt::Key_Minus);
    EXPECT_EQ(view_.zoom(), 1);
    for (int i = 0; i < 60; ++i)
        QTest::keyClick(&view_, Qt::Key_Plus);
    EXPECT_EQ(view_.zoom(), 12);
}

TEST_F(DrawingViewTest, TheWheelZoomsWithControlAndPansWhenItIsLarger) {
    const auto wheel = [&](Qt::KeyboardModifiers keys, int by) {
        QWheelEvent event(QPointF(200, 100), view_.mapToGlobal(QPointF(200, 100)), {}, {0, by}, {},
                          keys, Qt::NoScrollPhase, false);
        QApplication::sendEvent(&view_, &event);
        return event.isAccepted();
    };
    EXPECT_FALSE(wheel({}, -120)) << "what the view lies in scrolls";
    EXPECT_TRUE(wheel(Qt::ControlModifier, 240));
    EXPECT_GT(view_.zoom(), 1.5);
    const double before = view_.to_drawing({0, 0}).y();
    EXPECT_TRUE(wheel({}, -120));
    EXPECT_GT(view_.to_drawing({0, 0}).y(), before);
}

TEST_F(DrawingViewTest, CopiesAndSavesTheWholeDrawing) {
    view_.zoom_to(6, {0, 0});
    QApplication::clipboard()->clear();
    view_.setFocus();
    QTest::keyClick(&view_, Qt::Key_C, Qt::ControlModifier);
    const QImage copied = QApplication::clipboard()->image();
    ASSERT_EQ(copied.size(), view_.size() * 2);
    EXPECT_EQ(copied.pixelColor(20, 20), appearance_.inks().petrol);
    EXPECT_EQ(copied.pixelColor(200, 100), appearance_.inks().stop);
    EXPECT_EQ(copied.pixelColor(700, 350), appearance_.inks().paper);
    const QTemporaryDir folder;
    ASSERT_TRUE(view_.save(folder.filePath("parts.svg")));
    QFile svg(folder.filePath("parts.svg"));
    ASSERT_TRUE(svg.open(QIODevice::ReadOnly));
    const QByteArray said = svg.readAll();
    EXPECT_TRUE(said.contains("<rect") || said.contains("<path"));
    EXPECT_FALSE(said.contains("<image")) << "lines, no picture of pixels";
    EXPECT_FALSE(view_.save(folder.filePath("parts.txt")));
}

TEST(Drawings, EachOfTheRegistryIsMadeOfEveryDemoJob) {
    for (const char* name : {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"}) {
        auto plan = std::make_shared<plan::Plan>(plan::analyse_figures(
            std::make_shared<const job::Job>(test::demo(name)), test::shared_parts()));
        ASSERT_TRUE(plan::add_options(*plan));
        const DrawingRequest request{
            plan, Overlay::volts, {}, {}, {}, {}, {}, {}, [&](const plan::Question& question) {
                // A thousand days and every way of building are asked elsewhere.
                const bool enough = std::holds_alternative<plan::ManyDays>(question) ||
                                    std::holds_alternative<plan::WaysToBuild>(question);
                return answer_here(question, *plan, [enough] { return enough; });
            }};
        std::set<std::string_view> ids;
        for (const DrawingEntry& entry : drawings()) {
            EXPECT_TRUE(ids.insert(entry.id).second) << entry.id;
            const auto drawing = entry.make(request);
            if (entry.id == "arrangements" && !drawing) {
                EXPECT_TRUE(hilt::arrange(*plan->job, *plan->parts).best.empty()) << name;
                continue;
            }
            if (entry.id == "variants" && plan->job->variants.empty()) {
                EXPECT_FALSE(drawing);
                continue;
            }
            ASSERT_TRUE(drawing) << name << ": " << entry.id << ": " << drawing.error().text();
            const QSizeF size = (*drawing)->size(13);
            EXPECT_GT(size.width(), 100) << entry.id;
            EXPECT_GT(size.height(), 20) << entry.id;
            QImage image(size.toSize(), QImage::Format_RGB32);
            image.fill(Inks::day().paper);
            const QRectF frame(QPointF(0, 0), size);
            QPainter p(&image);
            for (const HitBox& box : (*drawing)->paint({p, frame, 13, Inks::day(), frame}))
                EXPECT_FALSE(box.ref.isEmpty()) << entry.id;
            p.end();
            int painted = 0;
            for (int y = 0; y < image.height(); y += 2)
                for (int x = 0; x < image.width(); x += 2)
                    painted += image.pixelColor(x, y) != Inks::day().paper;
            EXPECT_GT(painted, 60) << name << ": " << entry.id << " is empty";
        }
    }
}

} // namespace
} // namespace conductus::app
