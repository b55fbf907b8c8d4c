// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

/// Which cell, how long, and why: runtime, the day of use, the discharge, the options, charging.
class PowerPage : public SheetsPage {
    Q_OBJECT
public:
    PowerPage(const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
