// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/heat.h"

#include <algorithm>
#include <map>

#include "core/circuit/copper.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"

namespace conductus::power {

std::vector<PartHeat> heat_of(const job::Job& job, const catalogue::Catalogue& parts,
                              const circuit::Network& network,
                              const circuit::OperatingPoint& point) {
    std::map<std::string, double> watts;
    std::map<std::string, double> wire_amps;
    for (std::size_t i = 0; i < network.sources.size(); ++i) {
        const double amps = point.source_amps[i];
        // Held long enough, the two RC pairs heat the cell as well.
        watts[network.sources[i].ref] +=
            amps * amps * network.sources[i].ohms * (1 + r1_share + r2_share);
    }
    for (std::size_t i = 0; i < network.resistors.size(); ++i) {
        const double amps = point.resistor_amps[i];
        watts[network.resistors[i].ref] += amps * amps * network.resistors[i].ohms;
        if (network.resistors[i].part == circuit::Part::wire)
            wire_amps[network.resistors[i].ref] = amps;
    }
    for (std::size_t i = 0; i < network.sinks.size(); ++i)
        watts[network.sinks[i].ref] += point.sink_amps[i] * (point.volts[network.sinks[i].plus] -
                                                             point.volts[network.sinks[i].minus]);
    for (std::size_t i = 0; i < network.strips.size(); ++i) {
        const double foot =
            point.volts[network.strips[i].plus] - point.volts[network.strips[i].minus];
        watts[network.strips[i].ref] += point.strips[i].amps * foot;
    }

    std::vector<PartHeat> heat;
    const Celsius air = job.use.temperature;
    auto add = [&](const std::string& ref, KelvinPerWatt thermal) {
        if (const auto w = watts.find(ref); w != watts.end())
            heat.push_back({ref, Watt(w->second), air + Watt(w->second) * thermal});
    };
    for (const job::Part& part : job.parts)
        add(part.ref, parts.find(part.type)->thermal);
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips) {
            // Catalogued for a strip's body length; a shorter one has less surface.
            const auto* type = parts.find(strip.type);
            add(strip.ref, type->thermal * (type->body.length / strip.length));
        }
    for (const job::Wire& wire : job.wires)
        if (const auto amps = wire_amps.find(wire.ref); amps != wire_amps.end())
            heat.push_back({wire.ref, Watt(watts[wire.ref]),
                            air + circuit::wire_rise(wire.gauge, amps->second)});
    std::stable_sort(heat.begin(), heat.end(), [](const PartHeat& a, const PartHeat& b) {
        return a.temperature > b.temperature;
    });
    return heat;
}

} // namespace conductus::power
