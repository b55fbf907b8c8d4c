// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/drawing_view.h"
#include "app/stations/bench/bench_work.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace conductus::app {

class PointsFields;
class ProbedFacesView;

/// What was seen and read, what it may be, and where to measure next.
class FindSheet : public StationPage {
    Q_OBJECT
public:
    FindSheet(const PageContext& context, BenchWork& work, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

    /// Takes in every reading of a table, or none.
    void take_table(const QString& path);

protected:
    void hideEvent(QHideEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget* make_seen(QWidget* parent);
    QWidget* make_may(QWidget* parent);
    void refresh();
    void follow_next();
    /// The fields of a reading to come are set to that one.
    void ask_for(const diagnose::Diagnosis::Then& then);
    void enter();
    void enter_value(double value, const std::string& source);
    void show_probes();
    [[nodiscard]] job::BenchReading about() const;
    /// Whether there is such a reading at this hilt.
    [[nodiscard]] Result<void> check(const diagnose::Measure& measure) const;
    BenchWork& work_;
    DrawingView *bands_, *may_;
    ProbedFacesView* face_;
    PointsFields* points_; ///< of the reading to come
    QWidget* symptoms_;
    QComboBox* symptom_;
    QLineEdit* value_;
    QLabel *next_words_, *next_means_, *refused_, *mend_words_, *may_head_;
    Table* others_;
    QPushButton *it_is_, *use_, *clear_;
    int chosen_may_ = 0, chosen_reading_ = -1;
    bool by_hand_ = false; ///< somebody chose the points of the reading to come
};

} // namespace conductus::app
