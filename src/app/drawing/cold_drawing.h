// SPDX-License-Identifier: GPL-3.0-or-later
// The use at several temperatures: how long it runs, and the board at its worst peak.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/questions.h"

namespace conductus::app {

/// What is drawn of a study; null: it is not answered yet.
class StudyDrawing : public Drawing {
public:
    explicit StudyDrawing(plan::AnswerPtr<plan::UseLivedThrough> study)
        : study_(std::move(study)) {}

protected:
    plan::AnswerPtr<plan::UseLivedThrough> study_;
};

/// A ribbon for each temperature.
class ColdRibbonsDrawing : public StudyDrawing {
    Q_DECLARE_TR_FUNCTIONS(ColdRibbonsDrawing)
public:
    using StudyDrawing::StudyDrawing;
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;
};

/// A curve for each temperature.
class ColdCurvesDrawing : public StudyDrawing {
    Q_DECLARE_TR_FUNCTIONS(ColdCurvesDrawing)
public:
    using StudyDrawing::StudyDrawing;
    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;
};

} // namespace conductus::app
