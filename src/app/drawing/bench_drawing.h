// SPDX-License-Identifier: GPL-3.0-or-later
// Readings against their bands, what it may be as bars, and a logged discharge over its model.
#pragma once

#include <memory>

#include "app/drawing/drawing.h"
#include "core/bench/discharge_fit.h"
#include "core/diagnose/diagnosis.h"
#include "core/diagnose/test_plan.h"

namespace conductus::app {

using DiagnosisPtr = std::shared_ptr<const diagnose::Diagnosis>;

/// A row for every reading: its points, the band of a sound build and what was read, on one scale
/// of how far it is off. The latest last. Boxes are "reading N", N its index.
DrawingPtr bands_drawing(DiagnosisPtr diagnosis, int chosen);

/// A bar for every hypothesis, over a thin one of how sure it was before the last reading. Boxes
/// are "may N".
DrawingPtr may_drawing(DiagnosisPtr diagnosis, int chosen);

/// One step of the test plan, or a reading to come: its band on a line, and what was read: a dot in it, a lozenge at
/// its edge, a square out of it.
void paint_band(QPainter& p, const QRectF& box, const diagnose::Band& band,
                std::optional<double> read, const Inks& inks);

/// What was logged, what fits it, and what was planned.
DrawingPtr discharge_log_drawing(std::shared_ptr<const bench::DischargeFit> fit);

} // namespace conductus::app
