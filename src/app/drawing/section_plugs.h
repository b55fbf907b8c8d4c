// SPDX-License-Identifier: GPL-3.0-or-later
// What is plugged into the ports of a hilt, on the long section: it needs room outside.
#pragma once

#include <QPainter>
#include <vector>

#include "app/drawing/section_lettering.h"
#include "app/drawing/section_parts.h"

namespace conductus::app {

/// A plug in a port: how it lies, and how far out it reaches, mm.
struct Plug {
    QString ref;         ///< of the port
    Millimetre at;       ///< its middle along the hilt; of one in the pommel the hilt's end
    double up = 0;       ///< +1 up, −1 down, 0 out of the pommel
    double out = 0;      ///< end of it from the axis, or before the pommel
    double from = 0;     ///< where it leaves the hilt
    double diameter = 0; ///< of its body
};

/// Of each port or jack that an opening of the survey, or the pommel's end, says how to reach.
std::vector<Plug> plugs_of(const plan::Plan& plan);

/// Dashed, as what is not always there: the plugs, the beginning of their leads, and their words
/// where there is room.
void paint_plugs(QPainter& p, const std::vector<Plug>& plugs, const Scale& scale,
                 const QRectF& frame, const Inks& inks, Taken& taken);

} // namespace conductus::app
