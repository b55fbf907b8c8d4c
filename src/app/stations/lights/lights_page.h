// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

/// Looks, loads, currents, effects in time, data lines, and other ways of building.
class LightsPage : public SheetsPage {
    Q_OBJECT
public:
    LightsPage(const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
