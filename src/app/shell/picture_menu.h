// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/appearance.h"
#include "core/base/problem.h"

namespace conductus::app {

/// Offers what is painted in a widget as a picture, by its menu: to the clipboard (Ctrl+C as well,
/// while it has the focus), or as SVG, PDF or PNG.
void offer_picture(QWidget* drawing, const Appearance& appearance);

/// Writes what is painted there. Errors: as of write_picture().
Result<void> save_picture(QWidget* drawing, const QString& path, const Inks& inks);

} // namespace conductus::app
