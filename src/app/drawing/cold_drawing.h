// SPDX-License-Identifier: GPL-3.0-or-later
// The use at several temperatures: how long it runs, and the board at its worst peak.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/questions.h"

namespace conductus::app {

/// A ribbon for each temperature.
class ColdRibbonsDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(ColdRibbonsDrawing)
public:
    explicit ColdRibbonsDrawing(plan::AnswerPtr<plan::UseLivedThrough> study)
        : study_(std::move(study)) {}
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    plan::AnswerPtr<plan::UseLivedThrough> study_;
};

/// A curve for each temperature.
class ColdCurvesDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(ColdCurvesDrawing)
public:
    explicit ColdCurvesDrawing(plan::AnswerPtr<plan::UseLivedThrough> study)
        : study_(std::move(study)) {}
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

private:
    plan::AnswerPtr<plan::UseLivedThrough> study_;
};

} // namespace conductus::app
