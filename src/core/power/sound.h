// SPDX-License-Identifier: GPL-3.0-or-later
// What the amplifier draws, what it needs, and how loud it is: docs/models.md, "Sound".
#pragma once

#include <optional>

#include "core/base/quantity.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"

namespace conductus::power {

/// Compression from which on a peak is heard to clip, dB.
inline constexpr double heard_clipping = 2;

/// Hum and swing draw about an eighth of a steady tone at the set loudness, which is half of what
/// is drawn at its peak.
inline constexpr double hum_share = 0.125 / 2;

struct Sound {
    Volt peak;                       ///< across the speaker at the wanted loudness
    Volt need;                       ///< at the board's bat pad: below it the sound crackles
    Volt clips;                      ///< at the bat pad: below it a peak is heard to clip; 0: never
    circuit::Amplifier at_peak, hum; ///< what is drawn at a peak, and on average

    /// How much a peak is cut at that supply, dB; 0 where it is not.
    [[nodiscard]] double compression(Volt supply) const;
};

/// The sounds of the font that is played with a look, as they measured on the card: of the use's
/// preset where the use is lit with that look, else of the first preset that shows it; the one that
/// draws most of all presets that show it where `loudest`. Empty look: the use's. Null: they were
/// not measured, and full scale is assumed for a peak.
const job::FontSound* font_of(const job::Job& job, const std::string& look = {},
                              bool loudest = false);

/// Loudness is the share of the speaker's rated amplitude. No speaker or no board: no draw, and the
/// need is the board's own minimum (0 V without a board). The font is as of font_of().
Sound sound_of(const job::Job& job, const catalogue::Catalogue& parts, const std::string& look = {},
               bool loudest_font = false);

/// How loud a job is where nothing is lost to a low supply.
struct LoudnessFigure {
    double full = 0;             ///< V, the largest amplitude the board has, with full cells
    double below_full = 0;       ///< dB of the wanted amplitude against it; above 0: it clips
    Watt power;                  ///< of a steady tone at that loudness, into the speaker
    std::optional<double> level; ///< dB at a metre; empty: the speaker does not say
};
/// `supply`: at the board with full cells, nothing drawn. `cavity_dB`: what the room before and
/// behind the cone adds. Empty: no board or no speaker, or silent.
std::optional<LoudnessFigure> loudness_of(const job::Job& job, const catalogue::Catalogue& parts,
                                          Volt supply, double cavity_dB);

} // namespace conductus::power
