// SPDX-License-Identifier: GPL-3.0-or-later
// The memory card of the board as it was last read: what was on it and how its sounds measure.
#pragma once

#include <string>
#include <vector>

#include "core/job/limits.h"

namespace conductus::job {

/// How the sounds of a font measure together. Shares are of full scale, a full square wave being 1.
struct FontSound {
    std::string font;    ///< name of its folder
    double peak = 1;     ///< largest sample
    double loudest = 0;  ///< RMS of the loudest half second
    double mean = 0;     ///< RMS of all
    double loudness = 0; ///< LUFS
    bool operator==(const FontSound&) const = default;
};

struct CardFile {
    std::string path; ///< from the top of the card, with slashes
    double bytes = 0;
    std::string hash; ///< files::content_id of its content
    bool operator==(const CardFile&) const = default;
};

/// A card has more files than a hilt has parts.
template <>
inline constexpr std::size_t limits::longest<CardFile> = 5000;

/// A difference from another card that is meant.
struct MeantDifference {
    std::string path;
    std::string why;
    bool operator==(const MeantDifference&) const = default;
};

struct Card {
    std::string on;               ///< ISO date it was read; empty: never
    std::vector<FontSound> fonts; ///< that the plan goes by
    std::vector<CardFile> files;  ///< in the order of their paths
    std::vector<MeantDifference> meant;
    bool operator==(const Card&) const = default;
};

/// A preset in somebody's words: as it was found, or as the owner asks for it.
struct PresetTold {
    std::string name, font;
    std::string look; ///< "blue, steady"
    std::string tracks;
    std::string note; ///< "the swing crackles"
    bool operator==(const PresetTold&) const = default;
};

} // namespace conductus::job
