// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/fit_drawing.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

/// A reading's mark: told apart by its shape as well as by its ink.
void paint_reading(QPainter& p, QPointF at, double size, std::size_t shape) {
    switch (shape % 4) {
    case 0:
        return p.drawEllipse(at, size, size);
    case 1:
        return p.drawRect(QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size));
    case 2:
        return void(
            p.drawPolygon(QPolygonF{{at + QPointF(0, -1.3 * size), at + QPointF(1.3 * size, 0),
                                     at + QPointF(0, 1.3 * size), at + QPointF(-1.3 * size, 0)}}));
    default:
        return void(
            p.drawPolygon(QPolygonF{{at + QPointF(0, -1.2 * size), at + QPointF(1.2 * size, size),
                                     at + QPointF(-1.2 * size, size)}}));
    }
}

} // namespace

QSizeF FitDrawing::size(double lettering) const { return {lettering * 40, lettering * 20}; }

std::vector<HitBox> FitDrawing::paint(const Surface& on) const {
    const bench::Overlay& overlay = found_.overlay;
    double left = 1e300, right = -1e300, low = 1e300, high = -1e300;
    for (const bench::Series& series : overlay.series)
        for (const auto* points : {&series.measured, &series.model})
            for (const auto& [x, y] : *points) {
                left = std::min(left, x), right = std::max(right, x);
                low = std::min(low, y), high = std::max(high, y);
            }
    if (left > right) {
        paint_words(on, tr("These readings draw no line."));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering;
    const QRectF area(text * 4.8, text * 1.9, on.frame.width() - text * 9.8,
                      on.frame.height() - text * 6.4);
    const PlotAxis across = roomy(left, right, (right - left) * 0.02 + 1e-6, {});
    const PlotAxis up = roomy(low, high, (high - low) * 0.02 + 1e-6, {});
    paint_side_axis(p, area, up, text, inks);
    paint_foot_axis(p, area, across, text, inks);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.ink);
    p.drawText(QRectF(2, 0, on.frame.width(), text * 1.6), Qt::AlignLeft | Qt::AlignVCenter,
               words(overlay.up));
    p.drawText(QRectF(area.left(), area.bottom() + text * 1.5, area.width(), text * 1.6),
               Qt::AlignRight | Qt::AlignVCenter, words(overlay.across));
    const QString key = tr("marks: readings, lines: the model; residual %1")
                            .arg(words(with_unit(found_.residual_mV, "mV")));
    p.setPen(inks.second);
    p.drawText(QRectF(2, on.frame.height() - text * 1.7, on.frame.width() - 4, text * 1.6),
               Qt::AlignLeft | Qt::AlignVCenter, key);
    const auto point = [&](const std::array<double, 2>& at) {
        return QPointF(area.left() + across.share(at[0]) * area.width(),
                       area.bottom() - up.share(at[1]) * area.height());
    };
    const QColor lines[] = {inks.petrol, inks.warn, inks.note, inks.fine, inks.stop};
    // A colour that was lit is drawn in an ink like it.
    const auto ink_of = [&](std::size_t i) -> QColor {
        const std::string& label = overlay.series[i].label;
        if (label == "red") return inks.stop;
        if (label == "green") return inks.fine;
        if (label == "blue") return inks.petrol;
        if (label.starts_with("white")) return inks.ink;
        return lines[i % std::size(lines)];
    };
    // Names stand at the lines' ends, clear of each other.
    struct Name {
        double y;
        QString words;
        QColor ink;
    };
    std::vector<Name> names;
    for (std::size_t i = 0; i < overlay.series.size(); ++i) {
        const bench::Series& series = overlay.series[i];
        const QColor ink = ink_of(i);
        p.setPen(QPen(ink, 1.6));
        p.setBrush(Qt::NoBrush);
        QPainterPath path;
        for (std::size_t k = 0; k < series.model.size(); ++k)
            k == 0 ? path.moveTo(point(series.model[k])) : path.lineTo(point(series.model[k]));
        p.drawPath(path);
        p.setPen(QPen(ink, 1.2));
        p.setBrush(inks.paper);
        // So many that they would be a smear are drawn as dots.
        const bool many = series.measured.size() > 200;
        for (const auto& reading : series.measured)
            paint_reading(p, point(reading), text * (many ? 0.08 : 0.26), i);
        const auto& last = series.model.empty() ? series.measured : series.model;
        if (!last.empty()) names.push_back({point(last.back()).y(), term(series.label), ink});
    }
    std::sort(names.begin(), names.end(), [](const Name& a, const Name& b) { return a.y < b.y; });
    double below = -1e9;
    for (Name& name : names) {
        name.y = std::max(name.y, below + text * 1.3);
        below = name.y;
    }
    for (const Name& name : names) {
        p.setPen(name.ink);
        p.drawText(QRectF(area.right() + 5, name.y - text * 0.7, text * 5, text * 1.4),
                   Qt::AlignLeft | Qt::AlignVCenter, name.words);
    }
    return {};
}

QString FitDrawing::description() const {
    QStringList said;
    for (const bench::Found& f : found_.parameters)
        said << tr("%1 %2").arg(words(f.name), words(with_unit(f.value, f.unit)));
    return tr("Readings and model: %1; residual %2")
        .arg(said.join(", "), words(with_unit(found_.residual_mV, "mV")));
}

} // namespace conductus::app
