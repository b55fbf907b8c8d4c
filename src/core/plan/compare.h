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
    Message text; ///< "clean runtime 31 → 88 min"
};

struct AgreementChange {
    bool holds = false; ///< now
    Message text;       ///< "agreement 2 now holds", "agreement 1 is now broken: …"
};

struct Comparison {
    std::vector<job::Change> changes;
    std::vector<FigureChange> figures; ///< those whose shown value differs
    std::vector<AgreementChange> agreements;
    std::vector<Message> findings; ///< "closed: …", "new: …"
    [[nodiscard]] bool empty() const {
        return changes.empty() && figures.empty() && agreements.empty() && findings.empty();
    }
    /// All of it, a line each.
    [[nodiscard]] std::vector<Message> lines() const;
};

Comparison compare(const Plan& before, const Plan& after);

} // namespace conductus::plan
