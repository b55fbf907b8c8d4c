// SPDX-License-Identifier: GPL-3.0-or-later
// What ways of building differ in: chassis, contacts, copper, cells, access, fit, cost. Two jobs'
// marks stand side by side; docs/models.md, "Ways of building".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/plan/plan.h"

namespace conductus::plan {

struct BuildMark {
    Message label;
    std::string shown;           ///< empty: not known
    std::optional<double> value; ///< nothing: it is words
    int better = 0;              ///< 1: more is better, −1: less is, 0: neither
};

/// Always the same marks, in the same order.
std::vector<BuildMark> build_marks(const Plan& plan);

/// The school of the chassis: of the carriers where such are surveyed, else as it is said.
job::Chassis chassis_of(const job::Hilt& hilt);

} // namespace conductus::plan
