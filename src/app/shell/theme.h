// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/appearance.h"

namespace conductus::app {

/// Fonts, palette and style sheet of a whole window from its appearance.
void apply_theme(QWidget& window, const Appearance& appearance);

} // namespace conductus::app
