// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/blade_drawing.h"

#include <QPaintEngine>
#include <algorithm>

#include "core/job/lookup.h"

namespace conductus::app {

std::vector<BladePlace> place_blades(const job::Job& job, const std::vector<std::string>& shown) {
    constexpr double gap = 0.02;
    double longest = 0;
    for (const job::Blade& blade : job.blades)
        longest = std::max(longest, blade.length.value());
    std::vector<BladePlace> places;
    std::vector<double> used; // of each line
    for (const std::string& ref : shown) {
        const job::Blade* blade = job::find_ref(job.blades, ref);
        const double share = blade && longest > 0 ? blade->length.value() / longest : 1;
        std::size_t line = 0;
        while (line < used.size() && used[line] + gap + share > 1)
            ++line;
        if (line == used.size()) used.push_back(-gap);
        const double from = used[line] + gap;
        places.push_back({line, from, from + share});
        used[line] = from + share;
    }
    return places;
}

void paint_pixels(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                  double from, double to) {
    if (paint.empty() || !(to > from) || box.width() < 1) return;
    p.save();
    p.setPen(Qt::NoPen);
    p.setRenderHint(QPainter::Antialiasing, false);
    const auto n = static_cast<double>(paint.size());
    const QPaintEngine* engine = p.paintEngine();
    if (engine && engine->type() == QPaintEngine::Raster) {
        // On a screen a row of dots stretched is the same picture and takes a tenth of the time.
        QImage dots(static_cast<int>(paint.size()), 1, QImage::Format_RGB32);
        for (std::size_t k = 0; k < paint.size(); ++k)
            dots.setPixel(static_cast<int>(k), 0, colour(paint[k]).rgb());
        p.setRenderHint(QPainter::SmoothPixmapTransform, false);
        p.drawImage(box, dots, QRectF(from * n, 0, (to - from) * n, 1));
        p.restore();
        return;
    }
    const auto first = static_cast<std::size_t>(std::clamp(from * n, 0.0, n - 1));
    const auto last = static_cast<std::size_t>(std::clamp(to * n - 1e-9, 0.0, n - 1));
    for (std::size_t k = first; k <= last; ++k) {
        const double a = std::max(from, static_cast<double>(k) / n);
        const double b = std::min(to, static_cast<double>(k + 1) / n);
        const double x0 = box.left() + (a - from) / (to - from) * box.width();
        const double x1 = box.left() + (b - from) / (to - from) * box.width();
        p.setBrush(colour(paint[k]));
        // A hair wider, so that no paper shows between neighbours.
        p.drawRect(
            QRectF(QPointF(x0, box.top()), QPointF(std::min(x1 + 0.7, box.right()), box.bottom())));
    }
    p.restore();
}

void paint_blade(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                 const Inks& inks) {
    // A tube that is drawn very thin has no wall that could be drawn.
    constexpr double thin = 8;
    if (box.height() < thin) {
        p.fillRect(box, QColor("#11181c"));
        return paint_pixels(p, box, paint, 0, 1);
    }
    p.save();
    p.setPen(QPen(inks.night ? inks.second : inks.ink, 1));
    p.setBrush(QColor("#11181c"));
    p.drawRect(box);
    p.restore();
    paint_pixels(p, box.adjusted(2, 2, -2, -2), paint, 0, 1);
}

} // namespace conductus::app
