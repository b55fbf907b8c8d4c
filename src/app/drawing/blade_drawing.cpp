// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/blade_drawing.h"

#include <algorithm>

namespace conductus::app {

void paint_pixels(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                  double from, double to) {
    if (paint.empty() || !(to > from) || box.width() < 1) return;
    p.save();
    p.setPen(Qt::NoPen);
    p.setRenderHint(QPainter::Antialiasing, false);
    const auto n = static_cast<double>(paint.size());
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
    p.save();
    p.setPen(QPen(inks.night ? inks.second : inks.ink, 1));
    p.setBrush(QColor("#11181c"));
    p.drawRect(box);
    p.restore();
    paint_pixels(p, box.adjusted(2, 2, -2, -2), paint, 0, 1);
}

} // namespace conductus::app
