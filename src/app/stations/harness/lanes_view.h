// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawing/lanes_drawing.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"

namespace conductus::app {

/// The lanes, on the axis of the section above where there is room; hover and click choose.
class LanesView : public DrawingView {
    Q_OBJECT
public:
    LanesView(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);

private:
    [[nodiscard]] DrawingPtr drawn() const;
    [[nodiscard]] QString told_of(const QString& wire) const;
    void step(int by);
    PageContext context_;
    PlanPtr plan_;
};

} // namespace conductus::app
