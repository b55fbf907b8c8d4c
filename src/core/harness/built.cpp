// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/built.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/job/lookup.h"
#include "core/job/terminals.h"

namespace conductus::harness {

AsBuilt as_built(const job::Job& job, const catalogue::Catalogue& parts) {
    const auto terminals = job::terminals_of(job, parts);
    AsBuilt built;
    for (const job::Wire& w : job.built) {
        std::string lost;
        for (const std::string* end : {&w.from, &w.to}) {
            const auto [ref, name] = job::split_terminal(*end);
            const auto owner = terminals.find(ref);
            if (owner == terminals.end() ||
                std::find(owner->second.begin(), owner->second.end(), name) == owner->second.end())
                lost = *end;
        }
        if (lost.empty())
            built.wires.push_back(w);
        else
            built.left_out.push_back(say("{}: {} is no longer there", w.ref, lost));
    }
    return built;
}

job::Edit plan_as_built(const catalogue::Catalogue& parts) {
    return [&parts](job::Job& job) { return job::take_wires(as_built(job, parts).wires)(job); };
}

} // namespace conductus::harness
