// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>

#include "app/shell/rows_table.h"
#include "app/stations/station_page.h"

class QComboBox;
class QLabel;
class QVBoxLayout;

namespace conductus::app {

/// Pad to lights as soldered, beside what the board is set to; where they disagree, both ways to
/// mend it.
class DataSheet : public StationPage {
    Q_OBJECT
public:
    DataSheet(const Bench& bench, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    static QStringList lights_of(const harness::DataLine& line);
    void show_mismatches();
    QTableWidget* wired_;
    RowsTable *lines_, *buttons_;
    QComboBox* mode_;
    QWidget* mismatches_;
    PlanPtr plan_;
};

} // namespace conductus::app
