// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/carried.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/catalogue/kinds.h"
#include "core/circuit/copper.h"
#include "core/circuit/pack.h"
#include "core/job/lookup.h"

namespace conductus::plan {

using Kind = CarryingPlace::Kind;

std::optional<CarryingPlace> carrying_place(const job::Job& job, const catalogue::Catalogue& parts,
                                            const circuit::Resistor& r) {
    CarryingPlace place{Kind::part, r.ref, r.ref, {}};
    if (const job::Wire* wire = job::find_ref(job.wires, r.ref)) {
        place.kind = Kind::wire;
        place.label = fmt::format("{} to {}", wire->from, wire->to);
        place.rated = circuit::usual_limit(wire->gauge);
        return place;
    }
    const job::Part* part = job::find_ref(job.parts, r.ref);
    if (!part || r.part == circuit::Part::leak) return std::nullopt;
    const auto& figures = parts.find(part->type)->figures;
    if (const auto rating = catalogue::rating_of(figures);
        rating && !catalogue::passes(figures).empty()) {
        place.rated = *rating;
    } else if (const auto* c = std::get_if<catalogue::Connector>(&figures);
               c && r.part == circuit::Part::pins) {
        const int together = r.pin == "plus" ? c->plus_pins : r.pin == "minus" ? c->minus_pins : 0;
        place.kind = Kind::pins;
        place.label = together > 0 ? r.pin + " pins" : "pin " + r.pin;
        place.rated = c->pin_rating * std::max(1, together);
    } else if (const auto* board = std::get_if<catalogue::Board>(&figures)) {
        place.kind = Kind::pad;
        place.label = r.pin;
        place.rated = board->pad_rating;
    } else if (r.part == circuit::Part::bay && r.name.ends_with("_bay")) {
        place.label = "bay contacts";
        place.rated = job::bay_of(*part, parts).rating;
    } else if (r.part != circuit::Part::light && r.part != circuit::Part::resistor) {
        return std::nullopt;
    }
    return place;
}

std::vector<Carried> carried_of(const job::Job& job, const catalogue::Catalogue& parts,
                                const circuit::Network& n, const circuit::OperatingPoint& p,
                                const power::MeanAndPeak* over_time) {
    std::vector<Carried> all;
    for (std::size_t i = 0; i < n.resistors.size(); ++i) {
        auto place = carrying_place(job, parts, n.resistors[i]);
        if (!place) continue;
        const double now = std::abs(p.resistor_amps[i]);
        Carried c{std::move(*place), Ampere(now), Ampere(now)};
        if (over_time && i < over_time->resistor_mean.size()) {
            c.mean = Ampere(over_time->resistor_mean[i]);
            c.peak = Ampere(std::max(now, over_time->resistor_peak[i]));
        }
        all.push_back(std::move(c));
    }
    for (std::size_t i = 0; i < n.sources.size(); ++i) {
        const job::Part* part = job::find_ref(job.parts, n.sources[i].ref);
        const Ampere now(p.source_amps[i]);
        Carried c{{Kind::cell, n.sources[i].ref, n.sources[i].ref,
                   parts.find_as<catalogue::Cell>(part->type)->continuous},
                  now,
                  now};
        // Cells share the pack's current as they do in the brightest frame.
        const double pack = over_time ? circuit::pack_amps(n, p) : 0;
        if (pack > 0) {
            c.mean = now * (over_time->mean.value() / pack);
            c.peak = std::max(now, now * (over_time->peak.value() / pack));
        }
        all.push_back(std::move(c));
    }
    std::stable_sort(all.begin(), all.end(), [](const Carried& a, const Carried& b) {
        return a.place.kind < b.place.kind;
    });
    return all;
}

} // namespace conductus::plan
