// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_plugs.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>
#include <cmath>

namespace conductus::app {

std::vector<Plug> plugs_of(const plan::Plan& plan) {
    constexpr double body = 16; // of a usual plug, mm
    const job::Job& job = *plan.job;
    std::vector<Plug> all;
    for (const job::Part& part : job.parts) {
        const auto* type = plan.parts->find(part.type);
        if (!type || !(std::holds_alternative<catalogue::Port>(type->figures) ||
                       std::holds_alternative<catalogue::Jack>(type->figures)))
            continue;
        Plug plug;
        plug.ref = QString::fromStdString(part.ref);
        plug.at = part.at + type->body.length / 2;
        plug.diameter = std::max(6.0, type->body.diameter.value() * 0.8);
        const job::Opening* opening = nullptr;
        for (const job::Opening& o : job.hilt.openings)
            if (o.part == part.ref) opening = &o;
        if (opening) {
            plug.at = opening->at;
            plug.up = std::cos(opening->angle.value() * M_PI / 180) >= 0 ? 1 : -1;
            for (const job::BoreSection& s : job.hilt.sections)
                if (plug.at >= s.from && plug.at <= s.to) plug.from = s.outer.value() / 2;
        } else if (part.at > Millimetre(20)) {
            continue; // where it is reached from nobody has said
        }
        plug.out = plug.from + body;
        all.push_back(plug);
    }
    return all;
}

void paint_plugs(QPainter& p, const std::vector<Plug>& plugs, const Scale& scale,
                 const QRectF& frame, const Inks& inks, Taken& taken) {
    const QFontMetricsF metrics(p.font());
    const double line = metrics.height();
    for (const Plug& plug : plugs) {
        const double half = plug.diameter / 2 * scale.per_mm;
        QRectF box;
        QPointF lead, away;
        if (plug.up != 0) {
            const double x = scale.x(plug.at);
            box = QRectF(QPointF(x - half, scale.y(plug.up * plug.out)),
                         QPointF(x + half, scale.y(plug.up * plug.from)))
                      .normalized();
            lead = {x, scale.y(plug.up * plug.out)};
            away = {0, plug.up > 0 ? -1.0 : 1.0};
        } else {
            box = QRectF(QPointF(scale.x(Millimetre(-plug.out)), scale.axis - half),
                         QPointF(scale.x(Millimetre(0)), scale.axis + half));
            lead = {box.left(), scale.axis};
            away = {-1, 0};
        }
        p.setPen(QPen(inks.second, 1.1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box);
        p.drawLine(lead, lead + away * line * 0.7);
        const QString words = QCoreApplication::translate("Section", "plug in %1").arg(plug.ref);
        const QSizeF size(metrics.horizontalAdvance(words) + 4, line * 0.9);
        const QRectF at(plug.up != 0
                            ? QPointF(box.right() + 4, box.center().y() - size.height() / 2)
                            : QPointF(box.left(), box.bottom() + 2),
                        size);
        if (!taken.is_free(at) || !frame.contains(at)) continue;
        taken.take(at);
        p.setPen(inks.second);
        p.drawText(at.adjusted(0, -line, 0, line), Qt::AlignCenter, words);
    }
}

} // namespace conductus::app
