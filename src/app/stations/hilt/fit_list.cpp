// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/fit_list.h"

#include <QPainter>
#include <algorithm>

#include "app/drawing/marks.h"

namespace conductus::app {

FitList::FitList(const Appearance& appearance, QWidget* parent)
    : QWidget(parent), appearance_(appearance) {
    setObjectName("fitList");
    setAccessibleName(tr("What goes in"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize FitList::sizeHint() const {
    const auto rows = plan_ ? static_cast<double>(plan_->options.size()) : 9.0;
    return {qRound(appearance_.text() * 24), qRound(rows * row_height())};
}

void FitList::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    QStringList said;
    for (const auto& o : plan->options)
        said << words(o.name) + ": " + words(o.remark);
    setAccessibleDescription(said.join("; "));
    updateGeometry();
    update();
}

void FitList::paintEvent(QPaintEvent*) {
    if (!plan_) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text(), row = row_height();
    // Small to large, as in the catalogue, at one scale.
    std::vector<const plan::CellOption*> options;
    double longest = 1;
    for (const auto* type : plan_->parts->all<catalogue::Cell>()) {
        longest = std::max(longest, type->body.length.value());
        for (const auto& o : plan_->options)
            if (o.type == type->id) options.push_back(&o);
    }
    const double names = text * 9.0;
    const double scale = std::min((row - 6) / 27.0, width() * 0.14 / longest);
    const double marks = names + longest * scale + text * 0.7;
    double y = 0;
    for (const plan::CellOption* o : options) {
        const auto* type = plan_->parts->find(o->type);
        const auto* cell = std::get_if<catalogue::Cell>(&type->figures);
        if (o->fitted) p.fillRect(QRectF(0, y + 2, 3, row - 4), inks.petrol);
        p.setFont(page_font(text * 0.95, o->fitted));
        p.setPen(inks.ink);
        p.drawText(QRectF(8, y, text * 3.6, row), Qt::AlignVCenter,
                   QString::fromStdString(cell->size));
        p.setFont(page_font(text * 0.86));
        p.setPen(inks.second);
        p.drawText(QRectF(text * 3.7, y, names - text * 4.2, row),
                   Qt::AlignVCenter | Qt::AlignRight,
                   QString("%1 mAh").arg(cell->capacity.value()));
        const double w = type->body.length.value() * scale, h = type->body.diameter.value() * scale;
        p.setBrush(inks.cell);
        p.setPen(QPen(o->fits ? inks.ink : inks.stop, 1.1));
        p.drawRect(QRectF(names, y + (row - h) / 2, w, h));
        const double m = text * 0.9;
        const QRectF mark(marks, y + (row - m) / 2, m, m);
        if (!o->fits) {
            paint_mark(p, mark, findings::Severity::stop, inks);
        } else if (o->trips || o->overloaded) {
            paint_mark(p, mark, findings::Severity::warn, inks);
        } else {
            paint_tick(p, mark, inks);
        }
        p.setPen(o->fits ? inks.second : inks.stop);
        const QRectF remark(marks + m + 6, y, width() - marks - m - 8, row);
        const QFontMetricsF metrics(p.font());
        p.drawText(remark, Qt::AlignVCenter,
                   metrics.elidedText(words(o->remark), Qt::ElideRight, remark.width()));
        y += row;
    }
}

} // namespace conductus::app
