// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_probes.h"

#include <algorithm>

namespace conductus::app {

void paint_probes(QPainter& p, const QRectF& frame, const std::vector<HitBox>& parts,
                  const std::vector<Probe>& probes, double lettering, const Inks& inks) {
    const double l = lettering;
    p.setRenderHint(QPainter::Antialiasing);
    struct Placed {
        const Probe* probe;
        QPointF point;
        bool drawn;
    };
    std::vector<Placed> all;
    for (const Probe& probe : probes) {
        const QString ref = probe.terminal.section('.', 0, 0);
        const auto box =
            std::find_if(parts.begin(), parts.end(), [&](const HitBox& b) { return b.ref == ref; });
        const bool drawn = box != parts.end();
        const bool alone = std::none_of(probes.begin(), probes.end(), [&](const Probe& other) {
            return &other != &probe && other.terminal.section('.', 0, 0) == ref;
        });
        // Two on one part stand apart, however short it is.
        const double width = drawn ? std::min(box->box.width(), l * 12) : 0;
        const double aside =
            alone ? 0 : std::max(width / 4, l * 0.85) * (probe.number == 1 ? -1 : 1);
        all.push_back({&probe,
                       drawn ? QPointF(box->box.left() + width / 2 + aside,
                                       box->box.bottom() - std::min(4.0, box->box.height() * 0.2))
                             : QPointF(frame.left() + l, frame.bottom() - l * 3),
                       drawn});
    }
    for (const Placed& one : all) {
        const QColor colour = one.probe->number == 1 ? inks.stop : inks.ink;
        const double r = l * 0.75;
        const double y = std::min(one.point.y() + l * 2.6, frame.bottom() - r - 1);
        const QPointF ring(one.point.x(), std::max(y, one.point.y() + r * 1.6));
        if (one.drawn) {
            p.setPen(Qt::NoPen);
            p.setBrush(colour);
            p.drawPolygon(QPolygonF({one.point, ring + QPointF(-l * 0.38, -r * 0.7),
                                     ring + QPointF(l * 0.38, -r * 0.7)}));
        }
        p.setPen(QPen(colour, 2));
        p.setBrush(inks.paper);
        p.drawEllipse(ring, r, r);
        p.setPen(colour);
        p.setFont(drawing_font(l));
        p.drawText(QRectF(ring.x() - r, ring.y() - r, 2 * r, 2 * r), Qt::AlignCenter,
                   QString::number(one.probe->number));
        if (one.drawn) continue;
        const QFontMetricsF metrics(p.font());
        const QRectF tag(ring.x() + r + 3, ring.y() - metrics.height() / 2,
                         metrics.horizontalAdvance(one.probe->terminal) + 6, metrics.height());
        p.fillRect(tag, inks.paper);
        p.drawText(tag, Qt::AlignCenter, one.probe->terminal);
    }
}

} // namespace conductus::app
