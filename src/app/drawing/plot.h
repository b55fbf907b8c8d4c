// SPDX-License-Identifier: GPL-3.0-or-later
// Axes of a plot: round steps, grid, numbers with units.
#pragma once

#include <QPainter>

#include "app/drawing/inks.h"

namespace conductus::app {

/// A stretch of numbers along a side of a plot.
struct PlotAxis {
    double from = 0, to = 1;
    QString unit;             ///< after each number; "min": as hours and minutes
    bool upside_down = false; ///< less is better: the axis runs the other way
    [[nodiscard]] double share(double value) const {
        const double s = to > from ? (value - from) / (to - from) : 0.5;
        return upside_down ? 1 - s : s;
    }
};

/// A step of 1, 2 or 5 times ten to some power that divides the stretch into at most `parts`.
double round_step(double stretch, int parts);
/// The same for minutes: 5, 10, 15, 30, 60 ...
double minute_step(double stretch, int parts);

/// The stretch made a little wider, so that nothing lies on its ends; `least` where it has none.
PlotAxis roomy(double from, double to, double least, QString unit);

/// Grid lines and numbers: along the foot of `box`, or up its left side.
void paint_foot_axis(QPainter& p, const QRectF& box, const PlotAxis& axis, double lettering,
                     const Inks& inks);
void paint_side_axis(QPainter& p, const QRectF& box, const PlotAxis& axis, double lettering,
                     const Inks& inks);

} // namespace conductus::app
