// SPDX-License-Identifier: GPL-3.0-or-later
// A blade painted from its solved pixels.
#pragma once

#include <QPainter>
#include <vector>

#include "app/drawing/inks.h"

namespace conductus::app {

/// Paints the pixels between `from` and `to` (fractions foot to tip) side by side across `box`.
void paint_pixels(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                  double from, double to);

/// A whole blade, foot left, in a dark tube.
void paint_blade(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                 const Inks& inks);

} // namespace conductus::app
