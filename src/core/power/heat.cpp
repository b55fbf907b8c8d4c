// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/heat.h"

#include <algorithm>
#include <map>

#include "core/circuit/copper.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"

namespace conductus::power {

KelvinPerWatt hilt_to_air(const job::Hilt& hilt) {
    constexpr double film = 10; // W/m²K, still air and radiation off a bare hilt
    double area = 0;            // mm²
    for (const job::BoreSection& s : hilt.sections)
        area += 3.14159265358979323846 * (s.to - s.from).value() *
                (s.outer + s.outer_end.value_or(s.outer)).value() / 2;
    return area > 0 ? KelvinPerWatt(1 / (film * area * 1e-6)) : KelvinPerWatt(0);
}

std::vector<PartHeat> heat_of(const job::Job& job, const catalogue::Catalogue& parts,
                              const circuit::Network& network,
                              const circuit::OperatingPoint& point) {
    std::map<std::string, double> watts;
    std::map<std::string, double> wire_amps;
    for (std::size_t i = 0; i < network.sources.size(); ++i) {
        const double amps = point.source_amps[i];
        // Held long enough, the two RC pairs heat the cell as well.
        const auto* part = job::find_ref(job.parts, network.sources[i].ref);
        const auto* cell = part ? parts.find_as<catalogue::Cell>(part->type) : nullptr;
        const catalogue::Lag lag = cell ? cell->lag : catalogue::Lag{};
        watts[network.sources[i].ref] +=
            amps * amps * network.sources[i].ohms * (1 + lag.quick_share + lag.slow_share);
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

    for (std::size_t i = 0; i < network.diodes.size(); ++i) {
        const auto& d = network.diodes[i];
        watts[d.ref] += point.diode_amps[i] * (point.volts[d.plus] - point.volts[d.minus]);
    }
    for (std::size_t i = 0; i < network.limiters.size(); ++i) {
        const auto& l = network.limiters[i];
        watts[l.ref] += point.limiter_amps[i] * (point.volts[l.plus] - point.volts[l.minus]);
    }
    for (std::size_t i = 0; i < network.converters.size(); ++i) {
        const auto& c = network.converters[i];
        watts[c.ref] += point.converter_in[i] * (point.volts[c.in] - point.volts[c.gnd]) -
                        point.converter_out[i] * (point.volts[c.out] - point.volts[c.gnd]);
    }

    std::vector<PartHeat> heat;
    const Celsius air = job.use.temperature;
    auto add = [&](const std::string& ref, KelvinPerWatt thermal) {
        if (const auto w = watts.find(ref); w != watts.end())
            heat.push_back({ref, Watt(w->second), air + Watt(w->second) * thermal, {}});
    };
    for (const job::Part& part : job.parts) {
        const auto* led = parts.find_as<catalogue::Led>(part.type);
        if (!led) {
            add(part.ref, parts.find(part.type)->thermal);
            continue;
        }
        // What leaves as light heats nothing here. The module warms the hilt, the hilt the air.
        const auto w = watts.find(part.ref);
        if (w == watts.end()) continue;
        const Watt warms = Watt(w->second * (1 - led->light_share));
        PartHeat h{part.ref, Watt(w->second), {}, {}};
        h.temperature = air + warms * (parts.find(part.type)->thermal + hilt_to_air(job.hilt));
        h.die = h.temperature + warms * led->junction;
        heat.push_back(h);
    }
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips) {
            // Catalogued for a strip's body length; a shorter one has less surface.
            const auto* type = parts.find(strip.type);
            add(strip.ref, type->thermal * (type->body.length / strip.length));
        }
    for (const job::Blade& blade : job.blades)
        for (const job::LedString& string : blade.strings)
            add(string.ref, parts.find(string.type)->thermal);
    for (const job::Wire& wire : job.wires)
        if (const auto amps = wire_amps.find(wire.ref); amps != wire_amps.end())
            heat.push_back({wire.ref,
                            Watt(watts[wire.ref]),
                            air + circuit::wire_rise(wire.gauge, amps->second),
                            {}});
    std::stable_sort(heat.begin(), heat.end(), [](const PartHeat& a, const PartHeat& b) {
        return a.temperature > b.temperature;
    });
    return heat;
}

} // namespace conductus::power
