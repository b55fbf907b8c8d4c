// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choice_leads.h"

#include "core/circuit/copper.h"
#include "core/hilt/route.h"

namespace conductus::plan {

Leads::Leads(const Plan& plan) : parts_(*plan.parts) {
    for (const job::Wire& w : plan.job->wires)
        follow_ |= !w.length && !w.resistance;
    if (plan.looks.empty()) return;
    const findings::Solved& s = *plan.looks.front().fresh;
    const double pack = s.cell_amps();
    if (!(pack > 0)) return;
    for (std::size_t i = 0; i < s.network.resistors.size(); ++i) {
        const auto& r = s.network.resistors[i];
        const double share = s.point.resistor_amps[i] / pack;
        if (r.part == circuit::Part::wire) weight_[r.ref] = share * share;
    }
}

double Leads::ohms(const job::Job& with) const {
    using circuit::operator*;
    const hilt::Lengths lengths = hilt::runs_of(with, parts_).lengths;
    double sum = 0;
    for (const job::Wire& w : with.wires) {
        const auto weight = weight_.find(w.ref);
        if (weight == weight_.end()) continue;
        const Ohm ohms =
            w.resistance.value_or(circuit::wire_resistance(w.gauge) * lengths.find(w.ref)->second);
        sum += weight->second * ohms.value();
    }
    return sum;
}

} // namespace conductus::plan
