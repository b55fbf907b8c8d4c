// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/cells_drawing.h"

#include <algorithm>

#include "app/drawing/marks.h"
#include "app/session/words.h"

namespace conductus::app {
namespace {

constexpr double row_lines = 2.75; // height of a cell's row in running text

} // namespace

QSizeF CellsDrawing::size(double lettering) const {
    const auto rows = static_cast<double>(std::max<std::size_t>(1, plan_->options.size()));
    return {lettering * 34, rows * row_lines * lettering};
}

QString CellsDrawing::description() const {
    QStringList said;
    for (const auto& o : plan_->options)
        said << words(o.name) + ": " + words(o.remark);
    return said.join("; ");
}

std::vector<HitBox> CellsDrawing::paint(const Surface& on) const {
    if (plan_->options.empty()) {
        paint_words(on, tr("Fit a cell to see which others go in."));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const Inks& inks = on.inks;
    const double text = on.lettering, row = row_lines * text, width = on.frame.width();
    p.setRenderHint(QPainter::Antialiasing);
    // Small to large, as in the catalogue, at one scale.
    std::vector<const plan::CellOption*> options;
    double longest = 1;
    for (const auto* type : plan_->parts->all<catalogue::Cell>()) {
        longest = std::max(longest, type->body.length.value());
        for (const auto& o : plan_->options)
            if (o.type == type->id) options.push_back(&o);
    }
    const double names = text * 9.0;
    const double scale = std::min((row - 6) / 27.0, width * 0.14 / longest);
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
        const QRectF remark(marks + m + 6, y, width - marks - m - 8, row);
        const QFontMetricsF metrics(p.font());
        p.drawText(remark, Qt::AlignVCenter,
                   metrics.elidedText(words(o->remark), Qt::ElideRight, remark.width()));
        y += row;
    }
    return {};
}

} // namespace conductus::app
