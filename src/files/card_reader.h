// SPDX-License-Identifier: GPL-3.0-or-later
// Reads a memory card that is mounted, or a copy of one in a folder: what is on it, and how its
// sounds measure. Sounds are read by libsndfile, loudness is of libebur128.
#pragma once

#include <cstdint>
#include <filesystem>
#include <functional>

#include "core/base/parallel_for.h"
#include "core/base/problem.h"
#include "core/card/card.h"

namespace conductus::files {

struct CardProgress {
    std::size_t files = 0, of_files = 0;
    std::uint64_t bytes = 0, of_bytes = 0;
};
/// Is called now and then, from whichever thread is at work. False: stop.
using CardWatch = std::function<bool(const CardProgress&)>;

/// Files and folders whose names begin with a dot are passed over, links are not followed. Error:
/// there is no such folder, it can not be read or went away in the middle, more than 20 000 files,
/// or it was stopped (Cause::stopped). A file that can not be read is told in its sound, or has an
/// empty hash.
Result<card::Card> read_card(const std::filesystem::path& folder, const card::Layout& layout,
                             const ParallelFor& parallel_for = one_by_one,
                             const CardWatch& watch = {});

/// What measures of one sound there are. Loudness is LUFS, -200: silent.
struct MeasuredSound {
    card::Sound sound;
    double loudness = -200;
};
MeasuredSound measure_sound(const std::filesystem::path& file);

/// The hash of a file's bytes as content_id() has it, read a piece at a time.
Result<std::string> hash_of_file(const std::filesystem::path& file);

} // namespace conductus::files
