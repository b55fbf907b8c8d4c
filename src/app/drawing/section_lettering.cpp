// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_lettering.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>

#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct Lettering {
    Q_DECLARE_TR_FUNCTIONS(Lettering)
};

/// Pushes flags apart until none overlap, keeping their order, within [left, right].
void make_room(std::vector<Flag>& flags, const QFontMetricsF& metrics, double left, double right) {
    std::stable_sort(flags.begin(), flags.end(), [](auto& a, auto& b) { return a.x < b.x; });
    auto half = [&](const Flag& f) { return metrics.horizontalAdvance(f.text) / 2 + 8; };
    double edge = left;
    for (Flag& f : flags) {
        f.placed = std::max(f.x, edge + half(f));
        edge = f.placed + half(f) + 3;
    }
    edge = right;
    for (auto f = flags.rbegin(); f != flags.rend(); ++f) {
        f->placed = std::min(f->placed, edge - half(*f));
        edge = f->placed - half(*f) - 3;
    }
}

} // namespace

QStringList names_of(const plan::Plan& plan, const std::string& ref) {
    const job::Part* part = job::find_ref(plan.job->parts, ref);
    const auto* type = part ? plan.parts->find(part->type) : nullptr;
    if (!type) return {};
    QStringList names;
    for (const std::string& name : catalogue::letterings(*type))
        names << QCoreApplication::translate("Lettering", name.c_str());
    if (const auto* cell = std::get_if<catalogue::Cell>(&type->figures)) {
        const QString capacity =
            names.value(0) +
            QString(" · %1 mAh").arg(part->measured.capacity.value_or(cell->capacity).value());
        names.prepend(capacity);
        if (part->protection) names.prepend(capacity + Lettering::tr(" protected"));
    }
    return names;
}

void letter_body(QPainter& p, const QRectF& box, const QString& ref, const QStringList& names,
                 const Inks& inks) {
    const QFontMetricsF m(p.font());
    const double line = m.height();
    auto fits = [&](const QString& s, double room) { return m.horizontalAdvance(s) < room - 8; };
    for (const QString& name : names) {
        if (box.height() > line * 3.1 && fits(name, box.width())) {
            p.setPen(inks.ink);
            p.drawText(box, Qt::AlignCenter, name);
            p.setPen(inks.second);
            p.drawText(box.adjusted(4, 2, 0, 0), Qt::AlignLeft | Qt::AlignTop, ref);
            return;
        }
        if (box.height() > line * 0.9 && fits(ref + "  " + name, box.width())) {
            p.setPen(inks.ink);
            p.drawText(box, Qt::AlignCenter, ref + "  " + name);
            return;
        }
    }
    p.setPen(inks.ink);
    if (box.height() > line * 0.9 && fits(ref, box.width() + 6)) {
        p.drawText(box, Qt::AlignCenter, ref);
        return;
    }
    QStringList upright;
    for (const QString& name : names)
        upright << ref + "  " + name;
    // Upright, smaller if need be.
    QFont small = p.font();
    small.setPixelSize(std::min(small.pixelSize(), static_cast<int>(box.width())));
    const QFontMetricsF sm(small);
    for (const QString& words : upright << ref)
        if (small.pixelSize() >= 8 && sm.horizontalAdvance(words) < box.height() - 4) {
            p.save();
            p.setFont(small);
            p.translate(box.center());
            p.rotate(-90);
            p.drawText(QRectF(-box.height() / 2, -line / 2, box.height(), line), Qt::AlignCenter,
                       words);
            p.restore();
            return;
        }
    // Too small to letter: beside a tall body, under a flat one.
    if (box.height() > line * 2) {
        p.drawText(QRectF(box.right() + 3, box.center().y() - line * 1.1, 80, line), Qt::AlignLeft,
                   ref);
    } else {
        p.drawText(QRectF(box.center().x() - 40, box.bottom() + 1, 80, line), Qt::AlignHCenter,
                   ref);
    }
}

void paint_flags(QPainter& p, std::vector<Flag> flags, const QRectF& frame, double y,
                 const QFont& font, const Inks& inks) {
    const QFontMetricsF metrics(font);
    make_room(flags, metrics, frame.left(), frame.right());
    p.setFont(font);
    for (const Flag& f : flags) {
        const double w = metrics.horizontalAdvance(f.text) + 14, h = metrics.height() + 3;
        const QRectF pill(f.placed - w / 2, y - h / 2, w, h);
        p.setPen(QPen(f.colour, 0.9, Qt::DotLine));
        p.drawLine(QPointF(f.placed, pill.bottom()), QPointF(f.x, f.tip_y));
        p.setPen(QPen(f.colour, 1.2));
        p.setBrush(inks.paper);
        p.drawRect(pill);
        p.drawText(pill, Qt::AlignCenter, f.text);
    }
}

} // namespace conductus::app
