// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/lanes_drawing.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>

#include "app/session/words.h"
#include "core/base/format.h"
#include "core/circuit/copper.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

struct LaneWords {
    Q_DECLARE_TR_FUNCTIONS(LaneWords)
};

double level_height(double lettering) { return lettering * 1.45; }
double hilt_height(double lettering) { return lettering * 3.9; }

/// Copper to scale: 20 AWG is 0.81 mm, drawn 4.4 px thick at usual lettering.
double thickness(int gauge, double lettering) {
    return std::max(1.0, circuit::wire_diameter(gauge).value() * lettering * 0.45);
}

int levels_of(const harness::Harness& h) {
    int most = 0;
    for (const harness::Lane& lane : h.lanes)
        most = std::max(most, lane.level + 1);
    return most;
}

double length_of(const plan::Plan& plan) {
    double mm = 50;
    if (!plan.job->hilt.sections.empty())
        mm = std::max(mm, plan.job->hilt.sections.back().to.value());
    for (const hilt::PlacedBody& b : plan.fit.bodies)
        mm = std::max(mm, b.to.value());
    return mm;
}

/// A chosen part shows which wires are its own.
bool ends_on(const harness::WireRow& w, const QString& part) {
    return words(std::string(job::split_terminal(w.from).first)) == part ||
           words(std::string(job::split_terminal(w.to).first)) == part;
}

/// Parts as boxes over the lanes, so that one sees what a wire's end is on.
void paint_parts(QPainter& p, const plan::Plan& plan, const Scale& s, double lettering,
                 const LanesOptions& o, const Inks& inks) {
    const QFont font = drawing_font(lettering * 0.9);
    const QFontMetricsF metrics(font);
    p.setFont(font);
    double taken = -1e9; // right edge of the lettering above
    const double half = lettering * 1.05;
    for (const job::BoreSection& section : plan.job->hilt.sections)
        for (const double side : {-1.0, 1.0}) {
            p.setPen(QPen(inks.second, 0.9));
            const double y = s.axis + side * (half + 3);
            p.drawLine(QPointF(s.x(section.from), y), QPointF(s.x(section.to), y));
            if (section.from > Millimetre(0))
                p.drawLine(QPointF(s.x(section.from), y - 2), QPointF(s.x(section.from), y + 2));
        }
    std::vector<const hilt::PlacedBody*> bodies;
    for (const hilt::PlacedBody& b : plan.fit.bodies)
        bodies.push_back(&b);
    std::sort(bodies.begin(), bodies.end(),
              [](const auto* a, const auto* b) { return a->from < b->from; });
    for (const hilt::PlacedBody* b : bodies) {
        const QRectF box(s.x(b->from), s.axis - half, std::max(3.0, s.px(b->to - b->from)),
                         2 * half);
        const QString ref = words(b->ref);
        const bool marked = ref == o.chosen || o.lit.contains(ref);
        p.setPen(marked ? QPen(inks.petrol, 2.2) : QPen(inks.ink, 1));
        p.setBrush(fill_of(plan, b->ref, inks));
        p.drawRect(box);
        p.setPen(inks.ink);
        const double w = metrics.horizontalAdvance(ref);
        if (w + 4 <= box.width()) {
            p.drawText(box, Qt::AlignCenter, ref);
        } else if (const double x = box.center().x() - w / 2; x > taken + 3) {
            p.drawText(QRectF(x, box.top() - metrics.height() - 1, w + 2, metrics.height()),
                       Qt::AlignLeft, ref);
            taken = x + w;
        }
    }
}

} // namespace

QColor role_ink(job::Role role, const Inks& inks) {
    switch (role) {
    case job::Role::supply:
        return inks.stop;
    case job::Role::return_path:
        return inks.ink;
    case job::Role::data:
        return inks.petrol;
    case job::Role::button:
        return inks.fine;
    case job::Role::sound:
        return inks.warn;
    }
    return inks.ink;
}

double lanes_height(const plan::Plan& plan, double lettering) {
    return hilt_height(lettering) + lettering * 1.2 +
           levels_of(plan.harness) * level_height(lettering) + lettering * 3.2;
}

