// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QTableWidget>

#include "app/stations/station_page.h"

namespace conductus::app {

/// In which order it goes together, how a thing is reached, and what socket, sound and mass are.
class AssemblySheet : public StationPage {
    Q_OBJECT
public:
    AssemblySheet(const Bench& bench, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    QTableWidget *steps_, *access_;
    QLabel *trouble_, *keys_, *figures_;
};

} // namespace conductus::app
