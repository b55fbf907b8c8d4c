// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/choices_drawing.h"

#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

/// A value in the unit it is shown in.
double shown_value(const plan::Choice& c, plan::Axis axis) {
    const double v = plan::value_of(c, axis);
    return axis == plan::Axis::light ? v * 100 : v;
}

} // namespace

QString shown_text(const plan::Choice& c, plan::Axis axis) {
    const double v = shown_value(c, axis);
    switch (axis) {
    case plan::Axis::clean:
        return words(duration(c.clean));
    case plan::Axis::spares:
        return c.covers ? QString::number(c.spares) : QString::fromUtf8("–");
    case plan::Axis::light:
        if (v == 0) return QString::fromUtf8("–"); // there is no blade that lights up
        return QString("%1").arg(v, 0, 'f', 0) + QChar(0x202f) + "%";
    case plan::Axis::price:
        return QString("%1").arg(v, 0, 'f', 2);
    case plan::Axis::mass:
        return QString("%1").arg(v, 0, 'f', 0) + QChar(0x202f) + "g";
    case plan::Axis::loudness:
        return (v > 0   ? "+"
                : v < 0 ? QString(QChar(0x2212))
                        : QString()) +
               QString("%1").arg(std::abs(v), 0, 'f', 1) + QChar(0x202f) + "dB";
    default:
        return std::isfinite(v) ? words(with_unit(v, plan::unit_of(axis))) : QString::fromUtf8("–");
    }
}

QString changes_of(const plan::Choice& c) {
    if (c.fitted) return ChoicesDrawing::tr("as it is built");
    QStringList all;
    for (const std::string& change : c.changes)
        all << words(change);
    return all.join(" · ");
}

namespace {

PlotAxis axis_over(const plan::Choices& choices, const std::vector<std::size_t>& shown,
                   plan::Axis axis) {
    double from = 1e300, to = -1e300;
    for (const std::size_t i : shown) {
        const double v = shown_value(choices.all[i], axis);
        if (!std::isfinite(v)) continue;
        from = std::min(from, v), to = std::max(to, v);
    }
    if (from > to) from = 0, to = 1;
    PlotAxis a = roomy(from, to, 1e-3 * std::max(std::abs(from), std::abs(to)) + 1e-3,
                       words(plan::unit_of(axis)));
    // Better lies up and to the right whatever the figure.
    a.upside_down = !plan::more_is_better(axis);
    return a;
}

} // namespace

QSizeF ChoicesDrawing::size(double lettering) const { return {lettering * 60, lettering * 30}; }

QRectF ChoicesDrawing::box(const QRectF& frame, double text) {
    return {frame.left() + text * 6, frame.top() + text * 1.8, frame.width() - text * 8,
            frame.height() - text * 6.8};
}

QPointF ChoicesDrawing::point_of(std::size_t choice, const QRectF& frame, double text) const {
    const QRectF area = box(frame, text);
    const PlotAxis x = axis_over(*choices_, shown_.which, shown_.across),
                   y = axis_over(*choices_, shown_.which, shown_.up);
    const plan::Choice& c = choices_->all[choice];
    auto at = [](double v) { return std::isfinite(v) ? v : 0.0; };
    return {area.left() + x.share(at(shown_value(c, shown_.across))) * area.width(),
            area.bottom() - y.share(at(shown_value(c, shown_.up))) * area.height()};
}

