// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/date.h"
#include "core/job/limits.h"
#include "core/job/validate_rules.h"

namespace conductus::job {
namespace {

Result<void> dated(const std::string& on, const std::string& where, bool may_be_empty) {
    if ((on.empty() && may_be_empty) || is_date(on)) return {};
    return problem(where, say("'{}' is not a date", on), "Write it like 2027-03-12");
}

Result<void> check_inspected(const Inspected& item, const std::string& at) {
    if (item.item.empty())
        return problem(at + "/item", "the item has no name", "Say what was inspected");
    if (item.pictures.size() > limits::pictures_each)
        return problem(at + "/pictures", say("{} pictures of one item", item.pictures.size()),
                       say("Keep the best {}", limits::pictures_each));
    for (std::size_t i = 0; i < item.pictures.size(); ++i)
        if (item.pictures[i].id.empty())
            return problem(fmt::format("{}/pictures/{}/id", at, i), "the picture has no id",
                           "Drop the picture again");
    return {};
}

} // namespace

Result<void> check_papers(const Job& job) {
    for (std::size_t i = 0; i < job.brief.wishes.size(); ++i)
        if (job.brief.wishes[i].text.empty())
            return problem(fmt::format("/brief/wishes/{}/text", i), "the wish says nothing",
                           "Write what the owner wants");
    for (std::size_t i = 0; i < job.brief.agreements.size(); ++i) {
        const Agreement& a = job.brief.agreements[i];
        const std::string at = fmt::format("/brief/agreements/{}", i);
        if (a.measure.empty())
            return problem(at + "/measure", "the agreement names no figure",
                           "Name a figure or fact of the plan, like first-crackle");
        if (auto ok = dated(a.on, at + "/on", true); !ok) return ok;
    }
    for (std::size_t i = 0; i < job.inspection.size(); ++i)
        if (auto ok = check_inspected(job.inspection[i], fmt::format("/inspection/{}", i)); !ok)
            return ok;
    for (std::size_t i = 0; i < job.answered.size(); ++i) {
        const Answered& a = job.answered[i];
        const std::string at = fmt::format("/answered/{}", i);
        if (a.finding.empty())
            return problem(at + "/finding", "the answer names no finding",
                           "Name a rule, like blade.tip-dim");
        if (a.why.find_first_not_of(" \t\n") == std::string::npos)
            return problem(at + "/why", "the answer has no reason", "Say why it is accepted");
        if (auto ok = dated(a.on, at + "/on", false); !ok) return ok;
        for (std::size_t k = 0; k < i; ++k)
            if (job.answered[k].finding == a.finding && job.answered[k].about == a.about)
                return problem(at, say("{} of '{}' is answered twice", a.finding, a.about),
                               "Keep one of the answers");
    }
    for (std::size_t i = 0; i < job.plugs.size(); ++i)
        if (auto ok = dated(job.plugs[i].proved_on, fmt::format("/plugs/{}/proved_on", i), true);
            !ok)
            return ok;
    if (auto ok = dated(job.as_found.on, "/as_found/on", true); !ok) return ok;
    for (std::size_t i = 0; i < job.log.size(); ++i)
        if (auto ok = dated(job.log[i].on, fmt::format("/log/{}/on", i), false); !ok) return ok;
    for (std::size_t i = 0; i < job.milestones.size(); ++i)
        if (auto ok = dated(job.milestones[i].on, fmt::format("/milestones/{}/on", i), false); !ok)
            return ok;
    return {};
}

} // namespace conductus::job
