// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/power/day_run.h"

namespace conductus::files {

/// A recorded day as RFC 4180, a row a moment: time_s, state, charge, ocv_V, cell_V, board_V,
/// audio_V, pixel_V, tip, amps_A, temperature_degC, taken_mAh, drawn_J, loads_J, losses_J, mark.
/// Two rows at one time: what was shown changed there, and its currents with it. Numbers read back
/// the same.
std::string discharge_csv(const power::Day& day);

} // namespace conductus::files
