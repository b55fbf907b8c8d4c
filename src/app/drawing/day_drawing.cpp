// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/day_drawing.h"

#include <algorithm>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/words.h"

namespace conductus::app {

DayDrawing::DayDrawing(std::vector<job::Phase> phases,
                       const plan::AnswerPtr<plan::UseLivedThrough>& study)
    : phases_(std::move(phases)) {
    if (!study || !*study) return;
    for (const power::DayMark& m : (*study)->swapped.marks)
        if (m.kind == power::DayMark::Kind::swap) changes_.emplace_back(m.at.value() / 60);
}

QSizeF DayDrawing::size(double lettering) const { return {lettering * 60, lettering * 6.8}; }

QRectF DayDrawing::band(const QRectF& frame, double text) {
    return {frame.left() + text * 1.6, frame.top() + text * 1.7, frame.width() - text * 3.2,
            text * 1.7};
}

double DayDrawing::x_of(const QRectF& frame, double text, double m) {
    const QRectF area = band(frame, text);
    return area.left() + m / a_day * area.width();
}

std::vector<HitBox> DayDrawing::paint(const Surface& on) const {
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height();
    const QRectF local(0, 0, width, height), area = band(local, text);
    p.fillRect(area, inks.backdrop);
    double now = 0;
    for (const job::Phase& phase : phases_) {
        for (int t = 0; t < phase.times; ++t) {
            const double from = x_of(local, text, now),
                         to = x_of(local, text, now + phase.lasts.value());
            const QColor fill = phase.kind == job::PhaseKind::ignited ? inks.petrol
                                : phase.kind == job::PhaseKind::idle  ? inks.clean_pale
                                                                      : inks.backdrop;
            p.fillRect(QRectF(from, area.top(), std::max(1.0, to - from), area.height()), fill);
            now += phase.lasts.value();
            if (t + 1 < phase.times) {
                p.fillRect(QRectF(to, area.top(), x_of(local, text, now + phase.pause.value()) - to,
                                  area.height()),
                           inks.clean_pale);
                now += phase.pause.value();
            }
        }
        p.setPen(QPen(inks.ink, 1.4)); // its end, to be dragged
        p.drawLine(QPointF(x_of(local, text, now), area.top() - 3),
                   QPointF(x_of(local, text, now), area.bottom() + 3));
    }
    p.setPen(QPen(inks.ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(area);
    p.setRenderHint(QPainter::Antialiasing);
    for (const Minute change : changes_) {
        const double x = x_of(local, text, change.value()), h = text * 0.75;
        p.setBrush(inks.warn);
        p.setPen(Qt::NoPen);
        const QPointF arrow[] = {
            {x - h / 2, area.top() - h}, {x + h / 2, area.top() - h}, {x, area.top() - 1}};
        p.drawPolygon(arrow, 3);
    }
    paint_foot_axis(p, area, {0, a_day, "min", false}, text, inks);
    const std::pair<QColor, QString> keys[] = {{inks.petrol, tr("lit")},
                                               {inks.clean_pale, tr("idle")},
                                               {inks.backdrop, tr("stored")},
                                               {inks.warn, tr("cells changed")}};
    double x = area.left();
    const double y = height - text * 0.9;
    p.setFont(page_font(text * 0.86));
    for (const auto& [fill, word] : keys) {
        p.setPen(QPen(inks.second, 1));
        p.setBrush(fill);
        p.drawRect(QRectF(x, y - 4, 14, 8));
        p.setPen(inks.ink);
        p.drawText(QRectF(x + 19, y - text * 0.7, 200, text * 1.4), Qt::AlignVCenter, word);
        x += QFontMetricsF(p.font()).horizontalAdvance(word) + 38;
    }
    return {};
}

QString DayDrawing::description() const {
    QStringList said;
    for (const job::Phase& phase : phases_)
        said << tr("%1 %2, %3 times")
                    .arg(term(job::word(phase.kind)), words(duration(phase.lasts)))
                    .arg(phase.times);
    if (!changes_.empty()) said << tr("cells are changed %1 times").arg(changes_.size());
    return said.join("; ");
}

} // namespace conductus::app
