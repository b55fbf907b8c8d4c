// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/slice_drawing.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "app/drawing/marks.h"
#include "app/drawing/section_parts.h"
#include "core/base/format.h"
#include "core/hilt/circles.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

struct Slice {
    Q_DECLARE_TR_FUNCTIONS(Slice)
};

const job::BoreSection* section_at(const job::Hilt& hilt, Millimetre at) {
    for (const job::BoreSection& s : hilt.sections)
        if (at >= s.from && at <= s.to) return &s;
    return nullptr;
}

/// What lies in the slice, and the circle it needs.
struct Content {
    std::vector<std::pair<const hilt::PlacedBody*, const hilt::Solid*>> solids;
    hilt::Disc circle;
    bool any = false; ///< of them in the bore
};

Content content(const plan::Plan& plan, Millimetre at) {
    Content c;
    std::vector<hilt::Disc> discs;
    for (const hilt::PlacedBody& b : plan.fit.bodies)
        for (const hilt::Solid& s : b.solids) {
            if (at < s.from || at >= s.to) continue;
            c.solids.emplace_back(&b, &s);
            if (b.in_bore) hilt::outline(s, b.wall.value(), discs);
        }
    c.any = !discs.empty();
    if (c.any) c.circle = hilt::smallest_circle(discs);
    return c;
}

/// Hatch between two circles: chords at 45°, the hole left out.
void hatch_ring(QPainter& p, QPointF middle, double outer, double inner, double spacing) {
    const double s = std::sqrt(0.5);
    for (double d = -outer + spacing / 2; d < outer; d += spacing) {
        const double half = std::sqrt(outer * outer - d * d);
        const QPointF foot = middle + QPointF(d * s, d * s), along(s, -s);
        if (std::abs(d) >= inner) {
            p.drawLine(foot - along * half, foot + along * half);
            continue;
        }
        const double hole = std::sqrt(inner * inner - d * d);
        p.drawLine(foot - along * half, foot - along * hole);
        p.drawLine(foot + along * hole, foot + along * half);
    }
}

} // namespace

QString SliceDrawing::words() const {
    const job::BoreSection* section = section_at(plan_->job->hilt, at_);
    if (!section) return Slice::tr("Nothing is surveyed here");
    const Content c = content(*plan_, at_);
    const Millimetre bore = hilt::bore_at(*section, at_);
    QStringList refs;
    for (const auto& [body, solid] : c.solids)
        if (!refs.contains(QString::fromStdString(body->ref)))
            refs << QString::fromStdString(body->ref);
    const QString where =
        Slice::tr("%1 at %2 mm")
            .arg(QString::fromStdString(section->name), QString::number(at_.value()));
    if (!c.any) return Slice::tr("%1: nothing in the bore").arg(where);
    const Millimetre spare = bore - Millimetre(2 * c.circle.r);
    return Slice::tr("%1: %2 in ø %3, %4 %5")
        .arg(where, refs.join(", "), QString::number(bore.value()),
             QString::fromStdString(text(spare < Millimetre(0) ? -spare : spare)),
             spare < Millimetre(0) ? Slice::tr("too wide") : Slice::tr("to spare"));
}

