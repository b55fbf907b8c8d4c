// SPDX-License-Identifier: GPL-3.0-or-later
// Cards that are made up: sounds of tones and noise, fonts and tracks as a board expects them.
#pragma once

#include <filesystem>
#include <functional>
#include <string>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::test {

/// A tone that is written as a file.
struct Tone {
    double seconds = 0.5;
    double hertz = 440;
    double peak = 0.4; ///< share of full scale; above 1 it is clipped
    int rate = 22050, channels = 1, bits = 16;
    double noise = 0; ///< share of its peak
    unsigned seed = 1;
    bool flac = false; ///< in place of WAV
};
void write_tone(const std::filesystem::path& file, const Tone& tone);

/// Samples of one channel, from a function of time in seconds.
void write_sound(const std::filesystem::path& file, double seconds, int rate, int channels,
                 int bits, const std::function<double(double t)>& of_time);

/// A card that has every font and track of the job's presets, as its board wants them.
void make_card(const std::filesystem::path& folder, const job::Job& job,
               const catalogue::Catalogue& parts);

} // namespace conductus::test
