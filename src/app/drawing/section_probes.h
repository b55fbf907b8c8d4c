// SPDX-License-Identifier: GPL-3.0-or-later
// The probes of a meter at the parts they go to, in the long section.
#pragma once

#include <vector>

#include "app/drawing/section_drawing.h"

namespace conductus::app {

/// A wedge whose point is on the part, with its number in a ring: the red probe is 1, the black one
/// 2. Terminals of parts that are not drawn are named at the edge.
void paint_probes(QPainter& p, const QRectF& frame, const std::vector<HitBox>& parts,
                  const std::vector<Probe>& probes, double lettering, const Inks& inks);

} // namespace conductus::app
