// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

/// What the owner wants and was promised, how the job arrived, and what became of it since.
class BriefPage : public SheetsPage {
    Q_OBJECT
public:
    BriefPage(const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
