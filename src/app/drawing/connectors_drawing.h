// SPDX-License-Identifier: GPL-3.0-or-later
// Connector faces: where each contact is, what it carries, and its mate's face mirrored.
#pragma once

#include <QPainter>

#include "app/drawing/drawing.h"
#include "app/drawing/section_drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

/// Height that the faces take, one row a connector.
double connectors_height(const plan::Plan& plan, double lettering);

void paint_connectors(QPainter& p, const QRectF& frame, const plan::Plan& plan, double lettering,
                      const QString& chosen, const Inks& inks);

/// The two faces of the connector that a probe is on, with both probes at their contacts; null:
/// none is on a connector. Terminals as "P1.plus" or, of the blade on it, "BL1.plus".
DrawingPtr probed_faces_drawing(std::shared_ptr<const plan::Plan> plan, std::vector<Probe> probes);

/// The faces as a drawing.
DrawingPtr connectors_drawing(std::shared_ptr<const plan::Plan> plan, const QString& chosen);

} // namespace conductus::app
