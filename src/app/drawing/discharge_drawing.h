// SPDX-License-Identifier: GPL-3.0-or-later
// Cell, board and sound over the use, with what is noticed when, and a cursor.
#pragma once

#include <QCoreApplication>

#include "app/drawing/drawing.h"
#include "core/plan/questions.h"

namespace conductus::app {

class DischargeDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(DischargeDrawing)
public:
    /// Need and cut-off are the plan's.
    DischargeDrawing(const plan::Plan& plan, plan::AnswerPtr<plan::UseLivedThrough> study,
                     bool clock, std::size_t now);

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    [[nodiscard]] QString description() const override;

    /// The sample that is drawn at that place; empty where there is no day.
    [[nodiscard]] std::optional<std::size_t> sample_at(QPointF at, const QRectF& frame,
                                                       double lettering) const;
    [[nodiscard]] const power::Day* day() const; ///< null: none is recorded
    [[nodiscard]] std::size_t now() const { return shown_.now; }

private:
    [[nodiscard]] double minutes_of(const power::DaySample& s) const;
    static QRectF box(const QRectF& frame, double lettering);
    struct Shown {
        plan::AnswerPtr<plan::UseLivedThrough> study; ///< null: not answered yet
        Volt need;                                    ///< of the sound; 0: none
        Volt cut_off;                                 ///< of the board; 0: none
        bool clock = false;  ///< along the clock instead of the minutes lit
        std::size_t now = 0; ///< sample under the cursor
    };
    Shown shown_;
};

} // namespace conductus::app
