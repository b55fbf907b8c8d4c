// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/drawing_view.h"
#include "app/stations/bench/bench_work.h"
#include "core/bench/discharge_fit.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

/// A logged discharge over the model: what the cell has, and what lies between it and the board.
class DischargeRecordSheet : public StationPage {
    Q_OBJECT
public:
    DischargeRecordSheet(const PageContext& context, BenchWork& work, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

    /// Takes a log in and shows it.
    void take_log(const QString& path);

private:
    void refresh();
    void log_point();
    [[nodiscard]] const job::DischargeLog* shown() const;
    BenchWork& work_;
    QComboBox *logs_, *cell_, *at_;
    QLabel *said_, *found_;
    QPushButton *use_, *drop_, *record_;
    DrawingView* view_;
    std::shared_ptr<const bench::DischargeFit> fit_;
    std::optional<job::DischargeLog> fitted_;
    /// What is being logged from the meter.
    std::optional<job::DischargeLog> running_;
    QTimer every_;
    QElapsedTimer since_;
};

} // namespace conductus::app
