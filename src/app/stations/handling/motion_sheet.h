// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>

#include "app/drawing/motion_drawing.h"
#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;
class QStackedWidget;

namespace conductus::app {

/// What the board takes movements for: thresholds, the made-up movements and own logs against them,
/// and the test sheet.
class MotionSheet : public StationPage {
    Q_OBJECT
public:
    enum View { thresholds, movement, tests };
    MotionSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

    void look_at(View view);
    /// Takes a log of movement in: it stands beside the made-up ones, and is shown.
    void take_log(const QString& path);

private:
    QWidget* make_thresholds(QWidget* parent);
    QWidget* make_movement(QWidget* parent);
    QWidget* make_tests(QWidget* parent);
    void study_again();
    /// Sets every threshold that parts the movements so far between lively (0) and calm (1).
    void set_between(const QString& label, double share);
    [[nodiscard]] const motion::Parting* parting(job::Felt what) const;
    std::shared_ptr<const MotionStudy> study_;
    std::vector<motion::Trace> logs_; ///< of this hilt, read from files
    QComboBox *view_, *movement_;
    QStackedWidget* stack_;
    QLabel* said_;
    Table *thresholds_, *tests_;
    DrawingView *lanes_, *trace_;
};

} // namespace conductus::app
