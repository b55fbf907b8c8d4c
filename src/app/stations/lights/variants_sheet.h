// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/shell/drawing_view.h"
#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/build_marks.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace conductus::app {

/// Ways of building the same job, kept to compare: blades, amps, and the difference in words.
class VariantsSheet : public StationPage {
    Q_OBJECT
public:
    VariantsSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void plan_other();
    void show_both();
    QComboBox* which_;
    QLineEdit* name_;
    QPushButton *keep_, *take_, *drop_;
    QLabel *refused_, *none_, *words_;
    DrawingView* view_;
    PlanPtr plan_, other_;
    plan::Comparison difference_; ///< from the job to the other
    Table* marks_; ///< chassis, contacts, copper, access, cost of both
    std::vector<plan::BuildMark> marks_now_, marks_then_;
};

} // namespace conductus::app
