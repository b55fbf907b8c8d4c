// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/harness/order.h"

class QLabel;

namespace conductus::app {

/// What is soldered when, with ticks that are kept.
class SolderSheet : public StationPage {
    Q_OBJECT
public:
    SolderSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    PlanPtr plan_;
    Table* table_;
    std::vector<harness::SolderStep> steps_;
    QLabel* said_;
};

} // namespace conductus::app
