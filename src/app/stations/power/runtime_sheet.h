// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

class QComboBox;
class QLabel;

namespace conductus::app {

class EntryField;
class RibbonAxis;
class RibbonList;
class StepsView;

/// How long it runs with each cell, and where the volts go.
class RuntimeSheet : public StationPage {
    Q_OBJECT
public:
    RuntimeSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void fit(std::size_t row);
    void show_steps_head();
    QComboBox* look_;
    EntryField *clean_, *ignited_, *idle_, *temperature_, *volume_;
    RibbonList* ribbons_;
    RibbonAxis* axis_;
    StepsView* steps_;
    QLabel* steps_head_;
    PlanPtr plan_;
};

} // namespace conductus::app
