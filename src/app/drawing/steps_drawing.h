// SPDX-License-Identifier: GPL-3.0-or-later
// Where the volts go: a staircase from the cell's open-circuit voltage down to the last pixel.
#pragma once

#include <QPainter>
#include <vector>

#include "app/drawing/inks.h"
#include "core/plan/plan.h"

namespace conductus::app {

/// Where a step was drawn, for the mouse.
struct StepSpot {
    QString ref;
    QRectF box;
};

std::vector<StepSpot> paint_steps(QPainter& p, const QRectF& box, const plan::View& view,
                                  double lettering, const QString& chosen, const Inks& inks);

} // namespace conductus::app
