// SPDX-License-Identifier: GPL-3.0-or-later
// What long section and slices draw alike.
#pragma once

#include <QColor>
#include <string>

#include "app/drawing/inks.h"
#include "core/plan/plan.h"

namespace conductus::app {

/// The fill of a type, by its kind.
QColor fill_of(const catalogue::PartType& type, const Inks& inks);
/// The same of a fitted part.
QColor fill_of(const plan::Plan& plan, const std::string& ref, const Inks& inks);

/// Millimetres to pixels: the same scale both ways, the hilt's axis on one line.
struct Scale {
    double x0 = 0, axis = 0, per_mm = 1;
    [[nodiscard]] double x(Millimetre mm) const { return x0 + mm.value() * per_mm; }
    [[nodiscard]] double y(double mm_up) const { return axis - mm_up * per_mm; }
    [[nodiscard]] double px(Millimetre mm) const { return mm.value() * per_mm; }
};

/// Joints, openings and screws on the walls of the long section.
void paint_survey(QPainter& p, const job::Hilt& hilt, const Scale& scale, const Inks& inks);

} // namespace conductus::app
