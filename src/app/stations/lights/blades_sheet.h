// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

class QLabel;

namespace conductus::app {

class Table;

/// The blades and plugs of a hilt, the sockets that each goes into, and what is mated now.
class BladesSheet : public StationPage {
    Q_OBJECT
public:
    explicit BladesSheet(const PageContext& context, QWidget* parent = nullptr);
    void show_plan(const PlanPtr& plan) override;
    void show_job() override;

private:
    void say_sets();
    PlanPtr plan_;
    Table* blades_;
    Table* sockets_;
    Table* made_; ///< tubes, layers, feet
    QLabel* sets_;
};

} // namespace conductus::app
