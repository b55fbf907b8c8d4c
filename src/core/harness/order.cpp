// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/order.h"

#include <algorithm>
#include <fmt/format.h>
#include <tuple>

#include "core/job/lookup.h"

namespace conductus::harness {

std::vector<SolderStep> solder_order(const job::Job& job, const catalogue::Catalogue& parts,
                                     const Harness& harness) {
    const hilt::Router router(job, parts);
    const auto carriers = hilt::carriers_of(job.hilt);
    auto is_cell_plus = [&](const std::string& terminal) {
        const auto [ref, name] = job::split_terminal(terminal);
        const job::Part* part = job::find_ref(job.parts, ref);
        return part && name == "plus" && parts.find_as<catalogue::Cell>(part->type);
    };
    struct Place {
        std::tuple<int, int, double> key;
        SolderStep step;
    };
    std::vector<Place> places;
    for (const WireRow& w : harness.wires) {
        const auto a = router.spot(w.from), b = router.spot(w.to);
        const std::string ra = a ? a->rider : "", rb = b ? b->rider : "";
        SolderStep s;
        s.wire = w.ref;
        s.done = job::find_ref(job.wires, w.ref) &&
                 std::any_of(job.soldered.begin(), job.soldered.end(),
                             [&](const job::Soldered& t) { return t.wire == w.ref; });
        // Fine before thick: a hot iron on a thick wire loosens what is beside it.
        const int thick = w.role == job::Role::data || w.role == job::Role::button ? 0
                          : w.role == job::Role::sound                             ? 1
                          : w.role == job::Role::return_path                       ? 2
                                                                                   : 3;
        const double far = std::max(w.route.from, w.route.to).value();
        int stage = 1;
        if (is_cell_plus(w.from) || is_cell_plus(w.to)) {
            stage = 3;
            s.where = "last, with the cell out";
            s.why = "measure everything else first: from here on it is live";
        } else if (!w.route.docks.empty()) {
            s.where = "on the bench";
            s.why = say("cut by {}: each piece is soldered by itself", joined(w.route.docks, ", "));
        } else if (ra == rb && !ra.empty() && job::find_ref(carriers, ra)) {
            s.where = "on the bench";
            s.why = say("both ends ride on {}", ra);
        } else {
            stage = 2;
            s.where = "chassis beside the hilt";
            const std::string other = job::find_ref(carriers, ra) ? w.to : w.from;
            s.why = say("{} stays in the hilt", job::split_terminal(other).first);
            for (const Twist& t : harness.twists)
                if (std::find(t.wires.begin(), t.wires.end(), w.ref) != t.wires.end())
                    s.why = say("{}; through {}: {}", s.why, t.joint, t.how);
        }
        places.push_back({{stage, thick, stage == 2 ? -far : far}, std::move(s)});
    }
    std::stable_sort(places.begin(), places.end(),
                     [](const Place& x, const Place& y) { return x.key < y.key; });
    std::vector<SolderStep> steps;
    for (Place& p : places)
        steps.push_back(std::move(p.step));
    return steps;
}

} // namespace conductus::harness
