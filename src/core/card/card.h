// SPDX-License-Identifier: GPL-3.0-or-later
// A memory card as it was read: files, folders, and how the sounds on it measure.
#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::card {

/// A file that is played. Shares are of full scale.
struct Sound {
    Message trouble;    ///< why it can not be read; empty: it can
    std::string format; ///< "WAV, 16 bit"
    bool plain = true;  ///< WAV with whole-number samples, not compressed
    int rate = 0;       ///< samples a second
    int channels = 0;
    int bits = 0;
    double seconds = 0;
    double peak = 0;          ///< largest sample
    std::int64_t clipped = 0; ///< samples in runs of three or more at full scale
    double loudest = 0;       ///< RMS of the loudest half second
    double power = 0;         ///< mean square of all
    std::vector<float>
        envelope; ///< the largest sample of each of its stretches, which are alike long
};

struct File {
    std::string path; ///< from the top of the card, with slashes
    std::uint64_t bytes = 0;
    std::string hash;
    std::optional<Sound> sound; ///< empty: no sound by its name
};

struct Card {
    std::vector<File> files;                ///< in the order of their paths
    std::vector<std::string> folders;       ///< the same
    std::map<std::string, double> loudness; ///< LUFS of each font's folder and each track, by path
    std::uint64_t used = 0, free = 0;       ///< bytes
};

/// What the board expects where. The board's part says it.
struct Layout {
    std::string fonts_in;  ///< folder; empty: the top of the card
    std::string tracks_in; ///< folder; empty: the font's folder, or the top of the card
    const catalogue::Board* board = nullptr; ///< null: no board is fitted
};
Layout layout_of(const job::Job& job, const catalogue::Catalogue& parts);

/// The folder of a font from the top of the card.
std::string font_folder(const Layout& layout, const std::string& font);

/// What is measured together with that file: the folder of its font, or the file itself where it
/// is a track or lies beside the fonts.
std::string measured_with(const Layout& layout, const std::string& path);

/// Whether the name ends as those of sounds do: .wav and others.
bool is_sound(const std::string& path);

/// A file that stands on a card while it is being prepared, so that nothing half written looks
/// whole.
inline constexpr const char* unfinished_mark = "NOT-FINISHED.txt";
/// The end of the name of a file that is being written.
inline constexpr const char* part_ending = ".conductus-part";

/// The files of the card as the job keeps them.
std::vector<job::CardFile> manifest_of(const Card& card);

/// Plans with sounds as they measured; empty: as before any card was read.
job::Edit plan_with_sounds(std::vector<job::FontSound> fonts);
/// Keeps what is on the card, as it is compared when it comes back.
job::Edit keep_manifest(std::vector<job::CardFile> files, std::string on);
/// A difference from the kept card is meant for a reason; without one it is not any more.
job::Edit mean_difference(std::string path, std::string why);

/// The sounds of every font of the presets that is on the card, as the plan goes by them.
std::vector<job::FontSound> sounds_of(const job::Job& job, const catalogue::Catalogue& parts,
                                      const Card& card);

} // namespace conductus::card
