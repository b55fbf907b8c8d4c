// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/harness.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/circuit/copper.h"
#include "core/circuit/pack.h"
#include "core/harness/gauge.h"
#include "core/hilt/bore.h"
#include "core/hilt/passing.h"
#include "core/job/lookup.h"

namespace conductus::harness {
namespace {

using catalogue::Catalogue;
using job::Job;

constexpr double pi = std::numbers::pi;
constexpr double coil_filling = 0.5; ///< slack pushed back by hand
constexpr double edge_near = 30;     ///< degrees from an opening's side that still chafe

class HarnessAnalysis {
public:
    HarnessAnalysis(const Job& job, const Catalogue& parts, const job::Wiring& wiring,
                    const lights::Chains& chains, const std::vector<SolvedState>& states)
        : job_(job), parts_(parts), wiring_(wiring), states_(states), router_(job, parts) {
        h_.data = data_map(job, parts, wiring, chains);
        h_.rails = hilt::rails_of(job, parts, router_);
    }

    Harness run() {
        for (const job::Wire& wire : job_.wires)
            h_.wires.push_back(row_of(wire));
        load();
        for (WireRow& w : h_.wires) {
            h_.total += w.length;
            w.rise = w.rise_held =
                circuit::wire_rise(w.gauge, w.amps.value(), job_.use.temperature);
            w.gauge_wanted = std::min(finest_by_drop(w.amps, w.length, usual_drop),
                                      w.role == job::Role::sound ? 28 : 30);
            advise(w);
        }
        twists();
        coil();
        pins();
        h_.missing = missing_wires(job_, parts_);
        h_.conflicts = wire_conflicts(job_, parts_, wiring_);
        // What is missing is told once.
        std::erase_if(h_.conflicts, [&](const WireConflict& c) {
            return c.id == "harness.not-wired" || c.id == "harness.leads-nowhere"
                       ? std::any_of(h_.missing.begin(), h_.missing.end(),
                                     [&](const Missing& m) {
                                         return job::split_terminal(m.from).first == c.where[0] ||
                                                job::split_terminal(m.to).first == c.where[0];
                                     })
                       : false;
        });
        for (const WireRow& w : h_.wires)
            h_.lanes.push_back({w.ref, std::min(w.route.from, w.route.to).value(),
                                std::max(w.route.from, w.route.to).value(), 0});
        lay_lanes(h_.lanes, 16); // room for a name behind each
        h_.crossings = crossings(h_.lanes);
        return std::move(h_);
    }

private:
    [[nodiscard]] WireRow row_of(const job::Wire& wire) const {
        WireRow w;
        w.ref = wire.ref, w.from = wire.from, w.to = wire.to;
        w.role = wire.role;
        w.gauge = wire.gauge;
        w.route = router_.route(wire);
        w.own_length = wire.length.has_value();
        w.length = wire.length.value_or(w.route.length());
        w.own_colour = !wire.colour.empty();
        w.colour = w.own_colour ? wire.colour : usual_colour(job_, parts_, wire);
        return w;
    }

    void load() {
        std::map<std::string, WireRow*> by_ref;
        for (WireRow& w : h_.wires)
            by_ref[w.ref] = &w;
        double most = -1;
        for (const SolvedState& s : states_) {
            double watts = 0;
            const auto& n = *s.network;
            for (std::size_t i = 0; i < n.resistors.size(); ++i) {
                const auto& r = n.resistors[i];
                if (r.part != circuit::Part::wire) continue;
                const double amps = std::abs(s.point->resistor_amps[i]);
                const double drop = std::abs(s.point->volts[r.a] - s.point->volts[r.b]);
                watts += amps * drop;
                const auto it = by_ref.find(r.ref);
                if (it == by_ref.end() ||
                    (amps <= it->second->amps.value() && !it->second->state.empty()))
                    continue;
                it->second->amps = Ampere(amps);
                it->second->drop = Volt(drop);
                it->second->state = s.name;
            }
            const double pack = circuit::pack_amps(n, *s.point);
            if (pack > most) {
                most = pack;
                h_.worst = s.name;
                h_.drop = Volt(pack > 0 ? watts / pack : 0);
            }
        }
        charging();
        // The amplifier drives its speaker by itself: peaks of the loudness that is set.
        const auto speaker = job::first_of<catalogue::Speaker>(job_, parts_);
        if (!speaker) return;
        const double amps = job_.use.volume * std::sqrt(2 * speaker.figures->power.value() /
                                                        speaker.figures->impedance.value());
        for (WireRow& w : h_.wires) {
            if (w.role != job::Role::sound) continue;
            using circuit::operator*;
            w.amps = Ampere(amps);
            w.drop = w.amps * (circuit::wire_resistance(w.gauge) * w.length);
            w.state = "sound peak";
        }
    }

