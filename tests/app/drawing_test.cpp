// SPDX-License-Identifier: GPL-3.0-or-later
// Drawings: to scale, inside their lines, and legible.
#include <QImage>
#include <QPainter>
#include <cmath>
#include <gtest/gtest.h>
#include <random>

#include "app/drawing/blade_drawing.h"
#include "app/drawing/marks.h"
#include "app/drawing/ribbons_drawing.h"
#include "app/drawing/section_drawing.h"
#include "app/drawing/steps_drawing.h"
#include "core/job/edits.h"
#include "support/fixtures.h"

namespace conductus::app {
namespace {

using namespace test;

std::shared_ptr<const plan::Plan> shared_plan(const char* name) {
    return std::make_shared<const plan::Plan>(plan_of(demo(name)));
}

template <class Paint>
QImage painted(QSize size, Paint&& paint) {
    QImage image(size, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter p(&image);
    paint(p);
    return image;
}

TEST(Section, IsToScaleBothWays) {
    for (const char* name : {"heron", "dunlin"}) {
        const auto plan = shared_plan(name);
        std::vector<HitBox> spots;
        painted({1100, 240}, [&](QPainter& p) {
            spots = LongSectionDrawing(plan, {}).paint(p, QRectF(0, 0, 1100, 240), Inks::day());
        });
        double per_mm = 0;
        for (const hilt::PlacedBody& body : plan->fit.bodies)
            for (const HitBox& spot : spots)
                if (spot.ref.toStdString() == body.ref) {
                    const double along = spot.box.width() / (body.to - body.from).value();
                    if (per_mm == 0) per_mm = along;
                    EXPECT_NEAR(along, per_mm, 1e-6) << body.ref;
                    EXPECT_NEAR(spot.box.height() / body.height.value(), per_mm, 1e-6) << body.ref;
                }
        EXPECT_GT(per_mm, 1);
        // The blade's thickness has the same scale.
        for (const HitBox& spot : spots)
            if (spot.ref == "BL1") {
                EXPECT_NEAR(spot.box.height() / plan->job->blades[0].outer.value(), per_mm, 1e-6);
            }
    }
}

TEST(Section, BodiesStandWhereTheSurveySays) {
    const auto plan = shared_plan("heron");
    std::vector<HitBox> spots;
    painted({1400, 300}, [&](QPainter& p) {
        spots = LongSectionDrawing(plan, {}).paint(p, QRectF(0, 0, 1400, 300), Inks::day());
    });
    auto box = [&](const char* ref) {
        for (const HitBox& s : spots)
            if (s.ref == ref) return s.box;
        return QRectF();
    };
    const double per_mm = box("B1").width() / 68.2;
    EXPECT_NEAR((box("U1").left() - box("B1").left()) / per_mm, 112 - 22, 1e-6);
    EXPECT_NEAR((box("BL1").left() - box("P1").right()) / per_mm, 0, 1e-6);
    EXPECT_LT(box("S1").center().y(), box("U1").center().y()) << "off the axis is up";
}

TEST(Section, StaysInItsFrameAtAnySize) {
    const auto plan = shared_plan("dunlin");
    for (const QSize size : {QSize(300, 120), QSize(700, 180), QSize(2400, 600)})
        for (const Overlay overlay : {Overlay::body, Overlay::volts}) {
            LongSectionOptions options;
            options.overlay = overlay;
            std::vector<HitBox> spots;
            painted(size, [&](QPainter& p) {
                spots = LongSectionDrawing(plan, options)
                            .paint(p, QRectF(QPointF(), QSizeF(size)), Inks::day());
            });
            for (const HitBox& s : spots) {
                EXPECT_GE(s.box.left(), 0);
                EXPECT_LE(s.box.right(), size.width());
                EXPECT_LE(s.box.bottom(), size.height());
            }
        }
}

TEST(Section, AJobWithNothingInItIsDrawn) {
    job::Job blank;
    blank.name = "blank";
    const auto plan = std::make_shared<const plan::Plan>(plan_of(blank));
    painted({600, 200}, [&](QPainter& p) {
        EXPECT_TRUE(
            LongSectionDrawing(plan, {}).paint(p, QRectF(0, 0, 600, 200), Inks::day()).empty());
        LongSectionDrawing(plan, {}).paint_small(p, QRectF(0, 0, 300, 90), Inks::day());
    });
}

TEST(Hatch, StaysInsideItsRectangle) {
    const QRectF box(20, 30, 57, 11);
    const QImage image = painted({120, 80}, [&](QPainter& p) {
        p.setPen(Qt::black);
        paint_hatch(p, box, 5);
    });
    int inside = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (image.pixelColor(x, y).lightness() < 200) {
                EXPECT_TRUE(box.adjusted(-1, -1, 1, 1).contains(x, y)) << x << " " << y;
                ++inside;
            }
    EXPECT_GT(inside, 40);
}

TEST(Blade, PaintsEachPixelInItsPlace) {
    std::vector<lights::Rgb> paint;
    for (int i = 0; i < 10; ++i)
        paint.push_back(i < 5 ? lights::Rgb{1, 0, 0} : lights::Rgb{0, 0, 1});
    const QImage whole = painted(
        {100, 10}, [&](QPainter& p) { paint_pixels(p, QRectF(0, 0, 100, 10), paint, 0, 1); });
    EXPECT_EQ(whole.pixelColor(10, 5), QColor(255, 0, 0));
    EXPECT_EQ(whole.pixelColor(90, 5), QColor(0, 0, 255));
    const QImage tip = painted(
        {100, 10}, [&](QPainter& p) { paint_pixels(p, QRectF(0, 0, 100, 10), paint, 0.5, 1); });
    EXPECT_EQ(tip.pixelColor(5, 5), QColor(0, 0, 255));
    const QImage none =
        painted({100, 10}, [&](QPainter& p) { paint_pixels(p, QRectF(0, 0, 100, 10), {}, 0, 1); });
    EXPECT_EQ(none.pixelColor(50, 5), QColor(Qt::white));
}

TEST(Ribbons, AxisHoldsEveryOptionAtARoundEnd) {
    const plan::Plan plan = plan_of(demo("heron"));
    const double longest = longest_minutes(plan.options);
    for (const auto& o : plan.options)
        EXPECT_LE(o.off.value(), longest);
    EXPECT_EQ(std::fmod(longest, 10), 0);
    EXPECT_GE(longest_minutes({}), 30);
}

TEST(Ribbons, LengthFollowsTheMinutes) {
    const plan::Plan plan = plan_of(demo("heron"));
    const Inks inks = Inks::day();
    RibbonLayout layout;
    layout.names = 200;
    layout.longest_min = longest_minutes(plan.options);
    auto clean_pixels = [&](const plan::CellOption& o) {
        const QImage image = painted({800, 40}, [&](QPainter& p) {
            paint_ribbon(p, QRectF(0, 0, 800, 40), o, layout, inks);
        });
        int n = 0;
        const QColor fill = o.fitted ? inks.clean : inks.clean_pale;
        for (int x = 200; x < 800; ++x)
            n += image.pixelColor(x, 12) == fill;
        return n;
    };
    const double per_minute = (800 - 200 - 64) / layout.longest_min;
    for (const auto& o : plan.options)
        if (o.fits) {
            EXPECT_NEAR(clean_pixels(o), o.clean.value() * per_minute, 4) << o.name;
        }
}

TEST(Steps, OneBarAStepInOrder) {
    const plan::Plan plan = plan_of(demo("heron"));
    const plan::View& view = plan.looks[0].views[plan::full];
    std::vector<HitBox> spots;
    painted({800, 120}, [&](QPainter& p) {
        spots = paint_steps(p, QRectF(0, 0, 800, 120), view, 13, "K1", Inks::day());
    });
    ASSERT_EQ(spots.size(), view.steps.size());
    for (std::size_t i = 1; i < spots.size(); ++i)
        EXPECT_GE(spots[i].box.left(), spots[i - 1].box.right() - 1e-9);
    EXPECT_EQ(spots.front().ref, "B1");
    painted({800, 120}, [&](QPainter& p) {
        EXPECT_TRUE(
            paint_steps(p, QRectF(0, 0, 800, 120), plan::View{}, 13, "", Inks::day()).empty());
    });
}

/// WCAG contrast of two colours.
double contrast(const QColor& a, const QColor& b) {
    auto luminance = [](const QColor& c) {
        auto linear = [](double v) {
            return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double x = luminance(a) + 0.05, y = luminance(b) + 0.05;
    return std::max(x, y) / std::min(x, y);
}

TEST(Inks, TextIsLegibleByDayAndNight) {
    for (const Inks& inks : {Inks::day(), Inks::night_variant()}) {
        for (const QColor& text :
             {inks.ink, inks.second, inks.petrol, inks.stop, inks.warn, inks.note, inks.fine}) {
            EXPECT_GE(contrast(text, inks.paper), 4.5)
                << text.name().toStdString() << (inks.night ? " night" : " day");
        }
        for (const QColor& text : {inks.ink, inks.second}) {
            EXPECT_GE(contrast(text, inks.backdrop), 4.5) << text.name().toStdString();
            EXPECT_GE(contrast(text, inks.chosen), 4.5) << text.name().toStdString();
        }
        for (const QColor& fill :
             {inks.cell, inks.board, inks.switches, inks.speaker, inks.connector})
            EXPECT_GE(contrast(inks.ink, fill), 4.5);
        EXPECT_GE(contrast(inks.on_strip, inks.strip), 4.5);
        EXPECT_GE(contrast(inks.on_strip_second, inks.strip), 4.5);
        EXPECT_GE(contrast(inks.paper, inks.petrol), 4.5) << "what is chosen, in paper on petrol";
    }
}

TEST(Marks, DifferInShapeNotOnlyInColour) {
    const Inks inks = Inks::day();
    auto shape = [&](auto&& paint) {
        const QImage image = painted({24, 24}, paint);
        QByteArray bits;
        for (int y = 0; y < 24; ++y)
            for (int x = 0; x < 24; ++x)
                bits.append(image.pixelColor(x, y).lightness() < 200 ? '1' : '0');
        return bits;
    };
    std::vector<QByteArray> shapes;
    for (const auto severity :
         {findings::Severity::stop, findings::Severity::warn, findings::Severity::note})
        shapes.push_back(
            shape([&](QPainter& p) { paint_mark(p, QRectF(2, 2, 20, 20), severity, inks); }));
    shapes.push_back(shape([&](QPainter& p) { paint_tick(p, QRectF(2, 2, 20, 20), inks); }));
    for (std::size_t i = 0; i < shapes.size(); ++i)
        for (std::size_t k = i + 1; k < shapes.size(); ++k) {
            int different = 0;
            for (qsizetype b = 0; b < shapes[i].size(); ++b)
                different += shapes[i][b] != shapes[k][b];
            EXPECT_GT(different, 40);
        }
}

TEST(Blades, StandToScaleInAsFewLinesAsHoldThem) {
    std::mt19937 random(12);
    std::uniform_real_distribution<double> mm(50, 1000);
    for (int round = 0; round < 200; ++round) {
        job::Job job;
        std::vector<std::string> refs;
        double longest = 0, all = 0;
        for (unsigned i = 0; i < 1 + random() % 6; ++i) {
            job::Blade blade;
            blade.ref = "BL" + std::to_string(i + 1);
            blade.length = Millimetre(mm(random));
            longest = std::max(longest, blade.length.value());
            all += blade.length.value();
            refs.push_back(blade.ref);
            job.blades.push_back(blade);
        }
        const auto places = place_blades(job, refs);
        ASSERT_EQ(places.size(), refs.size());
        for (std::size_t i = 0; i < places.size(); ++i) {
            EXPECT_NEAR(places[i].to - places[i].from, job.blades[i].length.value() / longest,
                        1e-9);
            EXPECT_GE(places[i].from, 0);
            EXPECT_LE(places[i].to, 1 + 1e-9);
            for (std::size_t k = 0; k < i; ++k) // none over another
                EXPECT_TRUE(places[k].line != places[i].line || places[k].to < places[i].from ||
                            places[i].to < places[k].from);
        }
        EXPECT_GE(lines_of(places), static_cast<std::size_t>(std::ceil(all / longest - 1e-9)));
        EXPECT_LE(lines_of(places), refs.size());
    }
}

TEST(Blades, OnTheScreenAndInAFileShowTheSameColours) {
    // The screen takes a stretched row of dots, files take rectangles: alike in the middle of each.
    const auto plan = shared_plan("heron");
    const auto& paint = plan->look("Moonrise")->views[plan::low].paint;
    const int wide = static_cast<int>(paint.size()) * 6;
    const QImage screen = painted(
        {wide, 10}, [&](QPainter& p) { paint_pixels(p, QRectF(0, 0, wide, 10), paint, 0, 1); });
    for (std::size_t k = 0; k < paint.size(); ++k)
        EXPECT_EQ(screen.pixelColor(static_cast<int>(k) * 6 + 3, 5).rgb(), colour(paint[k]).rgb())
            << k;
    // A part of it alone, over the whole width.
    const QImage tip = painted(
        {120, 10}, [&](QPainter& p) { paint_pixels(p, QRectF(0, 0, 120, 10), paint, 0.9, 1); });
    EXPECT_EQ(tip.pixelColor(118, 5).rgb(), colour(paint.back()).rgb());
}

TEST(Section, PaintsAStringAndATubeLitFromTheHilt) {
    const auto lit = [](const plan::Plan& plan, double x, double y) {
        const QImage image = painted({1100, 240}, [&](QPainter& p) {
            LongSectionDrawing(std::make_shared<const plan::Plan>(plan), {})
                .paint(p, QRectF(0, 0, 1100, 240), Inks::day());
        });
        // Saturated pixels in the blade's right half: light, not paper or ink.
        int count = 0;
        for (int px = static_cast<int>(x); px < 1090; ++px)
            for (int py = static_cast<int>(y); py < 150; ++py)
                count += image.pixelColor(px, py).hsvSaturation() > 200;
        return count;
    };
    EXPECT_GT(lit(plan_of(demo("godwit")), 800, 60), 500);
    const job::Job curlew = job::with_variant(demo("curlew"), 0);
    const int tube = lit(plan_of(curlew), 800, 60);
    EXPECT_GT(tube, 5000); // all through
    job::Job dark = curlew;
    for (job::Look& look : dark.looks)
        look.colour = {}, look.lights.clear();
    EXPECT_LT(lit(plan_of(dark), 800, 60), tube / 20);
}

} // namespace
} // namespace conductus::app
