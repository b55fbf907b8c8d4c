// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"
#include "core/plan/handled.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace conductus::app {

/// The map of commands as state lines, which is the table they are typed in too.
class MapSheet : public StationPage {
    Q_OBJECT
public:
    MapSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    enum class Order { state, button, does, map };
    [[nodiscard]] const job::Handling& map() const { return context_.session.job().handling; }
    /// Where in the document the command of a row stands.
    [[nodiscard]] std::string place(int row) const;
    [[nodiscard]] const job::Command* command(int row) const;
    [[nodiscard]] CellText remark(int row) const;
    void arrange();
    Table* table_;
    QComboBox *state_, *order_;
    QLabel *said_, *legend_;
    QWidget* begin_;                 ///< the ways to begin, while the map is empty
    std::vector<std::size_t> shown_; ///< commands, a row each
    plan::Handled handled_;
};

} // namespace conductus::app
