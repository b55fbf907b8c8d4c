// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/findings/facts.h"

namespace conductus::findings {

/// Cells and what may hurt: polarity, shorts, mixed packs, heat, charging.
void judge_cells(const Facts& facts, std::vector<Finding>& out);

} // namespace conductus::findings