std::vector<HitBox> ChoicesDrawing::paint(const Surface& on) const {
    if (!choices_ || shown_.which.empty()) {
        paint_words(on, choices_ ? tr("None of them is so. Show more.")
                                 : tr("Work the options out: every cell, protection, speaker, "
                                      "kill, strip and brightness that fits this hilt, each run "
                                      "down."));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height();
    const QRectF local(0, 0, width, height);
    const QRectF area = box(local, text);
    const PlotAxis x = axis_over(*choices_, shown_.which, shown_.across),
                   y = axis_over(*choices_, shown_.which, shown_.up);
    paint_foot_axis(p, area, x, text, inks);
    paint_side_axis(p, area, y, text, inks);
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.ink);
    auto direction = [](plan::Axis axis) {
        return plan::more_is_better(axis) ? tr("%1, more is better").arg(term(plan::word(axis)))
                                          : tr("%1, less is better").arg(term(plan::word(axis)));
    };
    p.drawText(QRectF(area.left(), area.bottom() + text * 1.8, area.width(), text * 1.4),
               Qt::AlignRight, direction(shown_.across) + QString::fromUtf8(" →"));
    p.drawText(QRectF(2, 0, area.width(), text * 1.5), Qt::AlignLeft | Qt::AlignVCenter,
               QString::fromUtf8("↑ ") + direction(shown_.up));
    p.setRenderHint(QPainter::Antialiasing);
    // Least in the foreground first; the one that is built and the one chosen last.
    auto dot = [&](std::size_t i) {
        const plan::Choice& c = choices_->all[i];
        const QPointF at = point_of(i, local, text);
        p.setPen(QPen(c.overloaded ? inks.stop : inks.petrol, 1.2));
        p.setBrush(c.best ? QBrush(inks.petrol) : QBrush(inks.paper));
        p.drawEllipse(at, c.best ? 3.6 : 2.6, c.best ? 3.6 : 2.6);
    };
    for (const bool best : {false, true})
        for (const std::size_t i : shown_.which)
            if (choices_->all[i].best == best) dot(i);
    for (const std::size_t i : shown_.which) {
        if (!choices_->all[i].fitted && i != shown_.chosen) continue;
        const QPointF at = point_of(i, local, text);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(i == shown_.chosen ? inks.warn : inks.ink, 2));
        p.drawEllipse(at, 7, 7);
        if (choices_->all[i].fitted) {
            p.setPen(inks.ink);
            const QString said = tr("as built");
            const double w = QFontMetricsF(p.font()).horizontalAdvance(said) + 8;
            const bool left = at.x() + w + 12 > width;
            const QRectF tag(left ? at.x() - w - 10 : at.x() + 10, at.y() - text * 0.75, w,
                             text * 1.5);
            p.fillRect(tag, inks.paper);
            p.drawText(tag, Qt::AlignCenter, said);
        }
    }
    // The legend, under the axis.
    const double ly = height - text * 0.9;
    double lx = area.left();
    auto key = [&](bool best, const QColor& ink, const QString& word) {
        p.setPen(QPen(ink, 1.2));
        p.setBrush(best ? QBrush(ink) : QBrush(inks.paper));
        p.drawEllipse(QPointF(lx + 5, ly), 3.4, 3.4);
        p.setPen(inks.ink);
        p.drawText(QRectF(lx + 14, ly - text * 0.7, 400, text * 1.4), Qt::AlignVCenter, word);
        lx += QFontMetricsF(p.font()).horizontalAdvance(word) + 32;
    };
    key(true, inks.petrol, tr("none better in all"));
    key(false, inks.petrol, tr("others"));
    key(false, inks.stop, tr("over its rating"));
    return {};
}

QString ChoicesDrawing::words_of(std::size_t choice) const {
    const plan::Choice& c = choices_->all[choice];
    return tr("%1: %2, %3")
        .arg(changes_of(c), shown_text(c, shown_.across), shown_text(c, shown_.up));
}

QString ChoicesDrawing::description() const {
    if (!choices_ || shown_.which.empty()) return {};
    return tr("%1 ways of building; chosen: %2")
        .arg(shown_.which.size())
        .arg(words_of(shown_.chosen));
}

std::optional<std::size_t> ChoicesDrawing::nearest(QPointF at, const QRectF& frame,
                                                   double lettering) const {
    std::optional<std::size_t> best;
    double least = 12;
    if (!choices_) return best;
    for (const std::size_t i : shown_.which) {
        const QPointF d = point_of(i, frame, lettering) - at;
        const double away = std::hypot(d.x(), d.y());
        if (away < least) least = away, best = i;
    }
    return best;
}

} // namespace conductus::app
