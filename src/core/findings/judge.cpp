// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "core/findings/facts.h"
#include "core/findings/judge_cells.h"

namespace conductus::findings {

double Solved::amps_of(std::string_view ref) const {
    double most = 0;
    for (std::size_t i = 0; i < network.resistors.size(); ++i)
        if (network.resistors[i].ref == ref)
            most = std::max(most, std::abs(point.resistor_amps[i]));
    return most;
}

const Solved* Facts::worst_for(std::string_view ref) const {
    const Solved* worst = nullptr;
    for (const SolvedPtr& s : fresh)
        if (!worst || s->amps_of(ref) > worst->amps_of(ref)) worst = s.get();
    return worst;
}

const Solved* Facts::largest() const {
    const Solved* worst = nullptr;
    for (const SolvedPtr& s : fresh)
        if (!worst || s->cell_amps() > worst->cell_amps()) worst = s.get();
    return worst;
}

std::vector<Finding> judge(const Facts& facts) {
    std::vector<Finding> found;
    judge_wiring(facts, found);
    judge_supply(facts, found);
    judge_kill(facts, found);
    judge_contacts(facts, found);
    judge_pads(facts, found);
    judge_lights(facts, found);
    judge_blades(facts, found);
    judge_lines(facts, found);
    judge_loads(facts, found);
    judge_heat(facts, found);
    judge_fit(facts, found);
    judge_hilt(facts, found);
    judge_openings(facts, found);
    judge_survey(facts, found);
    judge_harness(facts, found);
    judge_safety(facts, found);
    judge_cells(facts, found);
    judge_brief(facts, found);
    judge_parts(facts, found);
    judge_colours(facts, found);
    judge_plugs(facts, found);
    judge_board(facts, found);
    judge_tubes(facts, found);
    judge_handling(facts, found);
    judge_motion(facts, found);
    judge_bench(facts, found);
    in_order(found);
    return found;
}

std::vector<Finding> judge_copper(const job::Job& job, const catalogue::Catalogue& parts) {
    Facts facts;
    // They are only looked at while this runs.
    facts.job = facts.whole = std::shared_ptr<const job::Job>(std::shared_ptr<void>(), &job);
    facts.parts = std::shared_ptr<const catalogue::Catalogue>(std::shared_ptr<void>(), &parts);
    facts.wiring = std::make_shared<const job::Wiring>(job, parts);
    facts.levels = std::make_shared<const harness::Levels>(job, parts);
    std::vector<Finding> found;
    judge_wiring(facts, found);
    judge_kill(facts, found);
    return found;
}

const Finding* finding_of(const std::vector<Finding>& findings, std::string_view id) {
    for (const Finding& f : findings) {
        if (f.id == id) return &f;
        if (const Finding* folded = finding_of(f.follows, id)) return folded;
    }
    return nullptr;
}

void in_order(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(), [](const Finding& a, const Finding& b) {
        return std::tie(a.severity, a.station) < std::tie(b.severity, b.station);
    });
}

} // namespace conductus::findings
