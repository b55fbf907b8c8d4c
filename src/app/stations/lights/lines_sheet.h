// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawing/chains_drawing.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QLabel;

namespace conductus::app {

/// Data lines: the chains, what is programmed, the level at every hop, and the stretches of a chain
/// that are lights of their own.
class LinesSheet : public StationPage {
    Q_OBJECT
public:
    LinesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    DrawingView* chains_;
    Table *lines_, *hops_, *stretches_;
    QLabel* none_;
    PlanPtr plan_;
};

} // namespace conductus::app
