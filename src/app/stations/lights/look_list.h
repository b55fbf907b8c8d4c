// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/stations/station_page.h"

namespace conductus::app {

/// Looks with their blades painted from solved pixels, a full and a nearly empty cell one above the
/// other, and what they draw. Up and Down choose the look; the section follows.
class LookList : public QWidget {
    Q_OBJECT
public:
    LookList(const Bench& bench, QWidget* parent);
    void show_plan(const PlanPtr& plan);
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
    [[nodiscard]] double row_height() const { return bench_.appearance.text() * 3.0; }
    [[nodiscard]] double head_height() const { return bench_.appearance.text() * 1.8; }
    [[nodiscard]] int chosen_row() const;
    void choose(int row);
    void paint_row(QPainter& p, const plan::LookPlan& look, double y, double most,
                   bool chosen) const;
    Bench bench_;
    PlanPtr plan_;
};

} // namespace conductus::app
