// SPDX-License-Identifier: GPL-3.0-or-later
// Triggers of commands in words, and edits of the map of commands.
#pragma once

#include <set>
#include <string>
#include <string_view>

#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::job {

/// "S1", "S1 twice", "S1 held 1 s", "S1 then S2", "S1 with twist left", "swing, blade down". What
/// can not be done yet is empty: "".
std::string trigger_text(const Trigger& trigger);

/// Reads the same, in any case; buttons are whatever words stand for none of it. Refused: nothing
/// at all, or words that make no trigger.
Result<Trigger> read_trigger(std::string_view typed);

/// The trigger of a command of the job as it is typed: "S1 twice". Refused: as read_trigger().
Edit set_trigger(std::size_t command, std::string typed);

/// The state of a command and where it leads, as "lit > idle"; of one that stays, as "lit".
std::string way_text(const Command& command);
/// The same typed. Refused: no state, or one that there is not.
Edit set_way(std::size_t command, std::string typed);

/// Whether a person could do that: a button or a motion, and what a hold or a chord needs.
Result<void> check_trigger(const Trigger& trigger, const std::string& at);

/// Names that commands go by.
struct HandlingNames {
    std::set<std::string> states, presets;
};
HandlingNames handling_names(const Job& job);

/// Takes out commands of states and presets that were there `before` and are not any more; what led
/// to such a state stays where it is.
void forget_lost_states(Job& job, const HandlingNames& before);

} // namespace conductus::job
