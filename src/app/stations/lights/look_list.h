// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawing/looks_drawing.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// Looks with each blade painted from its solved pixels, a full and a nearly empty cell one above
/// the other, and what they draw, ranked by that or as the board has them. Up and Down choose the
/// look; the section follows.
class LookList : public DrawingView {
    Q_OBJECT
public:
    LookList(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    /// A plan of what is being dragged: rows stay where they are.
    void show_preview(const PlanPtr& plan);
    void rank(bool by_demand);
    /// Pixels of so many rows and their head.
    [[nodiscard]] int height_of(int rows) const;
    /// What hovering over that place tells; empty where there is nothing lit.
    [[nodiscard]] QString told_at(const QPointF& place) const;

signals:
    void row_moved(QRect box);

private:
    [[nodiscard]] std::shared_ptr<const LooksDrawing> drawn() const; ///< null: no plan
    [[nodiscard]] QRect row_box(int row) const;
    void choose(int row);
    PageContext context_;
    PlanPtr plan_;
    LooksDrawing::Rows rows_;
    bool ranked_ = true;
};

} // namespace conductus::app
