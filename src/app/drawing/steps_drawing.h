// SPDX-License-Identifier: GPL-3.0-or-later
// Where the volts go: a staircase from the cell's open-circuit voltage down to the last pixel.
#pragma once

#include <QPainter>
#include <vector>

#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

std::vector<HitBox> paint_steps(QPainter& p, const QRectF& box, const plan::View& view,
                                double lettering, const QString& chosen, const Inks& inks);

/// The steps as a drawing.
DrawingPtr steps_drawing(std::shared_ptr<const plan::View> view, const QString& chosen);

} // namespace conductus::app
