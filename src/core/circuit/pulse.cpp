// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/pulse.h"

#include <set>

#include "core/circuit/branch.h"

namespace conductus::circuit {

void pulse(Network& network, const std::vector<Pulsed>& pulsed, const std::vector<Node>& dark,
           Pulses pulses) {
    if (pulsed.empty() && dark.empty()) return;
    const Soldering soldering(network);
    // Two junctions may share a branch: it is scaled once.
    std::set<std::size_t> resistors, diodes, limiters, converters;
    for (const auto& [index, duty] : pulsed) {
        if (pulses == Pulses::on) {
            network.diodes[index].of_time = duty;
            continue;
        }
        if (duty == 1 || diodes.contains(index)) continue;
        Branch branch = soldering.beside(index);
        branch.diodes.push_back(index);
        for (const std::size_t i : branch.diodes)
            if (diodes.insert(i).second) {
                network.diodes[i].saturation *= duty;
                network.diodes[i].stated *= duty;
            }
        for (const std::size_t i : branch.resistors)
            if (resistors.insert(i).second) network.resistors[i].ohms /= duty;
        for (const std::size_t i : branch.limiters)
            if (limiters.insert(i).second) network.limiters[i].amps *= duty;
        for (const std::size_t i : branch.outputs)
            if (converters.insert(i).second) {
                network.converters[i].amps *= duty;
                if (network.converters[i].steps_up) network.converters[i].pass /= duty;
            }
    }
    // A driver whose only LED is dark is switched off with it.
    for (const Node at : dark)
        for (const std::size_t i : soldering.from(at).outputs) {
            network.converters[i].amps = 0;
            if (network.converters[i].steps_up) network.converters[i].pass = 0;
        }
}

} // namespace conductus::circuit