    /// What a charger that goes in through the hilt sends through the wires of its port.
    void charging() {
        const auto* charger = parts_.find_as<catalogue::Charger>(job_.charger);
        if (!charger || !charger->in_hilt) return;
        for (WireRow& w : h_.wires)
            for (const std::string& end : {w.from, w.to}) {
                const auto [ref, name] = job::split_terminal(end);
                const job::Part* part = job::find_ref(job_.parts, ref);
                if (!part || (name != "plus" && name != "minus")) continue;
                const auto& figures = parts_.find(part->type)->figures;
                const auto hole = catalogue::plug_hole(figures);
                if (!hole || !hole->charges || charger->current <= w.amps) continue;
                using circuit::operator*;
                w.amps = charger->current;
                w.drop = w.amps * (circuit::wire_resistance(w.gauge) * w.length);
                w.state = "charging";
            }
    }

    void advise(WireRow& w) const {
        const double low = std::min(w.route.from, w.route.to).value(),
                     high = std::max(w.route.from, w.route.to).value();
        auto passes = [&](double from, double to) { return high > from + 0.5 && low < to - 0.5; };
        const bool metal = job_.hilt.material != job::Material::plastic;
        for (const job::Opening& o : job_.hilt.openings) {
            const double half = o.length.value() / 2;
            if (!passes(o.at.value() - half, o.at.value() + half)) continue;
            const double away =
                std::abs(std::remainder(w.route.turn.value() - o.angle.value(), 360));
            const double wide = o.width.value() / std::max(1.0, radius_at(o.at)) * 90 / pi;
            if (!w.route.straight && away > wide + edge_near) continue;
            if (metal) w.advice.push_back(say("polyimide tape at {}, {}", o.name, text(o.at)));
        }
        for (std::size_t i = 1; metal && i < job_.hilt.sections.size(); ++i) {
            const job::BoreSection &a = job_.hilt.sections[i - 1], &b = job_.hilt.sections[i];
            const double step = (hilt::bore_at(a, a.to) - hilt::bore_at(b, b.from)).value();
            if (std::abs(step) > 0.5 && high > b.from.value() + 0.5 && low < b.from.value() - 0.5)
                w.advice.push_back(say("sleeve over the edge of {}, {}", step > 0 ? b.name : a.name,
                                       text(b.from)));
        }
        for (const hilt::PlacedBody& body : router_.bodies()) {
            const job::Part* part = job::find_ref(job_.parts, body.ref);
            if (!parts_.find_as<catalogue::Speaker>(part->type)) continue;
            const bool own = job::split_terminal(w.from).first == body.ref ||
                             job::split_terminal(w.to).first == body.ref;
            if (!own && passes(body.from.value(), body.to.value()))
                w.advice.push_back(
                    say("round the rim of {}, not under it: it must sit flush", body.ref));
        }
    }
    [[nodiscard]] double radius_at(Millimetre at) const {
        for (const job::BoreSection& s : job_.hilt.sections)
            if (at >= s.from && at <= s.to) return hilt::bore_at(s, at).value() / 2;
        return 12;
    }

    void twists() {
        for (const job::Joint& joint : job_.hilt.joints) {
            if (joint.kind != job::JointKind::thread || !(joint.pitch > Millimetre(0))) continue;
            Twist t;
            double area = 0;
            t.joint = joint.name;
            t.hand = joint.hand;
            for (const WireRow& w : h_.wires) {
                const Millimetre low = std::min(w.route.from, w.route.to),
                                 high = std::max(w.route.from, w.route.to);
                if (!(low < joint.at && joint.at < high) || !w.route.docks.empty()) continue;
                // A chassis that reaches through the thread does not turn with the cap.
                if (router_.rides_along(w.from, w.to)) continue;
                if (t.wires.empty() || w.length < t.shortest) t.shortest = w.length;
                t.wires.push_back(w.ref);
                area += insulated_area(w.gauge);
            }
            if (t.wires.empty()) continue;
            t.radius = std::sqrt(area / pi) / 2;
            t.turns = joint.engaged / joint.pitch;
            t.pretwist = t.turns;
            t.per_100mm = t.turns / (t.shortest.value() / 100);
            const bool right = joint.hand == job::Hand::right;
            t.how =
                say("{} turns {} before it is screwed on {}", three_figures(t.turns),
                    right ? "anticlockwise" : "clockwise", right ? "clockwise" : "anticlockwise");
            h_.twists.push_back(std::move(t));
        }
    }

