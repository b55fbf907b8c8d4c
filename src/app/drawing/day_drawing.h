// SPDX-License-Identifier: GPL-3.0-or-later
// The day on a line of 24 hours: what is lit, idle and stored, and when cells are changed.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/questions.h"

namespace conductus::app {

class DayDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(DayDrawing)
public:
    static constexpr double a_day = 1440; ///< min

    /// `study` null or none: no cells are changed.
    DayDrawing(std::vector<job::Phase> phases, const plan::AnswerPtr<plan::UseLivedThrough>& study);

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

    /// Where the hours lie, and where minute `m` of the day does.
    static QRectF band(const QRectF& frame, double lettering);
    static double x_of(const QRectF& frame, double lettering, double m);

private:
    std::vector<job::Phase> phases_;
    std::vector<Minute> changes_; ///< of cells, of the day
};

} // namespace conductus::app
