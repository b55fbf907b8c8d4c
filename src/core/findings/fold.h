// SPDX-License-Identifier: GPL-3.0-or-later
// One mistake, one finding: what is only so because of another is folded under it.
#pragma once

#include <vector>

#include "core/findings/finding.h"

namespace conductus::findings {

/// Moves every finding that follows from a graver one into its `follows`. The causes are a table
/// in fold.cpp; docs/rules.md says which.
void fold(std::vector<Finding>& findings);

} // namespace conductus::findings
