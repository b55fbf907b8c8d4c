// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

/// How the hilt is handled: the map of its commands, its states, and a place to rehearse.
class HandlingPage : public SheetsPage {
    Q_OBJECT
public:
    HandlingPage(const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
