// SPDX-License-Identifier: GPL-3.0-or-later
// What a list of choices says: which are best, what is given up, ways to a wanted runtime.
#pragma once

#include "core/plan/choices.h"

namespace conductus::plan {

/// Marks those that no other is better than in one thing without being worse in another.
void mark_best(std::vector<Choice>& all);

/// On each count what most would be had with one change, or where none helps, with two.
void give_up(Choices& choices);

/// Ways to the clean runtime the use asks for: dimmer; one thing changed; a cell that is too wide,
/// with what would have to go.
void reach(const Plan& plan, Choices& choices);

} // namespace conductus::plan
