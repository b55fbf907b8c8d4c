// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/branch.h"

#include <algorithm>

namespace conductus::circuit {

Soldering::Soldering(const Network& network) : network_(network), ends_(network.nodes.size()) {
    auto two = [&](const auto& list, auto Ends::*kind, auto a, auto b) {
        for (std::size_t i = 0; i < list.size(); ++i) {
            (ends_[list[i].*a].*kind).push_back(i);
            (ends_[list[i].*b].*kind).push_back(i);
        }
    };
    for (std::size_t i = 0; i < network.resistors.size(); ++i) {
        const Resistor& r = network.resistors[i];
        if (r.part == Part::leak) continue;
        ends_[r.a].resistors.push_back(i);
        ends_[r.b].resistors.push_back(i);
    }
    two(network.diodes, &Ends::diodes, &Diode::plus, &Diode::minus);
    two(network.limiters, &Ends::limiters, &Limiter::plus, &Limiter::minus);
    auto others = [&](const auto& list) {
        for (const auto& device : list)
            ++ends_[device.plus].others, ++ends_[device.minus].others;
    };
    others(network.sources);
    others(network.sinks);
    others(network.strips);
    for (std::size_t i = 0; i < network.converters.size(); ++i) {
        const Converter& c = network.converters[i];
        ++ends_[c.in].others, ++ends_[c.gnd].others;
        ends_[c.out].outputs.push_back(i);
    }
}

void Soldering::walk(Node node, Branch& branch) const {
    const Ends& here = ends_[node];
    if (node == 0 || here.count() > 2) return;
    auto add = [](std::vector<std::size_t>& list, std::size_t i) {
        if (std::find(list.begin(), list.end(), i) != list.end()) return false;
        list.push_back(i);
        return true;
    };
    for (const std::size_t i : here.resistors)
        if (const Resistor& r = network_.resistors[i]; add(branch.resistors, i))
            walk(r.a == node ? r.b : r.a, branch);
    for (const std::size_t i : here.limiters)
        if (const Limiter& l = network_.limiters[i]; add(branch.limiters, i))
            walk(l.plus == node ? l.minus : l.plus, branch);
    for (const std::size_t i : here.diodes)
        if (const Diode& d = network_.diodes[i]; add(branch.diodes, i))
            walk(d.plus == node ? d.minus : d.plus, branch);
    for (const std::size_t i : here.outputs)
        add(branch.outputs, i);
}

Branch Soldering::from(Node node) const {
    Branch branch;
    walk(node, branch);
    return branch;
}

Branch Soldering::beside(std::size_t diode) const {
    Branch branch;
    branch.diodes.push_back(diode);
    walk(network_.diodes[diode].plus, branch);
    walk(network_.diodes[diode].minus, branch);
    branch.diodes.erase(branch.diodes.begin());
    return branch;
}

} // namespace conductus::circuit
