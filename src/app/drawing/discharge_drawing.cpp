// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/discharge_drawing.h"

#include <QPainterPath>
#include <algorithm>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {

DischargeDrawing::DischargeDrawing(const plan::Plan& plan,
                                   plan::AnswerPtr<plan::UseLivedThrough> study, bool clock,
                                   std::size_t now) {
    const auto board = job::first_of<catalogue::Board>(*plan.job, *plan.parts);
    shown_ = {std::move(study), plan.run ? plan.run->need : Volt(0),
              board ? board.figures->cut_off : Volt(0), clock, now};
    if (const power::Day* d = day()) shown_.now = std::min(now, d->samples.size() - 1);
}

const power::Day* DischargeDrawing::day() const {
    const auto& study = shown_.study;
    return study && *study && !(*study)->day.samples.empty() ? &(*study)->day : nullptr;
}

double DischargeDrawing::minutes_of(const power::DaySample& s) const {
    return shown_.clock ? s.at.value() / 60 : s.ignited.value();
}

QRectF DischargeDrawing::box(const QRectF& frame, double text) {
    return {frame.left() + text * 4.6, frame.top() + text * 3.1, frame.width() - text * 6.4,
            std::max(30.0, frame.height() - text * 6.6)};
}

QSizeF DischargeDrawing::size(double lettering) const { return {lettering * 70, lettering * 24}; }

