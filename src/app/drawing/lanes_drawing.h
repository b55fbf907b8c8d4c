// SPDX-License-Identifier: GPL-3.0-or-later
// Wires as lanes at true axial scale, and how the hilt lies above them.
#pragma once

#include <QPainter>
#include <QStringList>
#include <optional>
#include <vector>

#include "app/drawing/drawing.h"
#include "app/drawing/section_parts.h"
#include "core/plan/plan.h"

namespace conductus::app {

struct LanesOptions {
    double lettering = 12;
    QString chosen;            ///< ref of a wire or part
    QStringList lit;           ///< refs a finding points at
    std::optional<Scale> axis; ///< along the hilt, of the section above; empty: as fits the frame
    QStringList done;          ///< wires that are soldered
};

/// The ink of a role; words stand beside it wherever it is used.
QColor role_ink(job::Role role, const Inks& inks);

/// Height that all levels take, the small hilt above them included.
double lanes_height(const plan::Plan& plan, double lettering);

/// Thickness is gauge, the ends are where the terminals are; dotted lines come down from the parts.
std::vector<HitBox> paint_lanes(QPainter& p, const QRectF& frame, const plan::Plan& plan,
                                const LanesOptions& options, const Inks& inks);

/// The lanes as a drawing.
DrawingPtr lanes_drawing(std::shared_ptr<const plan::Plan> plan, LanesOptions shown);

} // namespace conductus::app
