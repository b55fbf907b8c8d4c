// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "app/drawing/chains_drawing.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QLabel;

namespace conductus::app {

/// The chains, drawn; a click chooses the part.
class ChainsView : public QWidget {
    Q_OBJECT
public:
    ChainsView(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    PageContext context_;
    PlanPtr plan_;
    std::vector<ChainSpot> spots_;
};

/// Data lines: the chains, what is programmed, the level at every hop, and the stretches of a chain
/// that are lights of their own.
class LinesSheet : public StationPage {
    Q_OBJECT
public:
    LinesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    ChainsView* chains_;
    Table *lines_, *hops_, *stretches_;
    QLabel* none_;
    PlanPtr plan_;
};

} // namespace conductus::app
