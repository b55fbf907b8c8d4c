// SPDX-License-Identifier: GPL-3.0-or-later
// What one tenth more of each input does to a figure, as bars from a middle line.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/questions.h"

namespace conductus::app {

class TenthsDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(TenthsDrawing)
public:
    /// Null: it is not answered yet.
    TenthsDrawing(plan::AnswerPtr<plan::WhyOf> why, QString chosen)
        : why_(std::move(why)), chosen_(std::move(chosen)) {}

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    plan::AnswerPtr<plan::WhyOf> why_;
    QString chosen_; ///< ref
};

} // namespace conductus::app
