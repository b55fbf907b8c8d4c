// SPDX-License-Identifier: GPL-3.0-or-later
// Jobs with random lights of every kind, wired at random.
#pragma once

#include <random>

#include "core/job/job.h"
#include "core/power/state.h"

namespace conductus::test {

/// A valid job: one cell or a two-cell pack, kill, fuse, board, and a random choice of blades of
/// one to four strips fed at the foot, the tip and between, accents on lines of their own, ahead or
/// in parallel, lit connectors, LEDs behind resistors and drivers, strings, regulators, a display,
/// a level shifter and lights that are always on.
job::Job random_lit_job(std::mt19937& random);

/// A random state of it: a look's brightest frame, an instant, an effect, idle, stored or killed.
power::State random_state(const job::Job& job, std::mt19937& random);

} // namespace conductus::test
