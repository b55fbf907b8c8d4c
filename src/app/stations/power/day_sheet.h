// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/drawing/day_drawing.h"
#include "app/session/session.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/use_study.h"

class QComboBox;
class QLabel;

namespace conductus::app {

/// The day on a line of 24 hours: what is lit, idle and stored, and when cells are changed. Ends of
/// phases are dragged; dragged into the night, a new lit phase is drawn.
class DayLine : public DrawingView {
    Q_OBJECT
public:
    DayLine(const PageContext& context, QWidget* parent);
    void show_study(StudyPtr study);
    /// Where minute `m` of the day is drawn.
    [[nodiscard]] double x_of(double m) const { return DayDrawing::x_of(frame(), lettering(), m); }

signals:
    void drawn(std::vector<conductus::job::Phase> day); ///< as it was left by the mouse

private:
    void take_hold(double x);
    void let_go();
    [[nodiscard]] double minute_at(double x) const;
    [[nodiscard]] int edge_at(double x) const; ///< index of the phase that ends there; -1: none
    void drag_to(double minute);
    PageContext context_;
    StudyPtr study_;
    std::vector<job::Phase> dragged_; ///< what is drawn while dragging
    int edge_ = -1;
    double from_ = 0; ///< minute at which a new phase begins
};

/// The owner's day: phases typed or drawn, and what comes of them.
class DaySheet : public StationPage {
    Q_OBJECT
public:
    DaySheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void show_study(const StudyPtr& study);
    void take_use();
    void keep_use();
    QComboBox* use_;
    Table* phases_;
    DayLine* line_;
    QLabel* said_;
};

} // namespace conductus::app
