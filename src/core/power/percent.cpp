// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/percent.h"

#include <algorithm>
#include <cmath>

#include "core/base/format.h"

namespace conductus::power {

int Percent::change_below() const {
    return std::clamp(static_cast<int>(std::ceil(gauge * 100 - 1e-6)), 0, 100);
}

Percent percent_of(const std::string& look, const Discharge& run) {
    Percent p;
    p.look = look;
    p.clean = run.clean();
    p.at_once = !(p.clean > Minute(0));
    if (run.crackle && *run.crackle <= run.off) p.crackle = run.clean_charge;
    p.gauge = run.gauge;
    return p;
}

Result<Percent> percent_in(const job::Job& job, const catalogue::Catalogue& parts,
                           const std::string& look) {
    job::Use use = job.use;
    use.look = look;
    use.preset.clear();
    const auto loads = loads_of(job, parts, use, Wanted::worst);
    if (!loads) return tl::unexpected(loads.error());
    return percent_of(look, run_down(**loads));
}

Result<std::vector<Percent>> percents(const job::Job& job, const catalogue::Catalogue& parts,
                                      const ParallelFor& parallel_for) {
    std::vector<Result<Percent>> each(job.looks.size());
    parallel_for(each.size(),
                 [&](std::size_t i) { each[i] = percent_in(job, parts, job.looks[i].name); });
    std::vector<Percent> all;
    for (auto& one : each) {
        if (!one) return tl::unexpected(one.error());
        all.push_back(std::move(*one));
    }
    return all;
}

Message advice(const std::vector<Percent>& percents) {
    std::vector<Message> each;
    for (const Percent& p : percents)
        if (p.crackle && !p.at_once)
            each.push_back(say("{}\u202f% with {}", p.change_below(), p.look));
    if (each.empty()) return {};
    return say("Change the cell below {}", joined(each, ", "));
}

} // namespace conductus::power
