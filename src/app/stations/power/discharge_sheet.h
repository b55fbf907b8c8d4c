// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "core/plan/use_study.h"

class QCheckBox;
class QLabel;
class QSlider;

namespace conductus::app {

class StepsView;

/// The use until it is off, event by event, under a cursor that the section follows.
class DischargeSheet : public StationPage {
    Q_OBJECT
public:
    DischargeSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

protected:
    void hideEvent(QHideEvent*) override;

private:
    void show_study(const StudyPtr& study);
    void show_moment(int sample);
    QCheckBox* clock_;
    QSlider* time_;
    QLabel *said_, *marks_;
    DrawingView* view_;
    StepsView* steps_;
    PlanPtr plan_;
    StudyPtr study_;
};

} // namespace conductus::app
