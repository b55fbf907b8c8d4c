// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/plot.h"

#include <algorithm>
#include <cmath>

#include "core/base/format.h"

namespace conductus::app {
namespace {

QString number_text(double value, const QString& unit) {
    if (unit == "min") return QString::fromStdString(duration(Minute(value)));
    if (std::abs(value) < 1e-12) value = 0;
    const QString number = QString::number(value, 'g', 4);
    return unit.isEmpty() ? number : number + QChar(0x202f) + unit;
}

double step_of(const PlotAxis& axis, int parts) {
    const double stretch = axis.to - axis.from;
    return axis.unit == "min" ? minute_step(stretch, parts) : round_step(stretch, parts);
}

} // namespace

double round_step(double stretch, int parts) {
    const double decade = std::pow(10, std::floor(std::log10(std::max(stretch, 1e-9) / parts)));
    for (const double s : {1.0, 2.0, 5.0, 10.0})
        if (stretch / (s * decade) <= parts) return s * decade;
    return 10 * decade;
}

double minute_step(double stretch, int parts) {
    for (const double s : {5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 240.0, 480.0, 1440.0})
        if (stretch / s <= parts) return s;
    return std::ceil(stretch / parts / 1440) * 1440;
}

PlotAxis roomy(double from, double to, double least, QString unit) {
    const double room = std::max(0.06 * (to - from), least / 2);
    return {from - room, to + room, std::move(unit), false};
}

void paint_foot_axis(QPainter& p, const QRectF& box, const PlotAxis& axis, double lettering,
                     const Inks& inks) {
    p.setFont(page_font(lettering * 0.86));
    const double width = lettering * 6.5;
    const double step = step_of(axis, std::max(2, static_cast<int>(box.width() / width)));
    for (double v = std::ceil(axis.from / step - 1e-9) * step; v <= axis.to + 1e-9 * step;
         v += step) {
        const double x = box.left() + axis.share(v) * box.width();
        p.setPen(QPen(inks.hair, 1));
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
        p.setPen(inks.second);
        p.drawText(QRectF(x - width / 2, box.bottom() + 3, width, lettering * 1.3),
                   Qt::AlignHCenter | Qt::AlignTop, number_text(v, axis.unit));
    }
}

void paint_side_axis(QPainter& p, const QRectF& box, const PlotAxis& axis, double lettering,
                     const Inks& inks) {
    p.setFont(page_font(lettering * 0.86));
    const double step =
        step_of(axis, std::max(2, static_cast<int>(box.height() / (lettering * 2.2))));
    for (double v = std::ceil(axis.from / step - 1e-9) * step; v <= axis.to + 1e-9 * step;
         v += step) {
        const double y = box.bottom() - axis.share(v) * box.height();
        p.setPen(QPen(inks.hair, 1));
        p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
        p.setPen(inks.second);
        p.drawText(QRectF(box.left() - lettering * 7 - 6, y - lettering * 0.7, lettering * 7,
                          lettering * 1.4),
                   Qt::AlignRight | Qt::AlignVCenter, number_text(v, axis.unit));
    }
}

} // namespace conductus::app
