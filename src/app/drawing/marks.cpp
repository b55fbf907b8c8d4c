// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/marks.h"

namespace conductus::app {

void paint_mark(QPainter& p, const QRectF& box, findings::Severity severity, const Inks& inks,
                int count) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QColor c = inks.of(severity);
    const QPointF o = box.center();
    const double r = box.width() / 2;
    p.setPen(Qt::NoPen);
    p.setBrush(c);
    QColor lettering = inks.paper;
    if (severity == findings::Severity::stop) {
        p.drawRect(box.adjusted(r * 0.08, r * 0.08, -r * 0.08, -r * 0.08));
    } else if (severity == findings::Severity::warn) {
        p.drawPolygon(QPolygonF(
            {{o.x(), o.y() - r}, {o.x() + r, o.y()}, {o.x(), o.y() + r}, {o.x() - r, o.y()}}));
    } else {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c, r * 0.24));
        p.drawEllipse(o, r * 0.84, r * 0.84);
        lettering = c;
    }
    if (count > 0) {
        p.setPen(lettering);
        p.setFont(page_font(box.height() * 0.6, true));
        p.drawText(box, Qt::AlignCenter, QString::number(count));
    }
    p.restore();
}

void paint_tick(QPainter& p, const QRectF& box, const Inks& inks) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(inks.fine, box.width() * 0.14, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
    p.setBrush(Qt::NoBrush);
    const double w = box.width(), h = box.height();
    p.drawPolyline(QPolygonF({{box.left() + 0.1 * w, box.top() + 0.55 * h},
                              {box.left() + 0.38 * w, box.top() + 0.82 * h},
                              {box.left() + 0.92 * w, box.top() + 0.2 * h}}));
    p.restore();
}

void paint_hatch(QPainter& p, const QRectF& b, double spacing) {
    // Lines x − y = c; c steps on a fixed grid so that neighbouring sections' hatches meet.
    const double first = std::ceil((b.left() - b.bottom()) / spacing) * spacing;
    for (double c = first; c < b.right() - b.top(); c += spacing) {
        const double x0 = std::max(b.left(), c + b.top()), x1 = std::min(b.right(), c + b.bottom());
        if (x1 > x0) p.drawLine(QPointF(x0, x0 - c), QPointF(x1, x1 - c));
    }
}

void paint_hatch(QPainter& p, const QPolygonF& outline, double spacing) {
    const QRectF box = outline.boundingRect();
    // Lines x + y = c; each cuts a convex outline in two points.
    for (double c = box.left() + box.top() + spacing; c < box.right() + box.bottom();
         c += spacing) {
        QList<QPointF> cuts;
        for (qsizetype i = 0; i < outline.size(); ++i) {
            const QPointF a = outline[i], b = outline[(i + 1) % outline.size()];
            const double fa = a.x() + a.y() - c, fb = b.x() + b.y() - c;
            if ((fa < 0) == (fb < 0)) continue;
            cuts << a + (b - a) * (fa / (fa - fb));
        }
        if (cuts.size() == 2) p.drawLine(cuts[0], cuts[1]);
    }
}

void paint_dimension(QPainter& p, QPointF from, QPointF to, const QString& words, const QColor& ink,
                     const Inks& inks) {
    const QPointF along = (to - from) / std::max(1.0, QLineF(from, to).length());
    const QPointF across(-along.y(), along.x());
    p.setPen(QPen(ink, 1));
    p.drawLine(from, to);
    for (const auto& [end, inward] : {std::pair{from, along}, std::pair{to, -along}})
        for (const double side : {2.5, -2.5})
            p.drawLine(end, end + inward * 6 + across * side);
    if (words.isEmpty()) return;
    const QFontMetricsF metrics(p.font());
    QRectF box(0, 0, metrics.horizontalAdvance(words) + 8, metrics.height());
    box.moveCenter((from + to) / 2);
    p.fillRect(box, inks.paper);
    p.drawText(box, Qt::AlignCenter, words);
}

} // namespace conductus::app
