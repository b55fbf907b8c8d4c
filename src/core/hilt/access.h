// SPDX-License-Identifier: GPL-3.0-or-later
// What has to come off to reach a thing: the second half of assembly().
#pragma once

#include <string>
#include <vector>

#include "core/hilt/assembly.h"
#include "core/hilt/passing.h"

namespace conductus::hilt {

/// What is handled as one: a rider, the cell of a fixed chassis, or a button in the wall.
struct Item {
    std::string ref;
    std::string title;
    Millimetre from, to;
    std::size_t piece = 0;
    bool ways[2] = {false, false}; ///< by the left end, by the right end of its piece
    bool button = false;
    bool left = true; ///< chosen
    bool carrier = false;
    std::string inside; ///< carrier of a cell that is handled by itself
};

/// Adds a key that is not noted yet.
void note_key(const std::string& key, std::vector<std::string>& keys);
/// The joint right there; null: there is none.
const job::Joint* joint_at(const job::Hilt& hilt, Millimetre at);
/// What a screw holds is a blade.
bool is_blade(const job::Job& job, const std::string& holds);

/// Cell, card, data port, kill and blade of the finished hilt, those that it has.
std::vector<Access> reach_everything(const job::Job& job, const catalogue::Catalogue& parts,
                                     const Fit& fit, const std::vector<Piece>& pieces,
                                     const std::vector<Item>& items);

} // namespace conductus::hilt
