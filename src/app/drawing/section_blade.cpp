// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/section_blade.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/drawing/blade_drawing.h"

namespace conductus::app {

Millimetre hilt_length(const job::Hilt& hilt) {
    return hilt.sections.empty() ? Millimetre(200) : hilt.sections.back().to;
}

Millimetre foot_of(const job::Blade& blade, const plan::Plan& plan) {
    for (const auto& body : plan.fit.bodies)
        if (body.ref == blade.connector) return body.to;
    return hilt_length(plan.job->hilt);
}

BladeExtent extent_of(const job::Blade& blade, const plan::Plan& plan) {
    constexpr Millimetre shown(96), gap(8), tip(52); // outside the hilt
    BladeExtent e;
    const Millimetre hilt_end = hilt_length(plan.job->hilt);
    e.foot = foot_of(blade, plan);
    e.end = e.foot + blade.length;
    e.cut = e.rest = e.end;
    if (e.end <= hilt_end + shown + gap + tip) return e;
    e.cut = hilt_end + shown;
    e.rest = e.cut + gap;
    e.end = e.rest + tip;
    e.foot_share = (e.cut - e.foot) / blade.length;
    e.tip_share = tip / blade.length;
    return e;
}

bool stands_out(const job::Blade& blade) {
    const double degrees = std::fmod(std::abs(blade.angle.value()), 360.0);
    return degrees > 15 && degrees < 345;
}

BladeExtent extent_across(const job::Blade& blade, const job::Hilt& hilt, Millimetre room) {
    // It leaves the wall where its axis does.
    const double at = blade.stands_at.value_or(hilt_length(hilt)).value();
    double wall = 20;
    for (const job::BoreSection& s : hilt.sections)
        if (at >= s.from.value() && at <= s.to.value()) wall = s.outer.value() / 2;
    const double across = std::abs(std::sin(blade.angle.value() * M_PI / 180));
    BladeExtent e;
    e.foot = Millimetre(wall / std::max(across, 0.3));
    e.end = e.foot + blade.length;
    e.cut = e.rest = e.end;
    if (blade.length <= room) return e;
    const Millimetre gap(room / 10), tip(room * 0.4);
    e.cut = e.foot + room - gap - tip;
    e.rest = e.cut + gap;
    e.end = e.rest + tip;
    e.foot_share = (e.cut - e.foot) / blade.length;
    e.tip_share = tip / blade.length;
    return e;
}

QTransform axis_of(const Scale& scale, const job::Blade& blade, const plan::Plan& plan) {
    QTransform to;
    to.translate(scale.x(blade.stands_at.value_or(foot_of(blade, plan))), scale.axis);
    to.rotate(-blade.angle.value());
    return to;
}

std::pair<double, double> reach_of(const job::Blade& blade, const BladeExtent& extent) {
    const double angle = blade.angle.value() * M_PI / 180;
    const double half = blade.outer.value() / 2 * std::abs(std::cos(angle));
    const double end = extent.end.value() * std::sin(angle);
    return {std::max(0.0, end) + half, std::max(0.0, -end) + half};
}

void paint_break(QPainter& p, double x, double top, double bottom, const Inks& inks) {
    const double h = bottom - top, w = h * 0.12;
    QPainterPath path(QPointF(x, top));
    path.cubicTo(QPointF(x + w, top + h * 0.3), QPointF(x - w, top + h * 0.7), QPointF(x, bottom));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(inks.ink, 1.1));
    p.drawPath(path);
}

namespace {

/// Strips, strings or the lit tube itself.
void paint_light(QPainter& p, const Scale& s, const job::Blade& b, const BladeExtent& extent,
                 const plan::BladeView& seen, const QRectF& foot, const QRectF& tip) {
    const double half = b.outer.value() / 2 * s.per_mm;
    // A tube lit from the hilt is lit all through.
    const bool tube = b.strips.empty() && b.strings.empty();
    const double band = tube ? half * 1.6 : std::min(half * 0.22, 9.0);
    const auto count = static_cast<int>(
        std::max<std::size_t>({b.strips.size(), b.strings.size(), std::size_t{1}}));
    for (int i = 0; i < count; ++i) {
        const double y =
            s.axis + (i - (count - 1) / 2.0) * std::max(band * 2.2, half * 0.5) - band / 2;
        paint_pixels(p, QRectF(foot.left() + 3, y, foot.width() - 6, band), seen.paint, 0,
                     extent.foot_share);
        if (extent.tip_share > 0)
            paint_pixels(p, QRectF(tip.left() + 2, y, tip.width() - 7, band), seen.paint,
                         1 - extent.tip_share, 1);
    }
}

} // namespace

QRectF paint_section_blade(QPainter& p, const Scale& s, const job::Blade& b,
                           const BladeExtent& extent, const plan::BladeView* seen,
                           const QPen& outline, const Inks& inks) {
    const double half = b.outer.value() / 2;
    const bool whole = extent.cut == extent.rest;
    const QRectF foot(QPointF(s.x(extent.foot), s.y(half)), QPointF(s.x(extent.cut), s.y(-half)));
    const QRectF tip(QPointF(s.x(extent.rest), s.y(half)), QPointF(s.x(extent.end), s.y(-half)));
    p.setPen(Qt::NoPen);
    p.setBrush(inks.blade);
    p.drawRect(foot);
    if (!whole) p.drawRect(tip);
    if (seen) paint_light(p, s, b, extent, *seen, foot, tip);

    p.setPen(outline);
    p.setBrush(Qt::NoBrush);
    p.drawLine(foot.topLeft(), foot.bottomLeft());
    // A rounded tip at the end, wherever that is drawn.
    const QRectF& last = whole ? foot : tip;
    const double round = half * s.per_mm * 0.8;
    if (!whole) {
        p.drawLine(foot.topLeft(), foot.topRight());
        p.drawLine(foot.bottomLeft(), foot.bottomRight());
    }
    p.drawLine(last.topLeft(), QPointF(last.right() - round / 2, last.top()));
    p.drawLine(last.bottomLeft(), QPointF(last.right() - round / 2, last.bottom()));
    p.drawArc(QRectF(last.right() - round, last.top(), round, last.height()), -90 * 16, 180 * 16);
    if (!whole) {
        paint_break(p, foot.right(), foot.top(), foot.bottom(), inks);
        paint_break(p, tip.left(), tip.top(), tip.bottom(), inks);
    }
    return whole ? foot : foot.united(tip);
}

} // namespace conductus::app
