// SPDX-License-Identifier: GPL-3.0-or-later
// What can be proved of a map of commands: which can be meant by one input, which answer late,
// which nothing reaches, which are one slip apart.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "core/handling/gestures.h"
#include "core/job/job.h"

namespace conductus::handling {

/// Lateness that a person notices, s.
inline constexpr double noticed_s = 0.25;

/// Two commands that one input means alike; indices into the commands of the map, the lower first.
struct Conflict {
    std::size_t one = 0, other = 0;
    Circumstance when; ///< one of those in which it is so
};

/// Those of which neither goes before the other, nor anything else before both, in any state and
/// circumstance.
std::vector<Conflict> conflicts(const job::Handling& map);

/// Circumstances that the map tells apart: attitudes, blade in and out, presets with exceptions.
std::vector<Circumstance> circumstances(const job::Handling& map);

struct Late {
    std::size_t command = 0;
    double seconds = 0; ///< the longest, of all circumstances it is understood in
};
/// Commands that answer late because others begin alike, in the order of the map.
std::vector<Late> late(const job::Handling& map);

/// Commands that are never understood, for others go before them wherever they would be.
std::vector<std::size_t> masked(const job::Handling& map);

/// Names of the states that are reached from the first, by commands or by waiting.
std::set<std::string> reached(const job::Handling& map);

/// Names of states that are reached and never left, but for one that is off.
std::vector<std::string> without_way_out(const job::Handling& map);

enum class Slip { mirrored, held_too_long };
/// Two commands of one state that a person takes for each other where that does harm.
struct Neighbours {
    std::size_t one = 0, other = 0;
    Slip slip = Slip::mirrored;
};
/// Chords of the same buttons in another order; and a press beside a short hold of the same button
/// where one of the two puts the blade out, changes the preset, mutes, sleeps or goes into a menu.
std::vector<Neighbours> slips(const job::Handling& map);

/// What a person may ask for and no command gives.
struct Unreached {
    enum class Kind { effect, preset, wish };
    Kind kind = Kind::effect;
    std::string name;
};
/// Effects that the person asks for (a clash is felt; lighting up and putting out have commands of
/// their own), presets where nothing steps through them, wishes for a look that can not be shown.
std::vector<Unreached> unreached(const job::Job& job);

} // namespace conductus::handling
