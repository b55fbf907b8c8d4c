// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTabBar>
#include <vector>

#include "app/stations/station_page.h"

namespace conductus::app {

/// A station with several sheets, one in sight. Ctrl+Page Down and Ctrl+Page Up turn them.
class SheetsPage : public StationPage {
    Q_OBJECT
public:
    /// `object` and `name`: of the bar of tabs.
    SheetsPage(const PageContext& context, const QString& object, const QString& name,
               QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;
    void show_preview(const PlanPtr& plan) override;
    [[nodiscard]] QTabBar* tabs() const { return tabs_; }

protected:
    void add_sheet(const QString& title, StationPage* sheet);

private:
    void turn_to(int sheet);
    struct Sheet {
        StationPage* page;
        bool stale = true;
    };
    QTabBar* tabs_;
    std::vector<Sheet> sheets_;
    PlanPtr plan_;
};

} // namespace conductus::app
