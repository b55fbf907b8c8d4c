// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "app/session/session.h"
#include "app/table/column.h"

namespace conductus::app {

/// Columns of the wires at "/wires" or "/built": wire, from, to, role, AWG, colour, cut to, loop,
/// turn. Where no colour is chosen the usual one is shown, in the second ink.
enum WireColumn {
    wire_ref,
    wire_from,
    wire_to,
    wire_role,
    wire_gauge,
    wire_colour,
    wire_length,
    wire_loop,
    wire_turn,
    wire_column_count
};
std::vector<Column> wire_columns(const Session& session, const std::string& list);

} // namespace conductus::app
