// SPDX-License-Identifier: GPL-3.0-or-later
// Prepares a memory card for the presets of a job: what is to be copied, and copying it so that a
// card that was pulled or full never looks whole.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

#include "core/card/card.h"
#include "core/card/check.h"
#include "files/card_reader.h"

namespace conductus::files {

/// One file that the presets need on the card.
struct CardCopy {
    std::string from, to; ///< paths within the source and the card
    std::uint64_t bytes = 0;
    bool there = false; ///< with the same content: it is not copied again
};

struct CardPlan {
    std::vector<CardCopy> files;
    std::vector<card::Trouble> troubles; ///< that keep it from being prepared
    std::uint64_t to_copy = 0, free = 0; ///< bytes
    std::size_t others = 0;              ///< files on the card that are left alone
};

/// What preparing the card would do; nothing is changed. `from`: a folder with fonts and tracks,
/// laid out as the card is or with them at its top. `to`: an empty folder, a card, or one that was
/// begun. Troubles: what the source lacks, files of the same names with another content, too little
/// room. Error: a folder that is not there, or one that lies within the other.
Result<CardPlan> plan_card(const job::Job& job, const catalogue::Catalogue& parts,
                           const std::filesystem::path& from, const std::filesystem::path& to);

/// Copies what the plan has, reads every file back and compares it. Nothing else on the card is
/// touched. While it runs, and after it stopped or failed, a file on the card says that it is not
/// finished; going on later copies only what is missing. Returns how many files were copied.
/// Error: the plan has troubles; the card is full, went away, or gives back other bytes than were
/// written; it was stopped.
Result<std::size_t> prepare_card(const CardPlan& plan, const std::filesystem::path& from,
                                 const std::filesystem::path& to, const CardWatch& watch = {});

} // namespace conductus::files
