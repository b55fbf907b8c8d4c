// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"

namespace conductus::app {

/// A station whose work is not in the program yet: says what it will do, and shows nothing made up.
class LaterPage : public StationPage {
    Q_OBJECT
public:
    LaterPage(std::size_t station, const PageContext& context, QWidget* parent);
};

} // namespace conductus::app
