// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/sized_wires.h"

class QLabel;
class QPushButton;

namespace conductus::app {

class EntryField;

/// Gauges of the whole harness under a budget of volts: as they are, as they would be.
class SizingSheet : public StationPage {
    Q_OBJECT
public:
    SizingSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void work();
    void show_sized();
    PlanPtr plan_;
    double budget_ = 100; ///< mV
    EntryField* field_;
    QLabel* said_;
    QPushButton* make_;
    Table* table_;
    Result<plan::SizedWires> sized_{tl::unexpected(Problem{})};
};

} // namespace conductus::app
