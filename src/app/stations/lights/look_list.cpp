// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/look_list.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

#include "app/drawing/blade_drawing.h"
#include "core/base/format.h"
#include "core/job/words.h"
#include "core/power/runtime.h"

namespace conductus::app {

LookList::LookList(const Bench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
    setObjectName("looks");
    setAccessibleName(tr("Looks"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&bench.selection, &Selection::changed, this, qOverload<>(&QWidget::update));
    connect(&bench.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

QSize LookList::sizeHint() const {
    const auto rows = plan_ ? static_cast<double>(plan_->looks.size()) : 1.0;
    return {qRound(bench_.appearance.text() * 28), qRound(head_height() + rows * row_height())};
}

LookList::Columns LookList::columns() const {
    const double text = bench_.appearance.text();
    Columns c{};
    c.blade = std::max(text * 8.4, std::min(text * 10.5, width() * 0.2));
    c.end = width() - 6;
    c.bars = c.end - std::max(text * 9.5, width() * 0.24);
    c.tip = c.bars - text * 4.6;
    c.blade_end = c.tip - text * 0.8;
    return c;
}

void LookList::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    updateGeometry();
    update();
}

int LookList::chosen_row() const {
    const std::string chosen = bench_.selection.options().look.toStdString();
    for (std::size_t i = 0; plan_ && i < plan_->looks.size(); ++i)
        if (plan_->looks[i].name == chosen) return static_cast<int>(i);
    return -1;
}

void LookList::choose(int row) {
    if (!plan_ || row < 0 || row >= static_cast<int>(plan_->looks.size())) return;
    const plan::LookPlan& look = plan_->looks[static_cast<std::size_t>(row)];
    bench_.selection.look_at(QString::fromStdString(look.name));
    setAccessibleDescription(
        tr("%1, tip %2 % full, %3 % nearly empty, mean %4, peak %5")
            .arg(QString::fromStdString(look.name))
            .arg(qRound(look.views[plan::full].tip * 100))
            .arg(qRound(look.views[plan::low].tip * 100))
            .arg(QString::fromStdString(text(look.mean)), QString::fromStdString(text(look.peak))));
    emit row_moved(QRectF(0, head_height() + row * row_height(), width(), row_height()).toRect());
}

void LookList::paint_row(QPainter& p, const plan::LookPlan& look, double y, double most,
                         bool chosen) const {
    const Inks& inks = bench_.appearance.inks();
    const double text = bench_.appearance.text(), row = row_height();
    const Columns c = columns();
    if (chosen) {
        p.fillRect(QRectF(0, y + 2, width(), row - 4), inks.chosen);
        p.fillRect(QRectF(0, y + 2, 3, row - 4), inks.petrol);
    }
    const double r = text * 0.62;
    p.setPen(QPen(inks.ink, 1.2));
    p.setBrush(colour(look.swatch));
    p.drawEllipse(QPointF(text * 1.2, y + row / 2), r, r);
    p.setPen(inks.ink);
    const QRectF words(text * 2.4, y + row / 2 - text * 1.35, c.blade - text * 2.9, text * 1.4);
    p.setFont(page_font(text, chosen));
    p.drawText(words, Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(QString::fromStdString(look.name), Qt::ElideRight,
                                                  words.width()));
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    p.drawText(words.translated(0, text * 1.35), Qt::AlignVCenter,
               QString::fromUtf8(job::word(look.style).data()));

    const double h = text * 1.1;
    const std::pair<plan::Charge, double> lanes[] = {{plan::full, y + row / 2 - h - 1.5},
                                                     {plan::low, y + row / 2 + 1.5}};
    for (const auto& [charge, top] : lanes) {
        const plan::View& view = look.views[charge];
        paint_blade(p, QRectF(c.blade, top, c.blade_end - c.blade, h), view.paint, inks);
        p.setFont(page_font(text * 0.92));
        // Only a strip's tip is solved: how a string or a tube carries light is not.
        const bool solved = !view.pixel_volts.empty();
        p.setPen(solved && view.tip < power::dim_share ? inks.warn : inks.ink);
        p.drawText(QRectF(c.tip, top, text * 3.4, h), Qt::AlignRight | Qt::AlignVCenter,
                   solved ? QString("%1").arg(qRound(view.tip * 100)) + QChar(0x202f) + "%"
                          : QString(QChar(0x2013)));
    }
    const double room = c.end - c.bars - text * 4.6;
    auto bar = [&](double top, double height, double amps, const QColor& fill, bool bold) {
        p.fillRect(QRectF(c.bars, top + (h - height) / 2, room * amps / most, height), fill);
        p.setFont(page_font(text * 0.92, bold));
        p.setPen(bold ? inks.ink : inks.second);
        p.drawText(QRectF(c.bars + room * amps / most + 6, top, text * 4.6, h), Qt::AlignVCenter,
                   QString::fromStdString(conductus::text(Ampere(amps))));
    };
    bar(lanes[0].second, h * 0.8, look.mean.value(), inks.clean, true);
    bar(lanes[1].second, h * 0.55, look.peak.value(), inks.clean_pale, false);
}

void LookList::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = bench_.appearance.inks();
    p.fillRect(rect(), inks.paper);
    if (!plan_) return;
    const double text = bench_.appearance.text();
    const Columns c = columns();
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    const double h = head_height();
    p.drawText(QRectF(text * 2.4, 0, c.blade, h), Qt::AlignVCenter, tr("look"));
    p.drawText(QRectF(c.blade, 0, c.blade_end - c.blade, h), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("foot to tip: full cell above, at 10 % below"),
                                                  Qt::ElideRight, c.blade_end - c.blade));
    p.drawText(QRectF(c.tip, 0, text * 3.4, h), Qt::AlignVCenter | Qt::AlignRight, tr("tip"));
    p.drawText(QRectF(c.bars, 0, c.end - c.bars, h), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("mean above, peak below"), Qt::ElideRight,
                                                  c.end - c.bars));
    double most = 0.1;
    for (const auto& look : plan_->looks)
        most = std::max(most, look.peak.value());
    const int chosen = chosen_row();
    for (std::size_t i = 0; i < plan_->looks.size(); ++i)
        paint_row(p, plan_->looks[i], h + row_height() * static_cast<double>(i), most,
                  static_cast<int>(i) == chosen);
    if (hasFocus() && chosen >= 0) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(1, h + row_height() * chosen + 2, width() - 2, row_height() - 4));
    }
}

