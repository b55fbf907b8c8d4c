// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QComboBox;
class QLabel;

namespace conductus::app {

/// What cells, switches, pads, pins and wires carry: in one look or effect, or each where it
/// carries most.
class CurrentsSheet : public StationPage {
    Q_OBJECT
public:
    CurrentsSheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    struct Row {
        const plan::Carried* carried;
        const plan::LookPlan* in;
    };
    [[nodiscard]] std::vector<Row> rows() const;
    void show_rows();
    QComboBox* which_;
    Table* table_;
    QLabel* none_;
    PlanPtr plan_;
    std::vector<Row> rows_; ///< as they are listed
};

} // namespace conductus::app
