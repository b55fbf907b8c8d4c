// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawing/lanes_drawing.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLineEdit;
class QLabel;
class QMenu;
class QPushButton;

namespace conductus::app {

/// The lanes, on the axis of the section above where there is room; hover and click choose.
class LanesView : public QWidget {
    Q_OBJECT
public:
    LanesView(const Bench& bench, QWidget* parent);
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
    Bench bench_;
    PlanPtr plan_;
    std::vector<LaneSpot> spots_;
};

/// Wires as lanes and as a table: typed, pasted, sorted, filtered; what is missing is wired.
class WiresSheet : public StationPage {
    Q_OBJECT
public:
    WiresSheet(const Bench& bench, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;
    void show_preview(const PlanPtr& plan) override;

private:
    void write(const QString& what, const QString& filter, const QString& name,
               const std::function<Result<void>(const QString& path)>& to);
    QMenu* out_menu();
    void take_csv();
    LanesView* lanes_;
    Table* table_;
    QLabel* said_;
    QLabel* note_;
    QPushButton* missing_;
    QLineEdit* filter_;
    QComboBox* sort_;
    PlanPtr plan_;
};

} // namespace conductus::app
