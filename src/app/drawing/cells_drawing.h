// SPDX-License-Identifier: GPL-3.0-or-later
// Every cell of the catalogue to one scale, with whether it goes in.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

class CellsDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(CellsDrawing)
public:
    /// With its options.
    explicit CellsDrawing(std::shared_ptr<const plan::Plan> plan) : plan_(std::move(plan)) {}
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    std::shared_ptr<const plan::Plan> plan_;
};

} // namespace conductus::app
