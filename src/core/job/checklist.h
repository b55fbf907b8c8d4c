// SPDX-License-Identifier: GPL-3.0-or-later
// What to look at when a job arrives: it follows the kind of job.
#pragma once

#include <vector>

#include "core/job/job.h"

namespace conductus::job {

/// Items to inspect for a kind of job, in the order of the work, nothing found yet.
std::vector<Inspected> checklist(Kind kind);

/// The job's inspection with what the kind asks for: items somebody has filled in stay, untouched
/// ones of another kind go, missing ones come. Order: the checklist's, then the job's own.
void follow_checklist(Job& job);

/// Nothing was found, noted or decided on it.
bool untouched(const Inspected& item);

} // namespace conductus::job
