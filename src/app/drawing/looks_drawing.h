// SPDX-License-Identifier: GPL-3.0-or-later
// Looks with each blade painted from its solved pixels, a full and a nearly empty cell one above
// the other, and what they draw.
#pragma once

#include <QCoreApplication>

#include "app/drawing/blade_drawing.h"
#include "app/drawing/drawing.h"
#include "core/plan/plan.h"

namespace conductus::app {

class LooksDrawing : public Drawing {
    Q_DECLARE_TR_FUNCTIONS(LooksDrawing)
public:
    /// Looks of the plan, top to bottom, and where their blades lie.
    struct Rows {
        std::vector<std::size_t> order;
        std::vector<BladePlace> places; ///< of the blades in every row
        std::size_t lines = 1;
    };
    /// As the board has them, or those that draw most first.
    static Rows rows_of(const plan::Plan& plan, bool by_demand);

    /// `focused`: a frame is drawn round the chosen look.
    LooksDrawing(std::shared_ptr<const plan::Plan> plan, Rows rows, QString chosen,
                 bool focused = false)
        : plan_(std::move(plan)), rows_(std::move(rows)), chosen_(std::move(chosen)),
          focused_(focused) {}

    [[nodiscard]] QSizeF size(double lettering) const override;
    std::vector<HitBox> paint(const Surface& on) const override;
    /// Of the chosen look.
    [[nodiscard]] QString description() const override;

    [[nodiscard]] int rows() const { return static_cast<int>(rows_.order.size()); }
    [[nodiscard]] const plan::LookPlan* look_in(int row) const; ///< null: there is none
    [[nodiscard]] int chosen_row() const;                       ///< −1: none
    /// Of a frame's corner on.
    [[nodiscard]] QRectF row_box(int row, double width, double lettering) const;
    [[nodiscard]] int row_at(double y, double lettering) const; ///< may be no row
    /// What lies at that place of the frame; empty where nothing is lit.
    [[nodiscard]] QString told_at(QPointF at, double width, double lettering) const;
    /// A, the peak that the bars are as long as.
    static double largest(const plan::Plan& plan);

private:
    struct Columns {
        double blade, blade_end, tip, bars, end;
    };
    static Columns columns(double width, double lettering);
    /// Where a line of blades lies in its row, from the row's top.
    struct Lane {
        double top, height;
    };
    [[nodiscard]] Lane lane(plan::Charge charge, std::size_t line, double lettering) const;
    static QRectF box_of(const BladePlace& place, const Columns& columns, double top,
                         double height);
    [[nodiscard]] double row_height(double lettering) const;
    static double head_height(double lettering) { return lettering * 1.8; }
    void paint_row(const Surface& on, const plan::LookPlan& look, double y, double most,
                   bool chosen) const;
    std::shared_ptr<const plan::Plan> plan_;
    Rows rows_;
    QString chosen_;
    bool focused_;
};

} // namespace conductus::app
