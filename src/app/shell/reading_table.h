// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableWidget>

#include "app/session/appearance.h"

namespace conductus::app {

/// A table to read and to choose a row of, its columns as wide as what is in them; column `wide`
/// takes the rest, or with -1 all alike. Cells that may be typed in are made so one by one.
QTableWidget* reading_table(const QStringList& columns, int wide, const QString& object,
                            const QString& name, const Appearance& appearance, QWidget* parent);

/// The cell's text, made where it is not there yet; not to be typed in.
QTableWidgetItem* set_cell(QTableWidget* table, int row, int column, const QString& text);

} // namespace conductus::app
