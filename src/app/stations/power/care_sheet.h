// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/session/session.h"
#include "app/stations/station_page.h"

class QComboBox;
class QLabel;

namespace conductus::app {

/// How the cells are filled, how long they may lie, and what must not be done with them.
class CareSheet : public StationPage {
    Q_OBJECT
public:
    CareSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void show_study(const StudyPtr& study);
    QComboBox* charger_;
    QLabel *charging_, *faults_, *storage_, *percents_, *cautions_;
    PlanPtr plan_;
};

} // namespace conductus::app
