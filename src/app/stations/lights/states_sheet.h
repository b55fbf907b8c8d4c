// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/questions.h"

class QComboBox;
class QLabel;

namespace conductus::app {

/// Every state of the hilt with what it draws and shows; under it what each light shows while no
/// blade is lit.
class StatesSheet : public StationPage {
    Q_OBJECT
public:
    StatesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] const plan::HiltState* state(int row) const;
    [[nodiscard]] job::LightOverride shown_by(int row) const;
    [[nodiscard]] job::Rest rest() const;
    [[nodiscard]] std::string preset() const;
    Table* states_;
    Table* lights_;
    QComboBox* rest_;
    QComboBox* preset_;
    QLabel* said_;
    std::vector<std::string> refs_; ///< lights, a row each
    PlanPtr plan_;
    plan::AnswerPtr<plan::StatesOf> made_;
};

} // namespace conductus::app
