// SPDX-License-Identifier: GPL-3.0-or-later
// No two letterings of the long section lie on each other, whatever is lettered and how large.
#include <QPaintDevice>
#include <QPaintEngine>
#include <QPainter>
#include <gtest/gtest.h>

#include "app/drawing/drawings.h"
#include "app/drawing/section_drawing.h"
#include "core/plan/analyse.h"
#include "support/fixtures.h"

namespace conductus::app {
namespace {

using namespace test;

struct Lettered {
    QString text;
    QRectF box;
};

/// Takes down what is lettered and where; draws nothing.
class Taker : public QPaintEngine {
public:
    Taker() : QPaintEngine(AllFeatures) {}
    bool begin(QPaintDevice*) override { return true; }
    bool end() override { return true; }
    void updateState(const QPaintEngineState& now) override {
        if (now.state() & DirtyTransform) transform_ = now.transform();
    }
    void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}
    void drawPath(const QPainterPath&) override {}
    void drawPolygon(const QPointF*, int, PolygonDrawMode) override {}
    void drawTextItem(const QPointF& at, const QTextItem& item) override {
        const QString text = item.text().trimmed();
        if (text.isEmpty()) return;
        const QRectF tight = QFontMetricsF(item.font()).tightBoundingRect(text);
        all.push_back({text, transform_.mapRect(tight.translated(at))});
    }
    [[nodiscard]] Type type() const override { return User; }
    std::vector<Lettered> all;

private:
    QTransform transform_;
};

class Slate : public QPaintDevice {
public:
    explicit Slate(QSize size) : size_(size) {}
    [[nodiscard]] QPaintEngine* paintEngine() const override { return &taker; }
    mutable Taker taker;

protected:
    [[nodiscard]] int metric(PaintDeviceMetric what) const override {
        switch (what) {
        case PdmWidth:
            return size_.width();
        case PdmHeight:
            return size_.height();
        case PdmDpiX:
        case PdmDpiY:
        case PdmPhysicalDpiX:
        case PdmPhysicalDpiY:
            return 96;
        case PdmDepth:
            return 32;
        case PdmDevicePixelRatio:
            return 1;
        default:
            return 1;
        }
    }

private:
    QSize size_;
};

TEST(Lettering, OfTheLongSectionNeverLiesOnOther) {
    const Inks inks = Inks::day();
    int looked = 0;
    for (const char* name : {"heron", "bittern", "avocet", "curlew", "dunlin", "godwit"}) {
        const auto plan = std::make_shared<const plan::Plan>(
            plan::analyse_figures(std::make_shared<const job::Job>(demo(name)), shared_parts()));
        for (const OverlayEntry& overlay : overlays())
            for (const QSize size : {QSize(1090, 165), QSize(860, 150), QSize(2180, 330)})
                for (const double lettering : {13.0, 19.5}) {
                    LongSectionOptions options;
                    options.overlay = overlay.overlay;
                    options.lettering = lettering;
                    options.chosen = "B1";
                    const DrawingPtr drawing = section_drawing(plan, options);
                    Slate slate(size);
                    QPainter p(&slate);
                    const QRectF frame(QPointF(0, 0), QSizeF(size));
                    (void)drawing->paint({p, frame, lettering, inks, frame});
                    p.end();
                    const auto& all = slate.taker.all;
                    EXPECT_GT(all.size(), 5u);
                    const auto lettered = [&](const std::string& ref) {
                        const QString begins = QString::fromStdString(ref);
                        return std::any_of(all.begin(), all.end(), [&](const Lettered& l) {
                            return l.text.startsWith(begins);
                        });
                    };
                    for (const job::Part& part : plan->job->parts)
                        EXPECT_TRUE(size.width() < 2000 || lettered(part.ref))
                            << name << ": " << part.ref;
                    looked += static_cast<int>(all.size());
                    for (std::size_t i = 0; i < all.size(); ++i)
                        for (std::size_t k = 0; k < i; ++k) {
                            const QRectF both = all[i].box & all[k].box;
                            EXPECT_FALSE(both.width() > 1 && both.height() > 1)
                                << name << ", " << overlay.id << ", " << size.width() << " × "
                                << size.height() << " at " << lettering << ": '"
                                << all[i].text.toStdString() << "' on '"
                                << all[k].text.toStdString() << "'";
                        }
                }
    }
    EXPECT_GT(looked, 1000);
}

} // namespace
} // namespace conductus::app
