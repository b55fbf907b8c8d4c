// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/handled.h"

#include "core/job/lookup.h"
#include "core/job/trigger.h"

namespace conductus::plan {

Handled handled(const job::Job& job, const catalogue::Catalogue& parts) {
    Handled h;
    h.buttons = handling::hand_buttons(job, parts);
    if (job.handling.commands.empty()) return h;
    h.conflicts = handling::conflicts(job.handling);
    h.late = handling::late(job.handling);
    h.masked = handling::masked(job.handling);
    h.unreached = handling::unreached(job);
    h.tour = handling::shortest_tour(job);
    return h;
}

std::string told_trigger(const job::Trigger& trigger,
                         const std::vector<handling::HandButton>& buttons) {
    job::Trigger lettered = trigger;
    for (job::TriggerButton& b : lettered.buttons)
        if (const auto* known = job::find_ref(buttons, b.button)) b.button = known->letter;
    return job::trigger_text(lettered);
}

} // namespace conductus::plan
