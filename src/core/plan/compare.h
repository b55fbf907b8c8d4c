// SPDX-License-Identifier: GPL-3.0-or-later
// Two plans of one job side by side: what was changed, and what came of it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/job/diff.h"
#include "core/plan/plan.h"

namespace conductus::plan {

struct FigureChange {
    std::string id, unit;
    std::optional<double> before, after;
    std::string text; ///< "clean runtime 31 → 88 min"
};

struct Comparison {
    std::vector<job::Change> changes;
    std::vector<FigureChange> figures; ///< those whose shown value differs
    std::vector<std::string>
        agreements; ///< "agreement 2 now holds", "agreement 1 is now broken: …"
    std::vector<std::string> findings; ///< "closed: …", "new: …"
    [[nodiscard]] bool empty() const {
        return changes.empty() && figures.empty() && agreements.empty() && findings.empty();
    }
    /// All of it, a line each.
    [[nodiscard]] std::vector<std::string> lines() const;
};

Comparison compare(const Plan& before, const Plan& after);

} // namespace conductus::plan
