// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "app/stations/station_page.h"
#include "app/table/column.h"

namespace conductus::app {

/// Caliper readings, a row a section: section, from, to, bore, outer. A taper is typed as
/// "28.4 > 27": the diameter at its start and at its end.
std::vector<Column> survey_columns(const Session& session);

/// What is fitted: part, what it is (another type of its kind may be chosen), where it starts, what
/// is spare around it as `plan` says.
std::vector<Column> part_columns(const Session& session, const PlanPtr& plan);

} // namespace conductus::app
