// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <vector>

#include "app/drawing/lanes_drawing.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// The lanes, on the axis of the section above where there is room; hover and click choose.
class LanesView : public QWidget {
    Q_OBJECT
public:
    LanesView(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {200, sizeHint().height()}; }
    [[nodiscard]] const std::vector<LaneSpot>& spots() const { return spots_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    [[nodiscard]] QString wire_at(QPointF at) const;
    PageContext context_;
    PlanPtr plan_;
    std::vector<LaneSpot> spots_;
};

} // namespace conductus::app
