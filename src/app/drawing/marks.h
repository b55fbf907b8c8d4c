// SPDX-License-Identifier: GPL-3.0-or-later
// Signs of severity: shape before colour. Stop is a square, warn a lozenge, note a ring, fine a
// tick.
#pragma once

#include <QPainter>
#include <optional>

#include "app/drawing/inks.h"

namespace conductus::app {

/// Draws the sign filling `box`, with a count in it where one is given.
void paint_mark(QPainter& p, const QRectF& box, findings::Severity severity, const Inks& inks,
                int count = 0);
void paint_tick(QPainter& p, const QRectF& box, const Inks& inks);

/// A dimension: a line with arrows at its ends, and its words on the paper in its middle.
void paint_dimension(QPainter& p, QPointF from, QPointF to, const QString& words, const QColor& ink,
                     const Inks& inks);

/// 45° hatch inside a rectangle, clipped by arithmetic: vector formats know no clip.
void paint_hatch(QPainter& p, const QRectF& box, double spacing);
/// The same inside a convex outline.
void paint_hatch(QPainter& p, const QPolygonF& outline, double spacing);

} // namespace conductus::app
