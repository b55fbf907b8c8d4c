// SPDX-License-Identifier: GPL-3.0-or-later
// Clean minutes of many days: how many days are as long.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/power/day_run.h"

namespace conductus::app {

class DaysDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(DaysDrawing)
public:
    /// Null: none are lived through yet.
    explicit DaysDrawing(std::shared_ptr<const power::Percentiles> days) : days_(std::move(days)) {}

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    std::shared_ptr<const power::Percentiles> days_;
};

} // namespace conductus::app
