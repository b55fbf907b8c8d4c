// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choice_candidates.h"

#include <algorithm>

#include "core/circuit/solver.h"
#include "core/power/luminance.h"
#include "core/power/state.h"

namespace conductus::plan {

using catalogue::Catalogue;
using job::Job;

double price_of(const Catalogue& parts, const std::string& id) {
    const auto* type = parts.find(id);
    return type ? type->price : 0;
}

double mass_of(const Catalogue& parts, const std::string& id) {
    const auto* type = parts.find(id);
    return type ? type->mass.value() : 0;
}

Millimetre tightest_of_the_rest(const Plan& plan) {
    Millimetre least(INFINITY);
    for (const hilt::Clearance& c : plan.fit.clearances) {
        const job::Part* part = job::find_ref(plan.job->parts, c.ref);
        if (!part) continue;
        const auto& f = plan.parts->find(part->type)->figures;
        if (std::holds_alternative<catalogue::Cell>(f) ||
            std::holds_alternative<catalogue::Speaker>(f) ||
            std::holds_alternative<catalogue::Kill>(f))
            continue;
        least = std::min(least, c.spare);
    }
    return least;
}

} // namespace conductus::plan
