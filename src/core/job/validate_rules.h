// SPDX-License-Identifier: GPL-3.0-or-later
// Parts of validate(), a file each.
#pragma once

#include <fmt/format.h>
#include <set>
#include <string>

#include "core/base/problem.h"
#include "core/job/job.h"

namespace conductus::job {

/// Each has a name, and no two the same. `at`: where the list is, as "/looks".
template <class List>
Result<void> names_unique(const List& list, const std::string& at) {
    std::set<std::string> names;
    for (std::size_t i = 0; i < list.size(); ++i)
        if (list[i].name.empty() || !names.insert(list[i].name).second)
            return problem(fmt::format("{}/{}/name", at, i),
                           list[i].name.empty() ? "the name is empty"
                                                : say("the name '{}' is used twice", list[i].name),
                           "Give each a name of its own");
    return {};
}

/// Every field of the job within its limits (limits.h, fields.h).
Result<void> check_limits(const Job& job);

/// Joints, screws, openings and socket.
Result<void> check_survey(const Hilt& hilt);

/// States, commands and their triggers.
Result<void> check_handling(const Job& job);

/// Brief, answers to findings, inspection, log and milestones.
Result<void> check_papers(const Job& job);

} // namespace conductus::job
