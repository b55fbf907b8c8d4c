// SPDX-License-Identifier: GPL-3.0-or-later
// Wires as rows of a table: typed and read back.
#pragma once

#include <vector>

#include "app/shell/row_reader.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::app {

/// ref, from, to, role, AWG, colour (the usual one where none is chosen), length, loop, where round
/// the bore.
QStringList wire_columns();
QStringList wire_cells(const job::Wire& wire, const job::Job& job,
                       const catalogue::Catalogue& parts);

/// What a row does not show stays as it is in the wire of that ref among `before`. A row without a
/// ref gets the next free one; the usual colour, shown and left so, is not a choice.
Result<void> read_wires(const RowsTable::Rows& rows, const job::Job& job,
                        const catalogue::Catalogue& parts, const std::vector<job::Wire>& before,
                        std::vector<job::Wire>& into);

} // namespace conductus::app
