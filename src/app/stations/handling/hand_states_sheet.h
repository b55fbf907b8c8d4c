// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

class EntryField;

/// The states of the hilt that a person tells apart, and the time between two presses.
class HandStatesSheet : public StationPage {
    Q_OBJECT
public:
    HandStatesSheet(const PageContext& context, QWidget* parent);
    void show_job() override;

private:
    Table* table_;
    EntryField* again_;
};

} // namespace conductus::app
