// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/job/bench.h"

namespace conductus::files {

struct ReadDischarge {
    job::DischargeAt at = job::DischargeAt::cell; ///< by the name of its column of volts
    std::vector<job::DischargePoint> points;      ///< all of them
};

/// A log of a discharge: columns `time` or `time_s` (seconds; `time_min`: minutes), `volts` or
/// `cell_V` or `board_V`, `amps` or `amps_A` (`amps_mA`). Errors with their line and column: a
/// column that is missing, a cell that is no number, more than 200,000 rows.
Result<ReadDischarge> read_discharge_log(std::string_view text, const std::string& name);

} // namespace conductus::files
