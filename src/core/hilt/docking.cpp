// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/docking.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr Millimetre near_by(15); ///< contacts this near to a joint close with it

/// Sections that are narrower than both their neighbours.
std::vector<std::size_t> rings(const job::Hilt& hilt) {
    std::vector<std::size_t> found;
    for (std::size_t i = 1; i + 1 < hilt.sections.size(); ++i) {
        const auto& s = hilt.sections;
        const Millimetre own = std::max(s[i].bore, s[i].bore_end.value_or(s[i].bore));
        if (own < bore_at(s[i - 1], s[i - 1].to) && own < s[i + 1].bore) found.push_back(i);
    }
    return found;
}

} // namespace

Docking docking(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit) {
    Docking result;
    for (const PlacedBody& b : fit.bodies) {
        const job::Part* part = job::find_ref(job.parts, b.ref);
        const auto* c = part ? parts.find_as<catalogue::Connector>(part->type) : nullptr;
        if (!c) continue;
        for (const job::Joint& j : job.hilt.joints)
            if (j.kind == job::JointKind::thread && j.pitch > Millimetre(0) &&
                c->travel > Millimetre(0) &&
                std::min(std::abs((j.at - b.from).value()), std::abs((j.at - b.to).value())) <=
                    near_by.value()) {
                const double turns = j.engaged / j.pitch;
                result.turns.push_back(
                    {b.ref, j.name, turns, std::max(0.0, turns - c->travel / j.pitch)});
            }
        if (c->pitch <= Millimetre(0)) continue;
        for (const Rider& r : riders(job.hilt, fit.bodies)) {
            if (!r.carrier || r.kind == job::CarrierKind::fixed) continue;
            const Passing* way = nullptr;
            for (const Passing& p : fit.passes)
                if (p.carrier == r.ref) way = &p;
            if (!way || !way->reason.empty() || b.carrier == r.ref) continue;
            // The end that goes in first meets the contacts.
            const Millimetre first = way->from_pommel ? r.to : r.from;
            const Millimetre gap = way->from_pommel ? b.from - first : first - b.to;
            if (std::abs(gap.value()) > near_by.value()) continue;
            for (const std::size_t i : rings(job.hilt)) {
                const job::BoreSection& ring = job.hilt.sections[i];
                const Millimetre beyond = way->from_pommel ? first - ring.to : ring.from - first;
                // Home or not, it is the ring it lies in that guides it.
                if (beyond <= Millimetre(0) || ring.to <= r.from || ring.from >= r.to) continue;
                Millimetre need(0);
                for (const std::size_t k : r.bodies)
                    need = std::max(need, fit.bodies[k].need);
                const Millimetre play = ring.bore - need;
                if (play <= Millimetre(0)) continue;
                const Millimetre leaning = play / 2 + beyond * (play / (ring.to - ring.from));
                // No farther than the bore lets its end go.
                const Millimetre end =
                    narrowest(job.hilt.sections, first - Millimetre(1), first + Millimetre(1)).bore;
                const Millimetre aside = std::min(leaning, (end - need) / 2);
                result.leans.push_back(
                    {r.ref, b.ref, ring.name, ring.from, aside, c->pitch, way->from_pommel});
            }
        }
    }
    return result;
}

} // namespace conductus::hilt
