// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/study.h"
#include "app/stations/station_page.h"
#include "core/plan/use_study.h"

class QCheckBox;
class QLabel;
class QSlider;

namespace conductus::app {

class StepsView;

/// Cell, board and audio volts over the use, with what is noticed when; a cursor to move.
class DischargeView : public QWidget {
    Q_OBJECT
public:
    DischargeView(const PageContext& context, QWidget* parent);
    void show_study(StudyPtr study, Volt need, Volt cut_off);
    void by_clock(bool on);
    void go_to(std::size_t sample);
    [[nodiscard]] std::size_t at() const { return at_; }

signals:
    void wanted(int sample); ///< the curve was clicked or dragged over

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] const power::Day* day() const;
    [[nodiscard]] double minutes_of(const power::DaySample& s) const;
    [[nodiscard]] QRectF box() const;
    PageContext context_;
    StudyPtr study_;
    Volt need_, cut_off_;
    bool clock_ = false;
    std::size_t at_ = 0;
};

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
    DischargeView* view_;
    StepsView* steps_;
    PlanPtr plan_;
    StudyPtr study_;
    Study studies_;
    double white_y_ = 0;
};

} // namespace conductus::app