std::vector<HitBox> paint_lanes(QPainter& p, const QRectF& frame, const plan::Plan& plan,
                                const LanesOptions& o, const Inks& inks) {
    std::vector<HitBox> spots;
    const harness::Harness& h = plan.harness;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const double text = o.lettering;
    Scale s;
    if (o.axis) {
        s = *o.axis;
    } else {
        s.per_mm = (frame.width() - text * 8) / length_of(plan);
        s.x0 = frame.left() + text * 2;
    }
    s.axis = frame.top() + hilt_height(text) * 0.62;
    const double top = frame.top() + hilt_height(text) + text * 0.6;
    const double pitch = level_height(text);
    auto y_of = [&](int level) { return top + (level + 0.5) * pitch; };

    // What comes down from above first, under everything.
    for (std::size_t i = 0; i < h.lanes.size(); ++i) {
        const harness::WireRow& w = h.wires[i];
        const bool chosen =
            words(w.ref) == o.chosen || o.lit.contains(words(w.ref)) || ends_on(w, o.chosen);
        QPen pen(chosen ? inks.petrol : inks.hair, chosen ? 1.4 : 1, Qt::DotLine);
        p.setPen(pen);
        for (const Millimetre end : {w.route.from, w.route.to})
            p.drawLine(QPointF(s.x(end), s.axis), QPointF(s.x(end), y_of(h.lanes[i].level)));
    }
    paint_parts(p, plan, s, text, o, inks);
    const QFont font = drawing_font(text * 0.95);
    const QFontMetricsF metrics(font);
    p.setFont(font);
    for (std::size_t i = 0; i < h.lanes.size(); ++i) {
        const harness::WireRow& w = h.wires[i];
        const harness::Lane& lane = h.lanes[i];
        const QString ref = words(w.ref);
        const bool chosen = ref == o.chosen || o.lit.contains(ref);
        const double y = y_of(lane.level);
        const QPointF a(s.x(Millimetre(lane.from)), y), b(s.x(Millimetre(lane.to)), y);
        const double thick = thickness(w.gauge, text);
        const QColor ink = role_ink(w.role, inks);
        if (chosen) {
            p.setPen(QPen(inks.chosen, thick + 8, Qt::SolidLine, Qt::RoundCap));
            p.drawLine(a, b);
        }
        p.setPen(QPen(ink, thick, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(a, b);
        p.setPen(QPen(ink, 1.4));
        p.setBrush(o.done.contains(ref) ? ink : inks.paper);
        for (const QPointF& end : {a, b})
            p.drawEllipse(end, text * 0.26, text * 0.26);
        // Its name beside the right end, on paper: what passes there stays readable.
        const QString name = ref;
        const double width = metrics.horizontalAdvance(name);
        QRectF tag(b.x() + text * 0.45, y - metrics.height() / 2, width + 3, metrics.height());
        if (tag.right() > frame.right()) tag.moveRight(a.x() - text * 0.45);
        p.fillRect(tag, inks.paper);
        p.setPen(chosen || ends_on(w, o.chosen) ? inks.petrol : inks.ink);
        p.drawText(tag, Qt::AlignCenter, name);
        spots.push_back({ref, QRectF(QPointF(std::min(a.x() - 5, tag.left()), y - pitch / 2),
                                     QPointF(std::max(b.x() + 5, tag.right()), y + pitch / 2))});
    }
    // What colours and thickness mean, in words.
    const double ly = top + levels_of(h) * pitch + text * 1.1;
    double lx = frame.left() + text * 0.5;
    p.setFont(page_font(text * 0.86));
    const QFontMetricsF small(p.font());
    for (const auto& [role, word] : job::Words<job::Role>::table) {
        if (std::none_of(h.wires.begin(), h.wires.end(),
                         [r = role](const harness::WireRow& w) { return w.role == r; }))
            continue;
        p.setPen(QPen(role_ink(role, inks), 3));
        p.drawLine(QPointF(lx, ly), QPointF(lx + text * 1.6, ly));
        p.setPen(inks.ink);
        const QString said = words(word);
        p.drawText(QRectF(lx + text * 2, ly - text, small.horizontalAdvance(said) + 2, text * 2),
                   Qt::AlignVCenter, said);
        lx += text * 3.2 + small.horizontalAdvance(said);
    }
    const QString crossings =
        h.crossings == 0 ? LaneWords::tr("none cross")
        : h.crossings == 1
            ? LaneWords::tr("1 crossing, none fewer is possible")
            : LaneWords::tr("%1 crossings, none fewer are possible").arg(h.crossings);
    p.setPen(inks.second);
    p.drawText(QRectF(lx, ly - text, frame.right() - lx, text * 2), Qt::AlignVCenter,
               LaneWords::tr("thickness to gauge · %1").arg(crossings));
    p.restore();
    return spots;
}

DrawingPtr lanes_drawing(std::shared_ptr<const plan::Plan> plan, LanesOptions shown) {
    return make_drawing(
        [plan](double lettering) {
            return QSizeF(lettering * 86, lanes_height(*plan, lettering) + 4);
        },
        [plan, shown](const Surface& on) {
            LanesOptions now = shown;
            now.lettering = on.lettering;
            return paint_lanes(on.p, on.frame.adjusted(2, 2, -2, -2), *plan, now, on.inks);
        },
        [plan] {
            QStringList all;
            for (const harness::WireRow& w : plan->harness.wires)
                all << QCoreApplication::translate("LanesDrawing", "%1 from %2 to %3")
                           .arg(words(w.ref), words(w.from), words(w.to));
            return all.join(", ");
        });
}

} // namespace conductus::app
