// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "core/plan/use_study.h"

class QCheckBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace conductus::app {

/// Spares to bring for some days of the use, and many such days at random.
class SparesSheet : public StationPage {
    Q_OBJECT
public:
    SparesSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void show_study(const StudyPtr& study);
    void show_spares();
    void live_days();
    void days_are_lived(bool now);
    QLabel *spares_, *events_;
    QSpinBox *days_, *bays_;
    QCheckBox* overnight_;
    QPushButton* live_;
    QProgressBar* progress_;
    DrawingView* picture_;
    std::shared_ptr<const power::Percentiles> days_lived_;
    PlanPtr plan_;
    StudyPtr study_;
};

} // namespace conductus::app
