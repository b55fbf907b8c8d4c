// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/sheets_page.h"

namespace conductus::app {

/// The survey, what fits, what passes, and in which order it goes together.
class HiltPage : public SheetsPage {
    Q_OBJECT
public:
    HiltPage(const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
