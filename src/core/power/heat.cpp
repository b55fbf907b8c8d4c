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

KelvinPerWatt tube_to_air(const job::Blade& blade) {
    constexpr double film = 10; // W/m²K, still air and radiation
    const double area =
        3.14159265358979323846 * blade.outer.value() * blade.length.value() * 1e-6; // m²
    return area > 0 ? KelvinPerWatt(1 / (film * area)) : KelvinPerWatt(0);
}

namespace {

constexpr double joule_per_gram_kelvin = 1; // cells, boards, plastics; metals have less

/// Held for ever a cell warms until what it makes, with R0 as warm as it is, is what it gives off.
Celsius steady_cell(double watts_cold, KelvinPerWatt to_air, Celsius air) {
    double t = air.value();
    const double cold = resistance_by_temperature(air);
    for (int i = 0; i < 60; ++i) {
        const double by = resistance_by_temperature(Celsius(t)) / cold;
        const double slope =
            watts_cold * by * to_air.value() * resistance_lost_a_kelvin(Celsius(t));
        const double off = air.value() + watts_cold * by * to_air.value() - t;
        t += off / (1 + slope);
        if (std::abs(off) < 1e-9) break;
    }
    return Celsius(t);
}

} // namespace

std::vector<PartHeat> heat_of(const job::Job& job, const catalogue::Catalogue& parts,
                              const circuit::Network& network,
                              const circuit::OperatingPoint& point) {
    std::map<std::string, double> watts, cell_watts;
    std::map<std::string, double> wire_amps;
    for (std::size_t i = 0; i < network.sources.size(); ++i) {
        const double amps = point.source_amps[i];
        // Held long enough, the two RC pairs heat the cell as well.
        const auto* part = job::find_ref(job.parts, network.sources[i].ref);
        const auto* cell = part ? parts.find_as<catalogue::Cell>(part->type) : nullptr;
        const catalogue::Lag lag = cell ? cell->lag : catalogue::Lag{};
        cell_watts[network.sources[i].ref] +=
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
    const auto watts_in = [&](const std::string& ref) -> std::optional<Watt> {
        const auto w = watts.find(ref);
        return w == watts.end() ? std::nullopt : std::optional(Watt(w->second));
    };
    auto add = [&](const std::string& ref, Watt power, Kelvin rise, Second warms) {
        heat.push_back({ref, power, air + rise, {}, air + rise, warms});
    };
    const auto warms = [](KelvinPerWatt to_air, double grams) {
        return Second(to_air.value() * std::max(grams, 0.2) * joule_per_gram_kelvin);
    };
    for (const job::Part& part : job.parts) {
        const catalogue::PartType& type = *parts.find(part.type);
        if (const auto w = cell_watts.find(part.ref); w != cell_watts.end()) {
            // Springs and protection give their heat off beside the cell; it is told with its own.
            const Celsius t = steady_cell(w->second, type.thermal, air);
            heat.push_back({part.ref,
                            Watt(w->second) + watts_in(part.ref).value_or(Watt(0)),
                            t,
                            {},
                            t,
                            warms(type.thermal, std::max(type.mass.value(), 1.0))});
            continue;
        }
        const auto w = watts_in(part.ref);
        if (!w) continue;
        const auto* led = parts.find_as<catalogue::Led>(part.type);
        if (!led) {
            add(part.ref, *w, *w * type.thermal, warms(type.thermal, type.mass.value()));
            continue;
        }
        // What leaves as light heats nothing here. The module warms the hilt, the hilt the air.
        const Watt warming = *w * (1 - led->light_share);
        const KelvinPerWatt all = type.thermal + hilt_to_air(job.hilt);
        add(part.ref, *w, warming * all, warms(all, type.mass.value()));
        heat.back().die = heat.back().temperature + warming * led->junction;
    }
    for (const job::Blade& blade : job.blades) {
        // Everything in a tube warms its wall; each is warmer than the wall by what it makes
        // itself.
        Watt in_tube;
        for (const job::Strip& strip : blade.strips)
            in_tube += watts_in(strip.ref).value_or(Watt(0));
        for (const job::LedString& string : blade.strings)
            in_tube += watts_in(string.ref).value_or(Watt(0));
        const KelvinPerWatt to_air = tube_to_air(blade);
        const Kelvin wall = in_tube * to_air;
        // A wall of 2 mm of plastic: 1.2 g/cm³ and 1.2 J/gK.
        const Second tube(to_air.value() * 3.14159265358979323846 * blade.outer.value() *
                          blade.length.value() * 2 * 1.2e-3 * 1.2);
        for (const job::Strip& strip : blade.strips)
            if (const auto w = watts_in(strip.ref)) {
                // Catalogued for a strip's body length; a shorter one has less surface.
                const auto* type = parts.find(strip.type);
                add(strip.ref, *w, wall + *w * type->thermal * (type->body.length / strip.length),
                    tube);
            }
        for (const job::LedString& string : blade.strings)
            if (const auto w = watts_in(string.ref))
                add(string.ref, *w, wall + *w * parts.find(string.type)->thermal, tube);
    }
    for (const job::Wire& wire : job.wires)
        if (const auto amps = wire_amps.find(wire.ref); amps != wire_amps.end())
            add(wire.ref, Watt(watts[wire.ref]), circuit::wire_rise(wire.gauge, amps->second, air),
                Second(circuit::wire_time(wire.gauge)));
    std::stable_sort(heat.begin(), heat.end(), [](const PartHeat& a, const PartHeat& b) {
        return a.temperature > b.temperature;
    });
    return heat;
}

double reached(const Course& course, Second warms) {
    double share = 0, most = 0;
    for (std::size_t i = 1; i < course.size(); ++i) {
        const double seconds = course[i].first - course[i - 1].first, to = course[i - 1].second;
        share = to + (share - to) * std::exp(-seconds / std::max(warms.value(), 1e-9));
        most = std::max(most, share);
    }
    return most;
}

LookCourse course_of(const std::vector<CellFigures>& cells,
                     const std::vector<std::array<double, 3>>& amps, Celsius air) {
    constexpr double least = 0.02;        // of charge
    constexpr double longest = 24 * 3600; // s
    LookCourse all;
    all.cells.assign(cells.size(), air);
    if (cells.empty()) return all;
    std::vector<double> charge(cells.size(), 1), warmth(cells.size(), air.value());
    const auto at = [&](std::size_t i) { // through the three charges it is known at
        const auto& a = amps[i];
        return charge[i] >= 0.5 ? a[1] + (a[0] - a[1]) * (charge[i] - 0.5) / 0.5
                                : a[2] + (a[1] - a[2]) * std::max(0.0, charge[i] - 0.1) / 0.4;
    };
    const double first = at(0);
    double now = 0;
    for (;;) {
        double step = 60, emptiest = 1;
        for (std::size_t i = 0; i < cells.size(); ++i) {
            const double rate = at(i) / (cells[i].capacity.value() * 3.6);
            if (rate > 0) step = std::min(step, 0.02 / rate);
            emptiest = std::min(emptiest, charge[i]);
        }
        all.course.emplace_back(now, first > 0 ? at(0) / first : 0);
        if (emptiest <= least || now >= longest) break;
        for (std::size_t i = 0; i < cells.size(); ++i) {
            const CellFigures& f = cells[i];
            const double i_now = at(i);
            const double lagging = 1 +
                                   f.lag.quick_share * (1 - std::exp(-now / f.lag.quick.value())) +
                                   f.lag.slow_share * (1 - std::exp(-now / f.lag.slow.value()));
            const double watts = i_now * i_now * f.resistance.value() * f.by(charge[i]) *
                                 resistance_by_temperature(Celsius(warmth[i])) * lagging;
            const double to = air.value() + watts * f.to_air.value();
            warmth[i] =
                to + (warmth[i] - to) * std::exp(-step / (f.heat_capacity * f.to_air.value()));
            all.cells[i] = std::max(all.cells[i], Celsius(warmth[i]));
            charge[i] -= i_now * step / (f.capacity.value() * 3.6);
        }
        now += step;
    }
    return all;
}

void reach(std::vector<PartHeat>& heat, const Course& course,
           const std::vector<std::pair<std::string, Celsius>>& cells, Celsius air) {
    for (PartHeat& h : heat) {
        const auto cell = std::find_if(cells.begin(), cells.end(),
                                       [&](const auto& c) { return c.first == h.ref; });
        if (cell != cells.end()) {
            h.temperature = cell->second;
            continue;
        }
        const double share = reached(course, h.warms);
        const Kelvin over_module(h.die ? (*h.die - h.steady).value() : 0);
        h.temperature = air + Kelvin((h.steady - air).value() * share);
        // A die follows at once.
        if (h.die) h.die = h.temperature + over_module * std::min(share, 1.0);
    }
    std::stable_sort(heat.begin(), heat.end(), [](const PartHeat& a, const PartHeat& b) {
        return a.temperature > b.temperature;
    });
}

} // namespace conductus::power
