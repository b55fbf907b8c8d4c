// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/bench/bench_work.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

class ProbedFacesView;

/// The test plan: every step with its band, typed in or read by the meter, and signed off.
class TestSheet : public StationPage {
    Q_OBJECT
public:
    TestSheet(const PageContext& context, BenchWork& work, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

protected:
    void hideEvent(QHideEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void refresh();
    void look_at(int row);
    void take_reading(double value);
    [[nodiscard]] const diagnose::TestStep* step(int row) const;
    /// Tries the step with what was typed: a value, or yes and no.
    [[nodiscard]] job::Edit typed_in(int row, const std::string& typed) const;
    BenchWork& work_;
    Table* table_;
    ProbedFacesView* face_;
    QComboBox* shown_;
    QLabel *said_, *what_for_, *when_out_;
    QPushButton* sign_;
    std::vector<std::size_t> rows_; ///< steps that are shown
};

} // namespace conductus::app