std::vector<HitBox> DischargeDrawing::paint(const Surface& on) const {
    const power::Day* d = day();
    if (!d) {
        paint_words(on, shown_.study && !*shown_.study ? words(shown_.study->error())
                                                       : tr("The use is being lived through …"));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height();
    const QRectF area = box(QRectF(0, 0, width, height), text);
    double low = 1e9, high = 0;
    for (const power::DaySample& s : d->samples) {
        low = std::min({low, s.audio.value(), s.board.value()});
        high = std::max(high, s.open.value());
    }
    if (shown_.need > Volt(0)) low = std::min(low, shown_.need.value() - 0.05);
    if (shown_.cut_off > Volt(0))
        low = std::min(low, shown_.cut_off.value() - 0.15); // room for its words
    const PlotAxis volts = roomy(low, high, 0.1, "V");
    const PlotAxis minutes{0, std::max(1.0, minutes_of(d->samples.back())), "min", false};
    paint_side_axis(p, area, volts, text, inks);
    paint_foot_axis(p, area, minutes, text, inks);
    p.setRenderHint(QPainter::Antialiasing);
    auto at = [&](double m, double v) {
        return QPointF(area.left() + minutes.share(m) * area.width(),
                       area.bottom() - volts.share(v) * area.height());
    };
    // What the sound needs, and what the board stands, as lines to fall below.
    p.setFont(page_font(text * 0.86));
    auto limit = [&](Volt v, const QColor& ink, const QString& what, double above) {
        if (!(v > Volt(0)) || v.value() < volts.from) return;
        const double y = at(0, v.value()).y();
        p.setPen(QPen(ink, 1.2, Qt::DashLine));
        p.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
        p.drawText(QRectF(area.left() + 4, y - above, area.width() - 8, text * 1.3),
                   Qt::AlignLeft | Qt::AlignVCenter, what);
    };
    limit(shown_.need, inks.warn, tr("sound needs %1").arg(words(conductus::text(shown_.need))),
          text * 1.35);
    limit(shown_.cut_off, inks.stop,
          tr("board cuts off at %1").arg(words(conductus::text(shown_.cut_off))), 0);
    p.setClipRect(area.adjusted(-2, -2, 2, 2));
    auto curve = [&](Volt power::DaySample::*what, const QColor& ink, double thick) {
        QPainterPath path;
        bool first = true;
        for (const power::DaySample& s : d->samples) {
            const QPointF point = at(minutes_of(s), (s.*what).value());
            first ? path.moveTo(point) : path.lineTo(point);
            first = false;
        }
        p.setPen(QPen(ink, thick));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path);
    };
    curve(&power::DaySample::audio, inks.crackle.darker(115), 1);
    curve(&power::DaySample::board, inks.petrol, 1.4);
    curve(&power::DaySample::open, inks.second, 1.2);
    p.setClipping(false);
    // Marks above the curve, each with its word, in two rows where they stand close.
    double free_from[2] = {0, 0};
    for (const power::DayMark& m : d->marks) {
        const double x = at(shown_.clock ? m.at.value() / 60 : m.ignited.value(), volts.from).x();
        const QColor ink =
            m.kind == power::DayMark::Kind::dim ? inks.note
            : m.kind == power::DayMark::Kind::off || m.kind == power::DayMark::Kind::tripped
                ? inks.stop
                : inks.warn;
        p.setPen(QPen(ink, 1.2));
        p.drawLine(QPointF(x, area.top() - 3), QPointF(x, area.bottom()));
        const QString word = term(power::word(m.kind));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(word) + 8;
        const double left = std::clamp(x - w / 2, area.left() - text * 3, area.right() + text - w);
        const int row = left >= free_from[0] ? 0 : left >= free_from[1] ? 1 : -1;
        if (row < 0) continue;
        p.drawText(QRectF(left, area.top() - text * (row == 0 ? 1.6 : 2.9), w, text * 1.3),
                   Qt::AlignCenter, word);
        free_from[row] = left + w;
    }
    const power::DaySample& now = d->samples[shown_.now];
    p.setPen(QPen(inks.ink, 1.4));
    const double x = at(minutes_of(now), volts.from).x();
    p.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    p.setBrush(inks.petrol);
    p.drawEllipse(at(minutes_of(now), now.board.value()), 3.5, 3.5);
    // What the lines are.
    const std::pair<QColor, QString> keys[] = {
        {inks.second, tr("resting cell")},
        {inks.petrol, tr("board")},
        {inks.crackle.darker(115), tr("board in a sound peak")}};
    double key_x = area.left();
    const double y = height - text * 1.0;
    for (const auto& [ink, word] : keys) {
        p.setPen(QPen(ink, 2.2));
        p.drawLine(QPointF(key_x, y), QPointF(key_x + 16, y));
        p.setPen(inks.ink);
        p.drawText(QRectF(key_x + 21, y - text * 0.7, text * 20, text * 1.4),
                   Qt::AlignLeft | Qt::AlignVCenter, word);
        key_x += QFontMetricsF(p.font()).horizontalAdvance(word) + 40;
    }
    p.setPen(inks.second);
    p.drawText(QRectF(area.left(), y - text * 0.7, area.width() + text, text * 1.4),
               Qt::AlignRight | Qt::AlignVCenter,
               shown_.clock ? tr("hours and minutes of the clock") : tr("hours and minutes lit"));
    return {};
}

QString DischargeDrawing::description() const {
    QStringList whys;
    if (const power::Day* d = day())
        for (const power::DayMark& m : d->marks)
            whys << tr("%1 after %2 lit: %3")
                        .arg(term(power::word(m.kind)), words(duration(m.ignited)), words(m.why));
    return whys.join("; ");
}

std::optional<std::size_t> DischargeDrawing::sample_at(QPointF at, const QRectF& frame,
                                                       double lettering) const {
    const power::Day* d = day();
    if (!d) return std::nullopt;
    const QRectF area = box(frame, lettering);
    const double share = std::clamp((at.x() - area.left()) / area.width(), 0.0, 1.0);
    const double wanted = share * minutes_of(d->samples.back());
    const auto it =
        std::lower_bound(d->samples.begin(), d->samples.end(), wanted,
                         [this](const power::DaySample& s, double m) { return minutes_of(s) < m; });
    return it == d->samples.end() ? d->samples.size() - 1
                                  : static_cast<std::size_t>(it - d->samples.begin());
}

} // namespace conductus::app
