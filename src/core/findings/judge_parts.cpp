// SPDX-License-Identifier: GPL-3.0-or-later
// Parts of the shop's own that were changed since the job was planned.
#include <set>

#include "core/catalogue/deciding.h"
#include "core/findings/facts.h"

namespace conductus::findings {
namespace {

job::Edit plan_with(std::string type, std::string definition, bool take) {
    return [=](job::Job& job) {
        for (job::PlannedWith& p : job.planned_with) {
            if (p.type != type) continue;
            if (take)
                p.definition = definition, p.passed_over.clear();
            else
                p.passed_over = definition;
        }
    };
}

} // namespace

void judge_parts(const Facts& f, std::vector<Finding>& out) {
    for (const job::PlannedWith& p : f.job->planned_with) {
        const auto* newer = f.parts->newer(p.type);
        const auto* planned = f.parts->find(p.type);
        if (!newer || !planned) continue;
        std::vector<std::string> where;
        for (const job::Part& part : f.job->parts)
            if (part.type == p.type) where.push_back(part.ref);
        for (const job::Blade& blade : f.job->blades)
            for (const job::Strip& strip : blade.strips)
                if (strip.type == p.type) where.push_back(strip.ref);
        const std::string was = catalogue::deciding_text(*planned),
                          now = catalogue::deciding_text(newer->type);
        out.push_back(
            {.id = "part.changed",
             .severity = Severity::note,
             .station = Station::hilt,
             .where = where,
             .text = say("{} has been changed since this job was planned", planned->name),
             .detail = was == now
                           ? Message("Its body, its mass or a lesser figure is another now. The "
                                     "job keeps the figures it was planned with")
                           : say("Planned with {}; now {}. The job keeps the figures it was "
                                 "planned with",
                                 was, now),
             .evidence = {},
             .fix = Fix{"plan with it as it is now", plan_with(p.type, newer->definition, true)},
             .other = Fix{"stay with it as it was planned",
                          plan_with(p.type, newer->definition, false)}});
    }
}

} // namespace conductus::findings
