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

bool Taken::is_free(const QRectF& box) const {
    return std::none_of(boxes_.begin(), boxes_.end(),
                        [&](const QRectF& other) { return other.intersects(box); });
}

void letter_body(QPainter& p, const QRectF& box, const QString& ref, const QStringList& names,
                 const QRectF& frame, const Inks& inks, Taken& taken) {
    const QFontMetricsF m(p.font());
    const double line = m.height();
    const auto fits = [&](const QString& s, double room) {
        return m.horizontalAdvance(s) < room - 8;
    };
    /// What words take that stand in the middle of a place.
    const auto words_at = [&](const QString& words, QPointF middle) {
        const double w = m.horizontalAdvance(words) + 2, h = line * 0.86;
        return QRectF(middle.x() - w / 2, middle.y() - h / 2, w, h);
    };
    const auto letter = [&](const QString& words, QPointF middle, const QColor& ink) {
        const QRectF at = words_at(words, middle);
        taken.take(at);
        p.setPen(ink);
        p.drawText(at.adjusted(-4, -line, 4, line), Qt::AlignCenter, words);
    };
    for (const QString& name : names) {
        const QRectF middle = words_at(name, box.center());
        const QPointF corner(box.left() + 4 + m.horizontalAdvance(ref) / 2,
                             box.top() + 2 + line / 2);
        if (box.height() > line * 3.1 && fits(name, box.width()) && taken.is_free(middle) &&
            taken.is_free(words_at(ref, corner))) {
            letter(name, box.center(), inks.ink);
            return letter(ref, corner, inks.second);
        }
        const QString both = ref + "  " + name;
        if (box.height() > line * 0.9 && fits(both, box.width()) &&
            taken.is_free(words_at(both, box.center())))
            return letter(both, box.center(), inks.ink);
    }
    if (box.height() > line * 0.9 && fits(ref, box.width() + 6) &&
        taken.is_free(words_at(ref, box.center())))
        return letter(ref, box.center(), inks.ink);
    // Upright, smaller if need be.
    QStringList upright;
    for (const QString& name : names)
        upright << ref + "  " + name;
    QFont small = p.font();
    small.setPixelSize(std::min(small.pixelSize(), static_cast<int>(box.width())));
    const QFontMetricsF sm(small);
    for (const QString& words : upright << ref) {
        const double w = sm.horizontalAdvance(words), h = sm.height() * 0.86;
        const QRectF at(box.center().x() - h / 2, box.center().y() - w / 2, h, w);
        if (small.pixelSize() < 8 || w >= box.height() - 4 || !taken.is_free(at)) continue;
        taken.take(at);
        p.save();
        p.setPen(inks.ink);
        p.setFont(small);
        p.translate(box.center());
        p.rotate(-90);
        p.drawText(QRectF(-box.height() / 2, -line / 2, box.height(), line), Qt::AlignCenter,
                   words);
        p.restore();
        return;
    }
    // Too small to letter: beside a tall body, under or over a flat one, or further off.
    const double half = m.horizontalAdvance(ref) / 2;
    const QPointF c = box.center();
    std::vector<QPointF> places;
    const QPointF beside(box.right() + 4 + half, c.y() - line * 0.6),
        before(box.left() - 4 - half, c.y() - line * 0.6), under(c.x(), box.bottom() + line * 0.55),
        over(c.x(), box.top() - line * 0.55);
    if (box.height() > line * 2)
        places = {beside, before, under, over};
    else
        places = {under, over, beside, before};
    const std::size_t near_by = places.size();
    for (int away = 1; away <= 4; ++away)
        for (const double aside : {0.0, 1.0, -1.0, 2.0, -2.0})
            for (const double sign : {1.0, -1.0})
                places.emplace_back(c.x() + aside * (2 * half + 6),
                                    c.y() + sign * (box.height() / 2 + line * (0.55 + away)));
    for (std::size_t i = 0; i < places.size(); ++i) {
        const QRectF at = words_at(ref, places[i]);
        if (!taken.is_free(at) || !frame.contains(at)) continue;
        if (i >= near_by) {
            p.setPen(QPen(inks.second, 0.8));
            p.drawLine(QPointF(places[i].x(), places[i].y() > c.y() ? at.top() : at.bottom()), c);
        }
        return letter(ref, places[i], inks.ink);
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
