// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

class QLabel;

namespace conductus::app {

class EntryField;

/// Wiring and configuration as they were found, against the plan.
class FoundSheet : public StationPage {
    Q_OBJECT
public:
    FoundSheet(const PageContext& context, QWidget* parent);
    void show_job() override;

private:
    Table *wires_, *settings_;
    QLabel* new_;
    EntryField* on_;
};

} // namespace conductus::app
