// SPDX-License-Identifier: GPL-3.0-or-later
// A slice across the hilt, to scale and dimensioned: one code for screen, PNG, SVG and PDF.
#pragma once

#include <QPainter>
#include <QRectF>
#include <memory>

#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

class SliceDrawing {
public:
    /// `at`: from the pommel end.
    SliceDrawing(std::shared_ptr<const plan::Plan> plan, Millimetre at, double lettering = 12)
        : plan_(std::move(plan)), at_(at), lettering_(lettering) {}

    void paint(QPainter& p, const QRectF& frame, const Inks& inks) const;

    /// What the drawing shows, in words.
    [[nodiscard]] QString words() const;

private:
    std::shared_ptr<const plan::Plan> plan_;
    Millimetre at_;
    double lettering_;
};

/// The slice as a drawing. `at`: from the pommel end.
DrawingPtr slice_drawing(std::shared_ptr<const plan::Plan> plan, Millimetre at);

} // namespace conductus::app
