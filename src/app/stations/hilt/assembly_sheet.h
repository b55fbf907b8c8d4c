// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>

#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// In which order it goes together, how a thing is reached, and what socket, sound and mass are.
class AssemblySheet : public StationPage {
    Q_OBJECT
public:
    AssemblySheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    PlanPtr plan_;
    Table *steps_, *access_;
    QLabel *trouble_, *keys_, *figures_;
};

} // namespace conductus::app