void SliceDrawing::paint(QPainter& p, const QRectF& frame, const Inks& inks) const {
    const job::Hilt& hilt = plan_->job->hilt;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QFont font = drawing_font(lettering_);
    const QFontMetricsF metrics(font);
    p.setFont(font);
    const double line = metrics.height();
    const job::BoreSection* section = section_at(hilt, at_);
    p.setPen(inks.second);
    p.drawText(QRectF(frame.left(), frame.bottom() - line, frame.width(), line), Qt::AlignCenter,
               metrics.elidedText(words(), Qt::ElideRight, frame.width()));
    if (!section) return p.restore();
    const double outer = hilt::outer_at(*section, at_).value();
    const double bore = hilt::bore_at(*section, at_).value();
    // Room for dimensions below and beside; one scale for all slices of this hilt.
    double widest = 20;
    for (const job::BoreSection& s : hilt.sections)
        widest = std::max({widest, s.outer.value(), hilt::outer_at(s, s.to).value()});
    const double room = std::min(frame.width() - line * 6, frame.height() - line * 5);
    const double scale = std::max(room / widest, 0.5);
    const QPointF middle(frame.center().x(), frame.top() + line * 1.3 + widest * scale / 2);
    const auto at = [&](double x, double y) { return middle + QPointF(x, -y) * scale; };

    p.setPen(QPen(inks.second, 0.7));
    hatch_ring(p, middle, outer / 2 * scale, bore / 2 * scale, std::max(5.0, lettering_ * 0.55));
    p.setPen(QPen(inks.ink, 1.3));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(middle, outer / 2 * scale, outer / 2 * scale);
    p.drawEllipse(middle, bore / 2 * scale, bore / 2 * scale);

    // What is let into the wall here: openings as gaps, screws as their axes.
    const auto direction = [](Degree angle) {
        const double a = angle.value() * std::numbers::pi / 180;
        return QPointF(std::sin(a), -std::cos(a));
    };
    for (const job::Opening& o : hilt.openings) {
        if (at_ < o.at - o.length / 2 || at_ > o.at + o.length / 2) continue;
        const QPointF along = direction(o.angle), aside(-along.y(), along.x());
        const double half = std::min(o.width.value(), bore) / 2;
        p.setPen(Qt::NoPen);
        p.setBrush(inks.paper);
        QPolygonF gap;
        const double in = std::sqrt(std::max(bore * bore / 4 - half * half, 0.0));
        for (const auto& [r, side] : {std::pair{in - 0.2, -1.0},
                                      {outer / 2 + 0.6, -1.0},
                                      {outer / 2 + 0.6, 1.0},
                                      {in - 0.2, 1.0}})
            gap << middle + (along * r + aside * side * half) * scale;
        p.drawPolygon(gap);
        p.setPen(QPen(inks.ink, 1.1));
        for (const double side : {-1.0, 1.0})
            p.drawLine(middle + (along * in + aside * side * half) * scale,
                       middle + (along * std::sqrt(outer * outer / 4 - half * half) +
                                 aside * side * half) *
                                    scale);
    }
    for (const job::Fastener& f : hilt.fasteners) {
        if (std::abs((f.at - at_).value()) > 2) continue;
        const QPointF along = direction(f.angle);
        QPen pen(f.loosen == job::Loosen::never ? inks.stop : inks.ink, 1.2, Qt::CustomDashLine);
        pen.setDashPattern({7, 3, 2, 3});
        p.setPen(pen);
        p.drawLine(middle + along * (bore / 2 - 2) * scale,
                   middle + along * (outer / 2 + 2) * scale);
    }

    // Centre lines.
    QPen centre_pen(inks.second, 0.8, Qt::CustomDashLine);
    centre_pen.setDashPattern({14, 4, 3, 4});
    p.setPen(centre_pen);
    const double arm = outer / 2 * scale + 8;
    p.drawLine(middle - QPointF(arm, 0), middle + QPointF(arm, 0));
    p.drawLine(middle - QPointF(0, arm), middle + QPointF(0, arm));

    const Content c = content(*plan_, at_);
    for (const auto& [body, solid] : c.solids) {
        p.setBrush(fill_of(*plan_, body->ref, inks));
        p.setPen(QPen(inks.ink, 1.1, body->in_bore ? Qt::SolidLine : Qt::DashLine));
        const QPointF centre = at(solid->x, solid->y);
        if (solid->round) {
            p.drawEllipse(centre, solid->half_w * scale, solid->half_w * scale);
        } else {
            p.save();
            p.translate(centre);
            p.rotate(-solid->turn * 180 / std::numbers::pi);
            p.drawRect(QRectF(-solid->half_w * scale, -solid->half_h * scale,
                              2 * solid->half_w * scale, 2 * solid->half_h * scale));
            p.restore();
        }
        p.setPen(inks.ink);
        const QString ref = QString::fromStdString(body->ref);
        p.drawText(QRectF(centre.x() - 40, centre.y() - line / 2, 80, line), Qt::AlignCenter, ref);
    }
    const auto dimension = [&](double y, double from, double to, const QString& words,
                               const QColor& ink) {
        p.setPen(QPen(ink, 1));
        for (const double x : {from, to})
            p.drawLine(QPointF(x, middle.y()), QPointF(x, y + 4));
        paint_dimension(p, {from, y}, {to, y}, words, ink, inks);
    };
    double y = middle.y() + widest / 2 * scale + line * 0.9;
    dimension(y, at(-bore / 2, 0).x(), at(bore / 2, 0).x(),
              QString::fromUtf8("bore ø ") + QString::number(std::round(bore * 100) / 100),
              inks.ink);
    if (c.any) {
        const double r = c.circle.r;
        QPen pen(r * 2 > bore + 1e-6 ? inks.stop : inks.petrol, 1.4, Qt::DashLine);
        p.setPen(pen);
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(at(c.circle.x, c.circle.y), r * scale, r * scale);
        y += line * 1.15;
        dimension(y, at(c.circle.x - r, 0).x(), at(c.circle.x + r, 0).x(),
                  Slice::tr("needs ø %1").arg(QString::number(std::round(20 * r) / 10)),
                  pen.color());
    }
    p.restore();
}

DrawingPtr slice_drawing(std::shared_ptr<const plan::Plan> plan, Millimetre at) {
    return make_drawing([](double lettering) { return QSizeF(lettering * 32, lettering * 32); },
                        [plan, at](const Surface& on) {
                            SliceDrawing(plan, at, on.lettering * 0.95)
                                .paint(on.p, on.frame.adjusted(2, 2, -2, -2), on.inks);
                            return std::vector<HitBox>{};
                        },
                        [plan, at] { return SliceDrawing(plan, at).words(); });
}

} // namespace conductus::app
