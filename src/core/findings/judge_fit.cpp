// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of what fits.
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

Message in_words(const hilt::Clearance& c, const job::Job& job) {
    const Millimetre by = -c.spare;
    if (c.spare >= Millimetre(0))
        return say("{} has {} to spare in {}", c.ref, text(c.spare), c.against);
    if (c.against == "end of the hilt")
        return say("{} sticks out of the hilt by {}", c.ref, text(by));
    if (c.on_the_way)
        return say("{} does not pass {} at {}, by {}", c.ref, c.against, text(c.at), text(by));
    if (job::find_ref(job.parts, c.against))
        return say("{} and {} are in each other's way by {} at {}", c.ref, c.against, text(by),
                   text(c.at));
    return say("{} is {} too wide for {} at {}", c.ref, text(by), c.against, text(c.at));
}

} // namespace

namespace {

/// Of what sits in the wall and reaches inward: bodies in the bore are told by their clearance.
void bodies_in_bodies(const Facts& f, std::vector<Finding>& out) {
    if (f.job->hilt.sections.empty()) return;
    const auto& bodies = f.fit.bodies;
    const auto in_wall = [&](const hilt::PlacedBody& b) {
        const job::Part* part = job::find_ref(f.job->parts, b.ref);
        return catalogue::kind_of(f.parts->find(part->type)->figures).stands ==
               catalogue::Stands::wall;
    };
    for (std::size_t i = 0; i < bodies.size(); ++i)
        for (std::size_t k = i + 1; k < bodies.size(); ++k) {
            const bool a = in_wall(bodies[i]), b = in_wall(bodies[k]);
            const auto counts = [&](const hilt::PlacedBody& body, bool wall) {
                return wall || body.in_bore;
            };
            if (!(a || b) || !counts(bodies[i], a) || !counts(bodies[k], b)) continue;
            if (!hilt::in_each_other(bodies[i], bodies[k])) continue;
            const Millimetre from = std::max(bodies[i].from, bodies[k].from),
                             to = std::min(bodies[i].to, bodies[k].to);
            out.push_back(
                {.id = "fit.body-in-body",
                 .severity = Severity::stop,
                 .station = Station::hilt,
                 .where = {a ? bodies[i].ref : bodies[k].ref, a ? bodies[k].ref : bodies[i].ref},
                 .text = say("{} and {} are in each other at {}", bodies[i].ref, bodies[k].ref,
                             text((from + to) / 2)),
                 .detail = "What sits in the wall reaches inward: move one of the two "
                           "along the hilt or round it.",
                 .evidence = {{"over", (to - from).value(), "mm"}},
                 .fix = {}});
        }
}

} // namespace

void judge_fit(const Facts& f, std::vector<Finding>& out) {
    bodies_in_bodies(f, out);
    std::vector<std::string> told;
    for (const hilt::Clearance& c : f.fit.clearances) {
        if (c.spare >= f.job->hilt.clearance) continue;
        if (!job::find_ref(f.fit.bodies, c.ref)) continue; // a carrier: see judge_hilt
        // Two parts in each other's way are one finding.
        if (std::find(told.begin(), told.end(), c.against + c.ref) != told.end()) continue;
        told.push_back(c.ref + c.against);
        const bool impossible = c.spare < Millimetre(0);
        Finding finding{.id = "fit.body-does-not-fit",
                        .severity = impossible ? Severity::stop : Severity::warn,
                        .station = Station::hilt,
                        .where = {c.ref, c.against},
                        .text = in_words(c, *f.job),
                        .detail = say("Wanted: {} on the diameter.", text(f.job->hilt.clearance)),
                        .evidence = {{"spare", c.spare.value(), "mm"},
                                     {"at", c.at.value(), "mm"},
                                     {"wanted", f.job->hilt.clearance.value(), "mm"}},
                        .fix = {}};
        const job::Part* part = job::find_ref(f.job->parts, c.ref);
        if (part && f.parts->find_as<catalogue::Cell>(part->type)) {
            // The largest cell that does fit.
            const hilt::CellTrial* best = nullptr;
            for (const hilt::CellTrial& t : f.cell_trials)
                if (t.trial.clearance.spare >= f.job->hilt.clearance &&
                    (!best || f.parts->find_as<catalogue::Cell>(t.type)->capacity >
                                  f.parts->find_as<catalogue::Cell>(best->type)->capacity))
                    best = &t;
            if (best)
                finding.fix = Fix{say("fit the {}", f.parts->find(best->type)->name),
                                  job::place_cells(best->type, best->adapter, best->at, *f.parts)};
        }
        out.push_back(std::move(finding));
    }
}

} // namespace conductus::findings
