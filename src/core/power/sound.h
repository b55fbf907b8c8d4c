// SPDX-License-Identifier: GPL-3.0-or-later
// What the amplifier draws and what it needs: docs/models.md, "Sound".
#pragma once

#include "core/base/quantity.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::power {

struct Sound {
    Volt peak;   ///< across the speaker at the wanted loudness
    Volt need;   ///< at the board's bat pad for clean sound at a peak
    Ampere mean; ///< drawn at the pad, hum and swing
    Ampere at_peak;
};

/// Loudness is the share of the speaker's rated amplitude. No speaker or no board: no draw, and the
/// need is the board's own minimum (0 V without a board).
Sound sound_of(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::power
