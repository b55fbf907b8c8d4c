// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/plan.h"

namespace conductus::plan {

bool Plan::judged(findings::Station station) const {
    using findings::Station;
    switch (station) {
    case Station::brief:
        return !job->brief.wishes.empty() || !job->brief.agreements.empty() ||
               !job->brief.blades.empty();
    case Station::hilt:
        return !job->hilt.sections.empty() && !job->parts.empty();
    case Station::lights:
    case Station::power:
        return !trouble;
    case Station::harness:
        return !trouble && !job->wires.empty();
    case Station::handling:
        return !job->handling.commands.empty();
    case Station::bench:
    case Station::handover:
        return false; // no rule looks at these yet
    }
    return false;
}

} // namespace conductus::plan
