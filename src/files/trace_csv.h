// SPDX-License-Identifier: GPL-3.0-or-later
// Logs of acceleration and turning. docs/job-format.md, "Motion logs".
#pragma once

#include <string>
#include <string_view>

#include "core/base/problem.h"
#include "core/motion/trace.h"

namespace conductus::files {

/// A table with a row for each sample. Columns by their names, in any order: time_s; ax, ay, az
/// with the unit g or m_s2; gx, gy, gz with the unit deg_s or rad_s; meant (what the movement
/// should be taken for, nothing where empty). Other columns are passed over. Error: a column is
/// missing, a cell is no number, time does not go on, more than 200 000 rows.
Result<motion::Trace> read_trace_csv(std::string_view text, const std::string& name);

/// The same written, in g and degrees per second.
std::string trace_csv(const motion::Trace& trace);

} // namespace conductus::files
