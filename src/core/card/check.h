// SPDX-License-Identifier: GPL-3.0-or-later
// The presets of a job against a card: what is missing, what the board can not take, how loud it
// is. docs/models.md, "Card".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/card/card.h"

namespace conductus::card {

/// Fonts that are further apart than this are heard to be, LU.
inline constexpr double uneven_LU = 3;
/// Music is wanted this much below the font of its preset, and is told of where it is more above
/// that or below it, LU.
inline constexpr double music_below_LU = 3, music_off_LU = 6;

/// One thing that is wrong with a card, or worth knowing.
struct Trouble {
    std::string id; ///< stable: "card.font-missing"
    job::Gravity gravity = job::Gravity::note;
    std::string where; ///< a path on the card, a preset
    Message what;
    Message mend;
};

struct PresetOnCard {
    std::size_t order = 0; ///< from 1
    std::string name, font;
    Message state; ///< "ready", "font missing"
    bool ready = false;
};

/// Loudness of a font or a track.
struct Loudness {
    std::string name; ///< of the font or the track
    bool track = false;
    std::optional<double> lufs; ///< empty: silent
    double peak_dBFS = 0;       ///< of its largest sample; -200: silent
    std::optional<double> gain; ///< dB that even it with the others, without clipping
};

/// The gains that even them: all fonts meet at the middle one's loudness, or lower where one of
/// them would clip, and tracks below that.
void even_out(std::vector<Loudness>& all);

struct Checked {
    std::vector<PresetOnCard> presets;
    std::vector<Trouble> troubles; ///< the gravest first
    std::vector<Loudness> loudness;
    std::uint64_t used = 0, free = 0;
    [[nodiscard]] std::size_t count(job::Gravity gravity) const;
};

Checked check(const job::Job& job, const catalogue::Catalogue& parts, const Card& card);

} // namespace conductus::card
