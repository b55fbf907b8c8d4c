// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/choices_picture.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "app/drawing/plot.h"
#include "app/session/words.h"
#include "app/shell/picture_menu.h"
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
    if (c.fitted) return ChoicesPicture::tr("as it is built");
    QStringList all;
    for (const std::string& change : c.changes)
        all << words(change);
    return all.join(" · ");
}

ChoicesPicture::ChoicesPicture(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("choicesPicture");
    setAccessibleName(tr("Options on two axes"));
    setMouseTracking(true);
    setMinimumHeight(qRound(context.appearance.text() * 14));
    connect(&context.appearance, &Appearance::changed, this, qOverload<>(&QWidget::update));
    offer_picture(this, context.appearance);
}

void ChoicesPicture::show_choices(ChoicesPtr choices, std::vector<std::size_t> shown) {
    choices_ = std::move(choices);
    shown_ = std::move(shown);
    update();
}

void ChoicesPicture::on_axes(plan::Axis across, plan::Axis up) {
    across_ = across;
    up_ = up;
    update();
}

void ChoicesPicture::choose(std::size_t choice) {
    chosen_ = choice;
    update();
}

QRectF ChoicesPicture::box() const {
    const double text = context_.appearance.text();
    return {text * 6, text * 1.8, width() - text * 8, height() - text * 6.8};
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

QPointF ChoicesPicture::point_of(std::size_t choice) const {
    const QRectF area = box();
    const PlotAxis x = axis_over(*choices_, shown_, across_), y = axis_over(*choices_, shown_, up_);
    const plan::Choice& c = choices_->all[choice];
    auto at = [](double v) { return std::isfinite(v) ? v : 0.0; };
    return {area.left() + x.share(at(shown_value(c, across_))) * area.width(),
            area.bottom() - y.share(at(shown_value(c, up_))) * area.height()};
}

void ChoicesPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    if (!choices_ || shown_.empty()) {
        p.setPen(inks.second);
        p.setFont(page_font(text));
        p.drawText(QRectF(rect()).adjusted(10, 6, -10, 0), Qt::TextWordWrap,
                   choices_ ? tr("None of them is so. Show more.")
                            : tr("Work the options out: every cell, protection, speaker, kill, "
                                 "strip and brightness that fits this hilt, each run down."));
        return;
    }
    const QRectF area = box();
    const PlotAxis x = axis_over(*choices_, shown_, across_), y = axis_over(*choices_, shown_, up_);
    paint_foot_axis(p, area, x, text, inks);
    paint_side_axis(p, area, y, text, inks);
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.ink);
    auto direction = [](plan::Axis axis) {
        return plan::more_is_better(axis) ? tr("%1, more is better").arg(words(plan::word(axis)))
                                          : tr("%1, less is better").arg(words(plan::word(axis)));
    };
    p.drawText(QRectF(area.left(), area.bottom() + text * 1.8, area.width(), text * 1.4),
               Qt::AlignRight, direction(across_) + QString::fromUtf8(" →"));
    p.drawText(QRectF(2, 0, area.width(), text * 1.5), Qt::AlignLeft | Qt::AlignVCenter,
               QString::fromUtf8("↑ ") + direction(up_));
    p.setRenderHint(QPainter::Antialiasing);
    // Least in the foreground first; the one that is built and the one chosen last.
    auto dot = [&](std::size_t i) {
        const plan::Choice& c = choices_->all[i];
        const QPointF at = point_of(i);
        p.setPen(QPen(c.overloaded ? inks.stop : inks.petrol, 1.2));
        p.setBrush(c.best ? QBrush(inks.petrol) : QBrush(inks.paper));
        p.drawEllipse(at, c.best ? 3.6 : 2.6, c.best ? 3.6 : 2.6);
    };
    for (const bool best : {false, true})
        for (const std::size_t i : shown_)
            if (choices_->all[i].best == best) dot(i);
    for (const std::size_t i : shown_) {
        if (!choices_->all[i].fitted && i != chosen_) continue;
        const QPointF at = point_of(i);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(i == chosen_ ? inks.warn : inks.ink, 2));
        p.drawEllipse(at, 7, 7);
        if (choices_->all[i].fitted) {
            p.setPen(inks.ink);
            const QString said = tr("as built");
            const double w = QFontMetricsF(p.font()).horizontalAdvance(said) + 8;
            const bool left = at.x() + w + 12 > width();
            const QRectF tag(left ? at.x() - w - 10 : at.x() + 10, at.y() - text * 0.75, w,
                             text * 1.5);
            p.fillRect(tag, inks.paper);
            p.drawText(tag, Qt::AlignCenter, said);
        }
    }
    // The legend, under the axis.
    const double ly = height() - text * 0.9;
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
}

int ChoicesPicture::nearest(QPointF at) const {
    int best = -1;
    double least = 12;
    for (std::size_t k = 0; choices_ && k < shown_.size(); ++k) {
        const QPointF d = point_of(shown_[k]) - at;
        const double away = std::hypot(d.x(), d.y());
        if (away < least) least = away, best = static_cast<int>(k);
    }
    return best;
}

void ChoicesPicture::mousePressEvent(QMouseEvent* event) {
    if (const int k = nearest(event->position()); k >= 0)
        emit chosen(shown_[static_cast<std::size_t>(k)]);
}

bool ChoicesPicture::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    auto* help = static_cast<QHelpEvent*>(event);
    const int k = nearest(help->pos());
    if (k < 0) {
        QToolTip::hideText();
        return true;
    }
    const plan::Choice& c = choices_->all[shown_[static_cast<std::size_t>(k)]];
    QToolTip::showText(
        help->globalPos(),
        tr("%1: %2, %3").arg(changes_of(c), shown_text(c, across_), shown_text(c, up_)), this);
    return true;
}

} // namespace conductus::app
