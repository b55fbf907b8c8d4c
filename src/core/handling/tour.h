// SPDX-License-Identifier: GPL-3.0-or-later
// The shortest walk through the states of a hilt that tries every command once: the bench test, and
// the rehearsal.
#pragma once

#include <string>
#include <vector>

#include "core/job/job.h"

namespace conductus::handling {

struct TourStep {
    enum class Kind { command, wait, blade, restart };
    Kind kind = Kind::command;
    std::size_t command = 0; ///< index into the commands, of a command
    bool first = false;      ///< the command is tried here for the first time
    std::string from, to;    ///< names of states
    std::string preset;      ///< that is shown then; empty: it does not matter
    bool blade_in = true;    ///< then, after the step
};

struct Tour {
    std::vector<TourStep> steps;
    int cost = 0;         ///< steps; a restart counts as five
    int least = 0;        ///< no walk can cost less, as the flows of the search prove
    bool shortest = true; ///< proved to be the shortest of all; else only no longer than it is
    std::vector<std::size_t> left_out; ///< commands in states that are not reached
};

/// Begins in the first state, ends anywhere. A base command is tried in the first preset, an
/// exception in its own; a step waits for a limit, draws or puts in the blade, or starts again.
/// A directed rural postman: arcs that are missed are added by a least-cost flow; what is not
/// joined then is joined by trying each arc into it, best first.
Tour shortest_tour(const job::Job& job);

} // namespace conductus::handling