void LookList::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Down) return choose(chosen_row() + 1);
    if (event->key() == Qt::Key_Up) return choose(chosen_row() - 1);
    QWidget::keyPressEvent(event);
}

void LookList::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (event->position().y() > head_height())
        choose(static_cast<int>((event->position().y() - head_height()) / row_height()));
}

bool LookList::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || !plan_) return QWidget::event(event);
    auto* help = static_cast<QHelpEvent*>(event);
    const Columns c = columns();
    const double y = help->y() - head_height();
    const auto row = static_cast<std::size_t>(std::max(0.0, y / row_height()));
    const double along = (help->x() - c.blade) / (c.blade_end - c.blade);
    if (y < 0 || row >= plan_->looks.size() || along < 0 || along >= 1) {
        QToolTip::hideText();
        return true;
    }
    const bool fresh = y - row_height() * static_cast<double>(row) < row_height() / 2;
    const plan::View& view = plan_->looks[row].views[fresh ? plan::full : plan::low];
    if (view.pixel_volts.empty()) return true;
    const auto pixel =
        static_cast<std::size_t>(along * static_cast<double>(view.pixel_volts.size()));
    QToolTip::showText(help->globalPos(),
                       tr("pixel %1 of %2: %3")
                           .arg(pixel + 1)
                           .arg(view.pixel_volts.size())
                           .arg(QString::fromStdString(text(Volt(view.pixel_volts[pixel])))),
                       this);
    return true;
}

} // namespace conductus::app
