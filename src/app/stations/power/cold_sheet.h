// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/study.h"
#include "app/stations/station_page.h"
#include "core/plan/use_study.h"

class QLabel;

namespace conductus::app {

class Field;

/// Two ribbons on one axis: the same build cold and warm.
class ColdAndWarm : public QWidget {
    Q_OBJECT
public:
    ColdAndWarm(const PageContext& context, QWidget* parent);
    void show_study(StudyPtr study);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    PageContext context_;
    StudyPtr study_;
};

/// The board in its worst peak over the time lit, cold and warm, with what the sound needs.
class ColdCurves : public QWidget {
    Q_OBJECT
public:
    ColdCurves(const PageContext& context, QWidget* parent);
    void show_study(StudyPtr study);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    PageContext context_;
    StudyPtr study_;
};

/// The same build at two temperatures of the air, side by side.
class ColdSheet : public StationPage {
    Q_OBJECT
public:
    ColdSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void ask();
    void show_study(const StudyPtr& study);
    ColdAndWarm* both_;
    ColdCurves* curves_;
    Field *cold_, *warm_;
    QLabel* said_;
    Celsius cold_at_{0}, warm_at_{30};
    PlanPtr plan_;
    Study studies_;
};

} // namespace conductus::app
