// SPDX-License-Identifier: GPL-3.0-or-later
// A blade painted from its solved pixels.
#pragma once

#include <QPainter>
#include <algorithm>
#include <string>
#include <vector>

#include "app/drawing/inks.h"
#include "core/job/job.h"

namespace conductus::app {

/// Where a blade is drawn among its fellows: in which line, and from where to where of its width.
struct BladePlace {
    std::size_t line = 0;
    double from = 0, to = 1;
};
/// Blades to scale with the longest, in as few lines as hold them; short ones stand side by side.
/// Those of `shown` that the job does not have get a line of their own.
std::vector<BladePlace> place_blades(const job::Job& job, const std::vector<std::string>& shown);
inline std::size_t lines_of(const std::vector<BladePlace>& places) {
    std::size_t lines = 0;
    for (const BladePlace& p : places)
        lines = std::max(lines, p.line + 1);
    return lines;
}

/// Paints the pixels between `from` and `to` (fractions foot to tip) side by side across `box`.
void paint_pixels(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                  double from, double to);

/// A whole blade, foot left, in a dark tube.
void paint_blade(QPainter& p, const QRectF& box, const std::vector<lights::Rgb>& paint,
                 const Inks& inks);

} // namespace conductus::app
