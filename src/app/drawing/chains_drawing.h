// SPDX-License-Identifier: GPL-3.0-or-later
// Data lines as chains of pixels: what hears what, in what order, and what mirrors.
#pragma once

#include <QPainter>
#include <vector>

#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

/// Height the drawing of all lines takes at that size of lettering.
double chains_height(const plan::Plan& plan, double lettering);

/// Every line from its pad rightward, one pixel as long everywhere; what is soldered in parallel
/// stands one under the other. Returns where the groups are.
std::vector<HitBox> paint_chains(QPainter& p, const QRectF& box, const plan::Plan& plan,
                                 double lettering, const QString& chosen, const Inks& inks);

/// The chains as a drawing.
DrawingPtr chains_drawing(std::shared_ptr<const plan::Plan> plan, const QString& chosen);

} // namespace conductus::app
