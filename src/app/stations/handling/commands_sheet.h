// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// All that is said of every command, as a table to type and paste in.
class CommandsSheet : public StationPage {
    Q_OBJECT
public:
    CommandsSheet(const PageContext& context, QWidget* parent);
    void show_job() override { table_->refresh(); }

private:
    Table* table_;
};

} // namespace conductus::app
