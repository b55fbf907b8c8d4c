// SPDX-License-Identifier: GPL-3.0-or-later
// What other places of cells and kill make of the wires.
#pragma once

#include <map>
#include <string>

#include "core/plan/plan.h"

namespace conductus::plan {

/// Wires as ohms that all of the pack's current would pass: each counts by the square of its share
/// of that current, as it is in the plan's first look. Of wires in a row that is exact.
class Leads {
public:
    /// Of a plan without trouble.
    explicit Leads(const Plan& plan);
    /// Of the same wires where parts are changed or moved.
    [[nodiscard]] double ohms(const job::Job& with) const;
    /// Some length follows from its route.
    [[nodiscard]] bool follow() const { return follow_; }

private:
    const catalogue::Catalogue& parts_;
    std::map<std::string, double, std::less<>> weight_; ///< by ref
    bool follow_ = false;
};

} // namespace conductus::plan
