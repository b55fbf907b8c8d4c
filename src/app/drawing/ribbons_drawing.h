// SPDX-License-Identifier: GPL-3.0-or-later
// Runtime ribbons: how long each cell runs clean, bright, and until it is off.
#pragma once

#include <QPainter>
#include <vector>

#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

struct RibbonLayout {
    double lettering = 13;   ///< pixels
    double row = 34;         ///< height of one cell's row
    double names = 230;      ///< width of the column of names
    double longest_min = 60; ///< right end of the time axis
};

/// One cell's row: name and remark, then the ribbons on the time axis from `box`'s left + names.
/// Above the sound (clean, then crackle), below the light (bright, then dim), both until off.
void paint_ribbon(QPainter& p, const QRectF& box, const plan::CellOption& option,
                  const RibbonLayout& layout, const Inks& inks);

/// The time axis with grid lines down to `bottom`, and the words for the colours under it.
void paint_ribbon_grid(QPainter& p, const QRectF& box, const RibbonLayout& layout,
                       const Inks& inks);
void paint_ribbon_axis(QPainter& p, const QRectF& box, const RibbonLayout& layout,
                       const Inks& inks);

/// A round end for the axis that holds every option.
double longest_minutes(const std::vector<plan::CellOption>& options);

/// The options of a plan, a row each, with the time axis under them or without.
DrawingPtr ribbons_drawing(std::shared_ptr<const plan::Plan> plan, bool with_axis);
/// How that drawing is laid out. `plan` null: with room for an hour.
RibbonLayout ribbons_layout(const plan::Plan* plan, double width, double lettering);

} // namespace conductus::app
