// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "core/plan/use_study.h"

class QLabel;

namespace conductus::app {

class EntryField;

/// The same build at two temperatures of the air, side by side.
class ColdSheet : public StationPage {
    Q_OBJECT
public:
    ColdSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void ask();
    void show_study(const StudyPtr& study);
    DrawingView *both_, *curves_;
    StudyPtr study_;
    EntryField *cold_, *warm_;
    QLabel* said_;
    Celsius cold_at_ = plan::usual_cold, warm_at_ = plan::usual_warm;
    PlanPtr plan_;
};

} // namespace conductus::app
