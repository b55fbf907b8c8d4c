// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>
#include <vector>

#include "app/drawing/chains_drawing.h"
#include "app/stations/station_page.h"

class QLabel;

namespace conductus::app {

/// The chains, drawn; a click chooses the part.
class ChainsView : public QWidget {
    Q_OBJECT
public:
    ChainsView(const Bench& bench, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    Bench bench_;
    PlanPtr plan_;
    std::vector<ChainSpot> spots_;
};

/// Data lines: the chains, what is programmed, and the level at every hop.
class LinesSheet : public StationPage {
    Q_OBJECT
public:
    LinesSheet(const Bench& bench, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void program(int row, const QString& text);
    ChainsView* chains_;
    QTableWidget *lines_, *hops_;
    QLabel* none_;
    PlanPtr plan_;
};

} // namespace conductus::app
