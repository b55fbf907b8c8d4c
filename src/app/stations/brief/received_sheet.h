// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

class QBoxLayout;
class QPushButton;
class QLabel;

namespace conductus::app {

class Field;
class InspectionTable;
class ItemPanel;

/// The inspection: what was looked at and how it was found.
class ReceivedSheet : public StationPage {
    Q_OBJECT
public:
    ReceivedSheet(const Bench& bench, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QBoxLayout* row_;
    InspectionTable* table_;
    ItemPanel* panel_;
    QLabel* count_;
    QPushButton* begin_;
    Field* add_;
};

} // namespace conductus::app
