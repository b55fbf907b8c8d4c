// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/questions.h"

class QLabel;

namespace conductus::app {

/// The presets in the order of the board, each with its font, look, tracks and what it draws; under
/// them the effects of the chosen one: as the first preset has them, its own, or none.
class PresetsSheet : public StationPage {
    Q_OBJECT
public:
    PresetsSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    [[nodiscard]] std::size_t preset() const; ///< the chosen one
    /// Effects of the job, and behind them those that the chosen preset has beside.
    [[nodiscard]] std::vector<std::string> effects() const;
    /// Where a value of that effect stands; empty: it is as the first preset's, or not there.
    [[nodiscard]] std::string place_of(int row, const std::string& key) const;
    [[nodiscard]] const plan::PresetPlan* planned(int row) const;
    void ask();
    void show_effects();
    void move(int by);

    Table* presets_;
    Table* effects_;
    QLabel* of_;
    PlanPtr plan_;
    plan::AnswerPtr<plan::PresetsOf> made_;
};

} // namespace conductus::app
