// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTabBar>
#include <array>

#include "app/stations/station_page.h"

namespace conductus::app {

/// What the owner wants and was promised, how the job arrived, and what became of it since.
class BriefPage : public StationPage {
    Q_OBJECT
public:
    BriefPage(const Bench& bench, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void turn_to(int sheet);
    static constexpr std::size_t sheets = 6;
    QTabBar* tabs_;
    std::array<StationPage*, sheets> pages_{};
    std::array<bool, sheets> stale_{};
    PlanPtr plan_;
};

} // namespace conductus::app
