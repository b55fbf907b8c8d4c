// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QLabel;
class QPushButton;

namespace conductus::app {

/// The harness as planned and as it was built; what differs, and what that does, solved anew.
class BuiltSheet : public StationPage {
    Q_OBJECT
public:
    BuiltSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    Table *built_, *planned_;
    QLabel* said_;
    QPushButton *record_, *plan_it_;
};

} // namespace conductus::app
