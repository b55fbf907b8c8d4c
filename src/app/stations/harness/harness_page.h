// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

/// Every wire, its length, its load and its place; the connectors; data against configuration; what
/// is soldered when; what was built.
class HarnessPage : public SheetsPage {
    Q_OBJECT
public:
    HarnessPage(const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
