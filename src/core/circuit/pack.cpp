// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/pack.h"

namespace conductus::circuit {

double pack_amps(const Network& n, const OperatingPoint& p) {
    if (n.sources.size() == 1) return p.source_amps[0];
    // A cell counts whose negative end is at ground but for resistance.
    std::vector<bool> ground(n.nodes.size());
    ground[0] = true;
    for (bool grew = true; grew;) {
        grew = false;
        for (const Resistor& r : n.resistors) {
            if (r.part == Part::leak || ground[r.a] == ground[r.b]) continue;
            ground[r.a] = ground[r.b] = grew = true;
        }
    }
    double sum = 0;
    for (std::size_t i = 0; i < n.sources.size(); ++i)
        if (ground[n.sources[i].minus]) sum += p.source_amps[i];
    return sum;
}

} // namespace conductus::circuit
