// SPDX-License-Identifier: GPL-3.0-or-later
// What changed between two jobs, in the craft's words.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

struct Change {
    enum class Kind { changed, added, removed, moved };
    Kind kind = Kind::changed;
    std::string path; ///< "/parts/B1/type": keys of the file, list elements by what they are called
    std::string before, after; ///< of values
    Message text;              ///< "cell B1: 18350 cell, 1100 mAh → 18650 power cell, 3000 mAh"
};
constexpr const char* word(Change::Kind kind) {
    constexpr const char* words[] = {"changed", "added", "removed", "moved"};
    return words[static_cast<int>(kind)];
}

/// Every field that differs, and nothing else. An element of a list that was renamed is one change;
/// lists whose elements changed places are named once. Empty where the jobs are equal.
std::vector<Change> changes(const Job& before, const Job& after, const catalogue::Catalogue& parts);

} // namespace conductus::job
