// SPDX-License-Identifier: GPL-3.0-or-later
// The blade on the long section.
#pragma once

#include <QPen>
#include <QTransform>
#include <utility>

#include "app/drawing/section_parts.h"

namespace conductus::app {

/// 200 mm where nothing is surveyed yet.
Millimetre hilt_length(const job::Hilt& hilt);

/// Where a blade's foot stands: on its connector, else at the mouth of the hilt.
Millimetre foot_of(const job::Blade& blade, const plan::Plan& plan);

/// The blade to scale: whole if it is short, else its foot and its tip with the middle left out.
struct BladeExtent {
    Millimetre foot, cut, rest,
        end;               ///< in hilt millimetres as drawn; cut == rest: nothing left out
    double foot_share = 1; ///< of the blade's length, foot to cut
    double tip_share = 0;  ///< of the blade's length, rest to end
};

BladeExtent extent_of(const job::Blade& blade, const plan::Plan& plan);

/// Whether a blade stands at an angle to the hilt: it begins at the hilt's wall.
bool stands_out(const job::Blade& blade);
/// Of such a blade along its own axis, from the hilt's: no further out than `room` where it is
/// longer than that, its middle left out.
BladeExtent extent_across(const job::Blade& blade, const job::Hilt& hilt, Millimetre room);
/// Its own axis in the drawing: 0 is the hilt's axis where it stands.
QTransform axis_of(const Scale& scale, const job::Blade& blade, const plan::Plan& plan);
/// How far up and down of the hilt's axis a blade reaches, mm.
std::pair<double, double> reach_of(const job::Blade& blade, const BladeExtent& extent);

/// The two free-hand break lines where a length is left out.
void paint_break(QPainter& p, double x, double top, double bottom, const Inks& inks);

/// Tube, and the light in it as solved; `seen` null: dark. `scale` is of its own axis. Returns
/// where it was drawn.
QRectF paint_section_blade(QPainter& p, const Scale& scale, const job::Blade& blade,
                           const BladeExtent& extent, const plan::BladeView* seen,
                           const QPen& outline, const Inks& inks);

} // namespace conductus::app
