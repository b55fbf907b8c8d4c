// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QLabel;

namespace conductus::app {

/// The plugs of the hilt: for which jack each is, whether it goes in and what it opens there, and
/// the readings that prove it.
class PlugsSheet : public StationPage {
    Q_OBJECT
public:
    PlugsSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] QStringList holes() const;
    Table* plugs_;
    QLabel* jacks_;
    PlanPtr plan_;
};

} // namespace conductus::app
