// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/bench/bench_work.h"
#include "app/table/table.h"
#include "core/diagnose/practice.h"

class QComboBox;
class QLabel;
class QPushButton;
class QSpinBox;

namespace conductus::app {

class PointsFields;

/// A hilt with a hidden fault: measured, named and mended by whoever learns, against the finder's
/// own way and minutes.
class PracticeSheet : public StationPage {
    Q_OBJECT
public:
    PracticeSheet(const PageContext& context, BenchWork& work, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

    void begin(int level, unsigned long long seed);
    /// A teacher's list of cases, read from a file or written to one.
    void read_list(const QString& path);
    void write_list(const QString& path);

private:
    void refresh();
    void measure();
    void mend();
    void end();
    BenchWork& work_;
    PointsFields* points_;
    QComboBox *level_, *supply_, *named_, *list_;
    QWidget* in_list_;
    QSpinBox* seed_;
    QLabel *seen_, *said_, *score_, *progress_;
    QPushButton *measure_, *mend_;
    Table* taken_;
    std::unique_ptr<diagnose::Exercise> exercise_;
    int level_now_ = 1;
    unsigned long long seed_now_ = 1;
    bool over_ = false;
    std::vector<diagnose::ListedCase> cases_;
};

} // namespace conductus::app
