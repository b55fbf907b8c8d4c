// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/station_page.h"
#include "app/table/table.h"

namespace conductus::app {

/// A reading as a person reads it: "58 mΩ".
QString reading_text(const job::Inspected& item);

/// The inspection as a table: where, item, found, reading, then. `order` holds the items of the
/// job as they are listed, an area after the other; it is filled by order_inspection().
Table::Setup inspection_setup(Session& session, const std::vector<int>& order);
std::vector<int> order_inspection(const job::Job& job);

/// What the letter says of an item: F fine, W worn, B broken, M missing, U unknown, K kept,
/// R replaced. Empty: it says nothing.
job::Edit inspected_by_letter(const job::Job& job, int item, int key);

} // namespace conductus::app
