// SPDX-License-Identifier: GPL-3.0-or-later
// Every way of building as a point on two axes; what is best is filled, what is built has a ring.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/choices.h"

namespace conductus::app {

using ChoicesPtr = std::shared_ptr<const plan::Choices>;

/// A figure of a choice as it is shown, with its unit.
QString shown_text(const plan::Choice& choice, plan::Axis axis);
/// What it changes, in one line.
QString changes_of(const plan::Choice& choice);

class ChoicesDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(ChoicesDrawing)
public:
    struct Shown {
        std::vector<std::size_t> which; ///< of the choices
        plan::Axis across = plan::Axis::clean, up = plan::Axis::light;
        std::size_t chosen = 0;
    };
    /// Null: they are not worked out yet.
    ChoicesDrawing(ChoicesPtr choices, Shown shown)
        : choices_(std::move(choices)), shown_(std::move(shown)) {}

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

    /// Where a choice is drawn.
    [[nodiscard]] QPointF point_of(std::size_t choice, const QRectF& frame, double lettering) const;
    /// The choice whose point is nearest, within reach of the mouse.
    [[nodiscard]] std::optional<std::size_t> nearest(QPointF at, const QRectF& frame,
                                                     double lettering) const;
    /// What is said of a choice: its changes and where it stands on the axes.
    [[nodiscard]] QString words_of(std::size_t choice) const;

private:
    static QRectF box(const QRectF& frame, double lettering);
    ChoicesPtr choices_;
    Shown shown_;
};

} // namespace conductus::app
