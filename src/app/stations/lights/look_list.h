// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/drawing/blade_drawing.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// Looks with each blade painted from its solved pixels, a full and a nearly empty cell one above
/// the other, and what they draw, ranked by that or as the board has them. Up and Down choose the
/// look; the section follows.
class LookList : public QWidget {
    Q_OBJECT
public:
    LookList(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    /// A plan of what is being dragged: rows stay where they are.
    void show_preview(const PlanPtr& plan);
    void rank(bool by_demand);
    /// What hovering over that place tells; empty where there is nothing lit.
    [[nodiscard]] QString told_at(const QPointF& place) const;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

signals:
    void row_moved(QRect box);

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Columns {
        double blade, blade_end, tip, bars, end;
    };
    [[nodiscard]] Columns columns() const;
    /// Where a line of blades lies in its row, from the row's top.
    struct Lane {
        double top, height;
    };
    [[nodiscard]] Lane lane(plan::Charge charge, std::size_t line) const;
    [[nodiscard]] QRectF box_of(const BladePlace& place, double top, double height) const;
    [[nodiscard]] double row_height() const;
    [[nodiscard]] const plan::LookPlan* look_in(int row) const;
    void sort();
    static double largest(const plan::Plan& plan); ///< A, peak of all looks
    [[nodiscard]] double head_height() const { return context_.appearance.text() * 1.8; }
    [[nodiscard]] int chosen_row() const;
    [[nodiscard]] QRect row_box(int row) const;
    void choose(int row);
    void paint_row(QPainter& p, const plan::LookPlan& look, double y, double most,
                   bool chosen) const;
    PageContext context_;
    PlanPtr plan_;
    std::vector<std::size_t> order_; ///< looks of the plan, top to bottom
    bool ranked_ = true;
    std::vector<BladePlace> places_; ///< of the blades in every row
    std::size_t lines_ = 1;
};

} // namespace conductus::app