    /// Where slack is pushed back to: between a carrier's inner end and what comes next; without
    /// one that moves, along the wires.
    void coil() {
        const auto riders = hilt::riders(job_.hilt, router_.bodies());
        double from = 1e9, to = -1e9;
        for (const WireRow& w : h_.wires) {
            if (!w.route.docks.empty()) continue;
            h_.coil.needs += std::max(0.0, spare_of(w)) * insulated_area(w.gauge) / coil_filling;
            from = std::min({from, w.route.from.value(), w.route.to.value()});
            to = std::max({to, w.route.from.value(), w.route.to.value()});
        }
        if (h_.coil.needs <= 0) return;
        for (const hilt::Rider& r : riders) {
            if (!r.carrier || r.kind == job::CarrierKind::fixed ||
                r.kind == job::CarrierKind::cell_bay)
                continue;
            const bool by_pommel = r.goes_in != job::End::emitter;
            double low = by_pommel ? r.to.value() : 0, high = by_pommel ? mouth() : r.from.value();
            for (const hilt::PlacedBody& b : router_.bodies()) {
                if (!b.in_bore || b.carrier == r.ref) continue;
                if (by_pommel && b.from.value() >= low - 1e-6)
                    high = std::min(high, b.from.value());
                if (!by_pommel && b.to.value() <= high + 1e-6) low = std::max(low, b.to.value());
            }
            h_.coil.has = std::max(0.0, free_volume(low, high));
            h_.coil.where = fmt::format("behind {}, {} to {}", r.ref, text(Millimetre(low)),
                                        text(Millimetre(high)));
            return;
        }
        h_.coil.has = free_volume(from, to);
        h_.coil.where = fmt::format("along the chassis, {} to {}", text(Millimetre(from)),
                                    text(Millimetre(to)));
    }
    [[nodiscard]] double mouth() const {
        return job_.hilt.sections.empty() ? 0 : job_.hilt.sections.back().to.value();
    }
    [[nodiscard]] static double across(const hilt::PlacedBody& body) {
        double area = 0;
        for (const hilt::Solid& s : body.solids)
            area = std::max(area, s.round ? pi * s.half_w * s.half_w : 4 * s.half_w * s.half_h);
        return area;
    }
    [[nodiscard]] double free_volume(double from, double to) const {
        if (to <= from || job_.hilt.sections.empty()) return 0;
        double volume =
            1e3 * hilt::bore_volume_ml(job_.hilt.sections, Millimetre(std::max(0.0, from)),
                                       Millimetre(std::min(mouth(), to)));
        for (const hilt::PlacedBody& b : router_.bodies())
            if (b.in_bore)
                volume -= across(b) * std::max(0.0, std::min(to, b.to.value()) -
                                                        std::max(from, b.from.value()));
        return std::max(0.0, volume);
    }

    void pins() {
        for (const job::Part& part : job_.parts) {
            const auto* c = parts_.find_as<catalogue::Connector>(part.type);
            if (!c) continue;
            std::map<std::string, PinLoad> loads;
            std::vector<std::string> order;
            auto pin = [&](const char* pole, int count) {
                for (int i = 1; i <= count; ++i) {
                    const std::string name = fmt::format("{}{}", pole, i);
                    loads[name] = {part.ref, name, Ampere(0), c->pin_rating, {}, {}};
                    for (const hilt::Rail& rail : h_.rails)
                        if (rail.dock == part.ref &&
                            std::find(rail.pins.begin(), rail.pins.end(), name) != rail.pins.end())
                            loads[name].wire = rail.wire;
                    order.push_back(name);
                }
            };
            pin("plus", c->plus_pins), pin("minus", c->minus_pins), pin("data", c->data_pins);
            pin("seg", c->segments);
            if (c->flash_pin) {
                loads["flash"] = {part.ref, "flash", Ampere(0), c->pin_rating, {}, {}};
                order.emplace_back("flash");
            }
            for (const SolvedState& s : states_) {
                std::map<std::string, double> now; // blades on one connector add up
                for (std::size_t i = 0; i < s.network->resistors.size(); ++i) {
                    const auto& r = s.network->resistors[i];
                    if (r.part != circuit::Part::pins || r.ref != part.ref) continue;
                    const std::string& name = r.pin;
                    const double amps = std::abs(s.point->resistor_amps[i]);
                    const int many = name == "plus"    ? c->plus_pins
                                     : name == "minus" ? c->minus_pins
                                                       : 0;
                    if (many == 0) now[name] += amps; // one by itself
                    for (int k = 1; k <= many; ++k)
                        now[fmt::format("{}{}", name, k)] += amps / many;
                }
                for (const auto& [name, amps] : now)
                    if (const auto it = loads.find(name);
                        it != loads.end() && amps > it->second.amps.value())
                        it->second.amps = Ampere(amps), it->second.state = s.name;
            }
            for (const std::string& name : order)
                h_.pins.push_back(loads[name]);
        }
    }

    const Job& job_;
    const Catalogue& parts_;
    const job::Wiring& wiring_;
    const std::vector<SolvedState>& states_;
    hilt::Router router_;
    Harness h_;
};

} // namespace

const WireRow* Harness::wire(std::string_view ref) const { return job::find_ref(wires, ref); }

double spare_of(const WireRow& w) {
    return (w.length - w.route.along - w.route.around - w.route.ends).value();
}

Harness harness_of(const Job& job, const Catalogue& parts, const job::Wiring& wiring,
                   const lights::Chains& chains, const std::vector<SolvedState>& states) {
    return HarnessAnalysis(job, parts, wiring, chains, states).run();
}

} // namespace conductus::harness
