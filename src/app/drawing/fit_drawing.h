// SPDX-License-Identifier: GPL-3.0-or-later
// Readings of a part and the model found from them, drawn over each other.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/bench/characterise.h"

namespace conductus::app {

class FitDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(FitDrawing)
public:
    explicit FitDrawing(bench::Characterised found) : found_(std::move(found)) {}
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    bench::Characterised found_;
};

} // namespace conductus::app
