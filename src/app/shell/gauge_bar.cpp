// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/gauge_bar.h"

#include <QHBoxLayout>
#include <QPainter>
#include <cmath>

#include "app/session/words.h"
#include "core/base/format.h"

namespace conductus::app {

QString figure_text(const Explained& figure) {
    if (!figure.value) return QString::fromUtf8("–");
    if (figure.unit == "min") return QString::fromStdString(duration(Minute(*figure.value)));
    if (figure.unit == "cells" && *figure.value == 1) return Gauge::tr("1 cell");
    if (figure.id == "board-sag")
        return QString::fromStdString(with_unit(-*figure.value, figure.unit));
    return QString::fromStdString(with_unit(*figure.value, figure.unit));
}

bool larger_is_better(std::string_view id) {
    return id == "tip-brightness" || id == "first-crackle" || id == "dim" || id == "tightest-fit";
}

Gauge::Gauge(const Appearance& appearance, QWidget* parent)
    : QAbstractButton(parent), appearance_(appearance) {
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize Gauge::sizeHint() const {
    const double text = appearance_.text();
    return {qRound(text * 8), qRound(text * 5.2)};
}

void Gauge::show_figure(const Explained& figure, const Explained* before) {
    value_ = figure_text(figure);
    label_ = words(figure.label);
    worst_.clear();
    if (figure.worst) {
        Explained then = figure;
        then.value = figure.worst;
        if (const QString said = figure_text(then); said != value_)
            worst_ = tr("%1 with %2").arg(said, words(figure.worst_set));
    }
    change_.clear();
    better_ = 0;
    if (before && before->value && figure.value) {
        const QString was = figure_text(*before);
        if (was != value_) {
            better_ = (*figure.value > *before->value) == larger_is_better(figure.id) ? 1 : -1;
            change_ = better_ > 0 ? tr("better, was %1").arg(was) : tr("worse, was %1").arg(was);
        }
    }
    setText(value_);
    setAccessibleName(tr("%1 %2").arg(label_, value_));
    setAccessibleDescription(worst_.isEmpty() ? change_ : worst_ + " " + change_);
    setToolTip(!figure.value      ? words(figure.reason)
               : worst_.isEmpty() ? tr("Why?")
                                  : tr("At worst %1. Why?").arg(worst_));
    update();
}

void Gauge::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text();
    if (underMouse()) p.fillRect(rect(), QColor(255, 255, 255, 16));
    if (hasFocus()) {
        p.setPen(QPen(inks.on_strip, 1));
        p.drawRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5));
    }
    const double x = text * 0.9, w = width() - x - 2;
    auto line = [&](double y, double size, bool bold, const QColor& c, const QString& s) {
        p.setFont(page_font(size, bold));
        p.setPen(c);
        const QFontMetricsF m(p.font());
        p.drawText(QRectF(x, y, w, m.height()), Qt::AlignVCenter,
                   m.elidedText(s, Qt::ElideRight, w));
    };
    line(text * 0.55, text * 1.5, true, inks.on_strip, value_);
    line(text * 2.45, text * 0.86, false, inks.on_strip_second, label_);
    if (better_ == 0 && !worst_.isEmpty())
        line(text * 3.75, text * 0.8, false, inks.on_strip_second, worst_);
    if (better_ != 0) {
        // A rising or falling triangle with the word; the colour only repeats it.
        const QColor c = better_ > 0 ? QColor("#8fd0a0") : QColor("#f0a59f");
        const double y = text * 3.75, s = text * 0.62;
        p.setBrush(c);
        p.setPen(Qt::NoPen);
        const QRectF t(x, y + text * 0.22, s, s);
        if (better_ > 0) {
            p.drawPolygon(
                QPolygonF({t.bottomLeft(), t.bottomRight(), QPointF(t.center().x(), t.top())}));
        } else {
            p.drawPolygon(
                QPolygonF({t.topLeft(), t.topRight(), QPointF(t.center().x(), t.bottom())}));
        }
        p.setFont(page_font(text * 0.8));
        p.setPen(c);
        const QFontMetricsF m(p.font());
        p.drawText(QRectF(x + s + 4, y, w - s - 4, m.height()), Qt::AlignVCenter,
                   m.elidedText(change_, Qt::ElideRight, w - s - 4));
    }
}

GaugeBar::GaugeBar(const Appearance& appearance, QWidget* parent)
    : QWidget(parent), appearance_(appearance) {
    setObjectName("gaugeBar");
    setAccessibleName(tr("The figures that decide"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(4, 0, 4, 0);
    row->setSpacing(0);
    for (std::size_t i = 0; i < 8; ++i) {
        auto* g = new Gauge(appearance, this);
        g->setObjectName(QString("gauge%1").arg(i + 1));
        row->addWidget(g, 1);
        gauges_.push_back(g);
        connect(g, &QAbstractButton::clicked, this, [this, i] { emit why(i); });
    }
    connect(&appearance, &Appearance::changed, this, [this] {
        for (auto* g : gauges_)
            g->updateGeometry(), g->update();
        update();
    });
}

void GaugeBar::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), appearance_.inks().strip);
}

void GaugeBar::show_plan(const PlanPtr& plan, const PlanPtr& before) {
    for (std::size_t i = 0; i < gauges_.size() && i < plan->figures.size(); ++i)
        gauges_[i]->show_figure(plan->figures[i], before ? &before->figures[i] : nullptr);
}

} // namespace conductus::app
