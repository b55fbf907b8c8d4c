// SPDX-License-Identifier: GPL-3.0-or-later
// The looks of two ways of building the same job, one above the other.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

class VariantsDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(VariantsDrawing)
public:
    using PlanPtr = std::shared_ptr<const plan::Plan>;
    /// The way it is built, and another; each may be null.
    VariantsDrawing(PlanPtr now, PlanPtr other) : now_(std::move(now)), other_(std::move(other)) {}

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    [[nodiscard]] std::vector<std::string> names() const;
    PlanPtr now_, other_;
};

} // namespace conductus::app
