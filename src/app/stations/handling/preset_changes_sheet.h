// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/job/preset_changes.h"

class QLabel;

namespace conductus::app {

/// Presets as they were found, as the owner asks for them, and what has become of each: the list
/// that the owner gets.
class PresetChangesSheet : public StationPage {
    Q_OBJECT
public:
    PresetChangesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

    /// Takes presets in from a table: as found, or as asked for. What is wrong is said.
    void take_in(const QString& path, bool asked);
    /// Writes the change list as text.
    void write_list(const QString& path);

private:
    Table* told_table(const char* object, const char* list, const QString& name, QWidget* parent);
    [[nodiscard]] const job::PresetChange* change(int row) const;
    Table *found_, *asked_, *now_;
    QLabel *said_, *not_asked_;
    std::vector<job::PresetChange> changes_;
};

} // namespace conductus::app
