// SPDX-License-Identifier: GPL-3.0-or-later
// One random slip of the hand in a job: a wire, a part, a place, a reading.
#pragma once

#include <random>

#include "core/job/job.h"

namespace conductus::test {

/// Changes one thing, or up to three. The job that comes of it need not be valid.
void mutate(job::Job& job, std::mt19937& random);

} // namespace conductus::test
