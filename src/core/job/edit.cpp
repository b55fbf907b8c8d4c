// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/edit.h"

#include <algorithm>
#include <set>
#include <string_view>

#include "core/job/mating.h"
#include "core/job/presets.h"
#include "core/job/trigger.h"

namespace conductus::job {

Result<void> Edit::operator()(Job& job) const {
    if (!change_) return {};
    const HandlingNames before = handling_names(job);
    if (auto ok = change_(job); !ok) return ok;
    forget_lost_mates(job);
    forget_lost_presets(job);
    forget_lost_states(job, before);
    if (job.soldered.empty()) return {};
    std::set<std::string_view> wires;
    for (const Wire& wire : job.wires)
        wires.insert(wire.ref);
    std::erase_if(job.soldered, [&](const Soldered& s) { return !wires.contains(s.wire); });
    return {};
}

Edit refused(Problem why) {
    return [why = std::move(why)](Job&) -> Result<void> { return tl::unexpected(why); };
}

Edit beside_the_job(std::function<Result<void>()> change) {
    return [change = std::move(change)](Job&) { return change(); };
}

Edit all_of(std::vector<Edit> edits) {
    return [edits = std::move(edits)](Job& job) -> Result<void> {
        for (const Edit& edit : edits)
            if (auto ok = edit(job); !ok) return ok;
        return {};
    };
}

} // namespace conductus::job
