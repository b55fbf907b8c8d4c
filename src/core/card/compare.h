// SPDX-License-Identifier: GPL-3.0-or-later
// Two cards line by line: one that comes back, or an old one beside that of a new board.
#pragma once

#include <string>
#include <vector>

#include "core/job/card.h"

namespace conductus::card {

enum class Became { same, changed, moved, gone, added };
const char* word(Became became);

/// One file of either card.
struct CardLine {
    std::string path; ///< on the new card; of one that is gone on the old one
    std::string was;  ///< of one that was moved: its path on the old one
    Became became = Became::same;
    std::string meant; ///< why the difference is meant; empty: it is not, or there is none
};

/// In the order of the paths. A file is moved where one of the same content is gone elsewhere.
/// `meant` may name a file, or a folder for all that is in it.
std::vector<CardLine> compare(const std::vector<job::CardFile>& was,
                              const std::vector<job::CardFile>& now,
                              const std::vector<job::MeantDifference>& meant);

} // namespace conductus::card
