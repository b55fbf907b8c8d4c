// SPDX-License-Identifier: GPL-3.0-or-later
// Which of the edits that rules propose may be offered: docs/models.md, "Fixes".
#pragma once

#include <functional>

#include "core/base/parallel_for.h"
#include "core/plan/plan.h"

namespace conductus::plan {

/// Applies every proposed edit and judges the job that comes of it. Offered is what leaves a valid
/// job in which the finding is gone, nothing new stops it, nothing is newly over a rating, and no
/// current is beyond what it had. The first that passes becomes `fix`, the next `other`.
/// False where `stop` said so in between.
bool offer_fixes(Plan& plan, const std::function<bool()>& stop = {},
                 const ParallelFor& parallel_for = one_by_one);

} // namespace conductus::plan
