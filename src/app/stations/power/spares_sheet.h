// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/study.h"
#include "app/session/worker.h"
#include "app/stations/station_page.h"
#include "core/plan/use_study.h"

class QCheckBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace conductus::app {

/// How many clean minutes many random days gave.
class DaysPicture : public QWidget {
    Q_OBJECT
public:
    DaysPicture(const PageContext& context, QWidget* parent);
    void show_days(std::shared_ptr<const power::Percentiles> days);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    PageContext context_;
    std::shared_ptr<const power::Percentiles> days_;
};

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
    QLabel *spares_, *events_;
    QSpinBox *days_, *bays_;
    QCheckBox* overnight_;
    QPushButton* live_;
    QProgressBar* progress_;
    DaysPicture* picture_;
    PlanPtr plan_;
    StudyPtr study_;
    Study studies_;
    Worker* worker_; ///< many days in the making
};

} // namespace conductus::app
