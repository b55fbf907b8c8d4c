// SPDX-License-Identifier: GPL-3.0-or-later
// Presets as they were found, as the owner asks for them, and as they are now.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::job {

/// What became of one preset.
struct PresetChange {
    std::string name;      ///< as it is now; of one that is gone, as it was
    std::size_t now = 0;   ///< its place in the order of the board, from 1; 0: it is gone
    std::size_t found = 0; ///< the same as it was found; 0: it was not there
    std::size_t asked = 0; ///< line of what is asked, from 1; 0: it is not in that list
    bool added = false, gone = false;
    bool moved = false; ///< its order among those that stayed is another
    bool recoloured = false, mended = false, renamed = false;
    std::vector<Message> lines;      ///< "look: blue, steady → Signal lamp"
    std::vector<std::string> wishes; ///< of the owner that it ties to, in their words
    [[nodiscard]] bool untouched() const {
        return !added && !gone && !moved && !recoloured && !mended && !renamed;
    }
};

/// "added", "moved, recoloured", "untouched".
Message label(const PresetChange& change);

/// Of every preset there is now, in the order of the board, and behind them those that are gone.
/// Nothing was found: every one is added. A look is another where its name, in whatever case, is
/// not in the words of the look that was found; font and tracks are mended where they differ.
std::vector<PresetChange> preset_changes(const Job& job);

/// The presets as they are now, written down as those that were found, in place of what was there.
Edit write_down_as_found();
/// Presets as somebody told them, behind those that are there: as found, or as asked for.
Edit take_told(std::vector<PresetTold> told, bool asked);

/// What is asked for and is not so: a preset that is missing, in another place, with another look,
/// font or track.
struct NotAsAsked {
    std::string preset; ///< as it is asked for
    std::string kind;   ///< "missing", "order", "look", "font", "tracks"
    Message text;
};
std::vector<NotAsAsked> not_as_asked(const Job& job);

/// The change list as it is printed and given to the owner: lines of text.
std::vector<Message> change_list(const Job& job);

} // namespace conductus::job
