// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_parts.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/catalogue/kinds.h"
#include "core/hilt/bore.h"
#include "core/job/lookup.h"

namespace conductus::app {

QColor fill_of(const plan::Plan& plan, const std::string& ref, const Inks& inks) {
    const job::Part* part = job::find_ref(plan.job->parts, ref);
    const auto* type = part ? plan.parts->find(part->type) : nullptr;
    return type ? fill_of(*type, inks) : inks.paper;
}

QColor fill_of(const catalogue::PartType& type, const Inks& inks) {
    switch (catalogue::kind_of(type.figures).fill) {
    case catalogue::Fill::cell:
        return inks.cell;
    case catalogue::Fill::board:
        return inks.board;
    case catalogue::Fill::speaker:
        return inks.speaker;
    case catalogue::Fill::connector:
        return inks.connector;
    case catalogue::Fill::switches:
        break;
    }
    return inks.switches;
}

void paint_survey(QPainter& p, const job::Hilt& hilt, const Scale& s, const Inks& inks) {
    const auto section_at = [&](Millimetre at) -> const job::BoreSection* {
        for (const job::BoreSection& section : hilt.sections)
            if (at >= section.from && at < section.to) return &section;
        return nullptr;
    };
    for (const job::Opening& o : hilt.openings) {
        const job::BoreSection* section = section_at(o.at);
        if (!section) continue;
        // Where it lies in the plane of the drawing; what is on the near or far side shows as a
        // dashed outline at its height.
        const double a = o.angle.value() * std::numbers::pi / 180, up = std::cos(a);
        const double outer = hilt::outer_at(*section, o.at).value() / 2;
        const double bore = hilt::bore_at(*section, o.at).value() / 2;
        const double x0 = s.x(std::max(o.at - o.length / 2, Millimetre(0)));
        const double x1 = s.x(std::min(o.at + o.length / 2, hilt.sections.back().to));
        if (std::abs(up) > 0.9) {
            const double sign = up > 0 ? 1 : -1;
            const QRectF gap(QPointF(x0, s.y(sign * outer) - (sign > 0 ? 1.5 : -1.5)),
                             QPointF(x1, s.y(sign * bore) + (sign > 0 ? 1.5 : -1.5)));
            p.fillRect(gap.normalized(), inks.paper);
            p.setPen(QPen(inks.ink, 1.2));
            for (const double x : {x0, x1})
                p.drawLine(QPointF(x, s.y(sign * outer)), QPointF(x, s.y(sign * bore)));
        } else {
            const double half = o.width.value() / 2, y = up * (outer + bore) / 2;
            p.setPen(QPen(inks.second, 1, Qt::DashLine));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(QPointF(x0, s.y(y + half)), QPointF(x1, s.y(y - half))));
        }
    }
    for (const job::Joint& j : hilt.joints) {
        const job::BoreSection* section = section_at(j.at);
        if (!section || j.kind == job::JointKind::glued) continue;
        const double outer = hilt::outer_at(*section, j.at).value() / 2;
        // A thread as two thin lines over its engaged length, the joint itself as a heavy one.
        p.setPen(QPen(inks.petrol, 2.2));
        for (const double sign : {1.0, -1.0})
            p.drawLine(QPointF(s.x(j.at), s.y(sign * (outer + 1.6))),
                       QPointF(s.x(j.at), s.y(sign * (section->bore.value() / 2))));
    }
    for (const job::Fastener& f : hilt.fasteners) {
        const job::BoreSection* section = section_at(f.at);
        if (!section) continue;
        const double up = std::cos(f.angle.value() * std::numbers::pi / 180);
        const double outer = hilt::outer_at(*section, f.at).value() / 2;
        const double bore = hilt::bore_at(*section, f.at).value() / 2;
        const QColor ink = f.loosen == job::Loosen::never ? inks.stop : inks.ink;
        if (std::abs(up) > 0.5) {
            const double sign = up > 0 ? 1 : -1;
            p.setPen(QPen(ink, 2));
            p.drawLine(QPointF(s.x(f.at), s.y(sign * (outer + 1))),
                       QPointF(s.x(f.at), s.y(sign * (bore - 1))));
        } else {
            // End on: a ring with a cross.
            const double r = std::max(3.0, 1.4 * s.per_mm);
            const QPointF c(s.x(f.at), s.y(up * outer));
            p.setPen(QPen(ink, 1.1));
            p.setBrush(inks.paper);
            p.drawEllipse(c, r, r);
            p.drawLine(c - QPointF(r, 0), c + QPointF(r, 0));
            p.drawLine(c - QPointF(0, r), c + QPointF(0, r));
        }
    }
}

} // namespace conductus::app
