// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QLabel;

namespace conductus::app {

/// All that is said of every command, as a table to type and paste in.
class CommandsSheet : public StationPage {
    Q_OBJECT
public:
    CommandsSheet(const PageContext& context, QWidget* parent);
    void show_job() override { table_->refresh(); }

    /// Takes commands in from a table or a text; what can not be understood is said.
    void take_in(const QString& path);

private:
    Table* table_;
    QLabel* said_;
};

} // namespace conductus::app
