// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/fit.h"
#include "core/base/wire_gauge.h"
#include "core/hilt/bore.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

bool in_each_others_way(const PlacedBody& a, const PlacedBody& b) {
    if (std::min(a.to, b.to) - std::max(a.from, b.from) <= touching) return false;
    for (const Solid& s : a.solids)
        for (const Solid& t : b.solids)
            if (outlines_overlap(s, t)) return true;
    return false;
}

/// Whether a solid lies in the open stretch.
bool lies_in(const Solid& s, Millimetre from, Millimetre to) {
    return s.from < to - touching && s.to > from + touching;
}

/// Where the contents of a stretch change: ends of solids, inside it.
std::vector<Millimetre> stations(const std::vector<const PlacedBody*>& bodies, Millimetre from,
                                 Millimetre to) {
    std::vector<Millimetre> at{from, to};
    for (const PlacedBody* b : bodies)
        for (const Solid& s : b->solids)
            for (const Millimetre end : {s.from, s.to})
                if (end > from && end < to) at.push_back(end);
    std::sort(at.begin(), at.end());
    at.erase(std::unique(at.begin(), at.end(),
                         [](Millimetre a, Millimetre b) { return b - a <= touching; }),
             at.end());
    return at;
}

struct Content {
    Millimetre need;
    std::vector<const PlacedBody*> bodies;
};

/// The smallest circle round what lies in an open stretch without a change in it.
Content content(const std::vector<const PlacedBody*>& bodies, Millimetre from, Millimetre to) {
    Content c;
    bool centred = true;
    double reached = 0;
    for (const PlacedBody* b : bodies) {
        bool in = false;
        for (const Solid& s : b->solids) {
            if (!lies_in(s, from, to)) continue;
            in = true;
            centred = centred && s.centred();
            reached = std::max(reached, reach(s) + b->wall.value());
        }
        if (in) c.bodies.push_back(b);
    }
    if (centred) {
        c.need = Millimetre(2 * reached);
        return c;
    }
    std::vector<Disc> discs;
    for (const PlacedBody* b : c.bodies)
        for (const Solid& s : b->solids)
            if (lies_in(s, from, to)) outline(s, b->wall.value(), discs);
    c.need = Millimetre(2 * smallest_circle(discs).r);
    return c;
}

void take(Clearance& least, Millimetre spare, Millimetre at, const std::string& against,
          bool on_the_way) {
    if (spare >= least.spare) return;
    least.spare = spare;
    least.at = at;
    least.against = against;
    least.on_the_way = on_the_way;
    least.beside.clear();
}

/// Least room of one body across the bore, where it lies.
Clearance across(const PlacedBody& body, const job::Hilt& hilt,
                 const std::vector<const PlacedBody*>& all) {
    Clearance c{body.ref, Millimetre(INFINITY), body.from, {}, false, {}};
    std::vector<const PlacedBody*> near;
    for (const PlacedBody* b : all)
        if (b == &body || (b->in_bore && b->from < body.to && b->to > body.from)) near.push_back(b);
    const auto at = stations(near, body.from, body.to);
    for (std::size_t i = 0; i + 1 < at.size(); ++i) {
        const Content in = content(near, at[i], at[i + 1]);
        if (std::find(in.bodies.begin(), in.bodies.end(), &body) == in.bodies.end()) continue;
        const Narrow n = narrowest(hilt.sections, at[i], at[i + 1]);
        if (!std::isfinite(n.bore.value())) continue;
        if (n.bore - in.need >= c.spare) continue;
        take(c, n.bore - in.need, n.at, hilt.sections[n.section].name, false);
        if (in.need > body.need + touching)
            for (const PlacedBody* b : in.bodies)
                if (b != &body) c.beside.push_back(b->ref);
    }
    return c;
}

/// The stretches of the hilt a slice passes before it is in its place.
std::vector<std::pair<Millimetre, Millimetre>>
passed(const std::vector<Piece>& all, std::size_t base, bool left, Millimetre from, Millimetre to) {
    std::vector<std::pair<Millimetre, Millimetre>> way;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Piece& p = all[i];
        const bool by_left = i == base ? left : i > base;
        if (by_left && to > p.from) way.emplace_back(p.from, std::min(from, p.to));
        if (!by_left && from < p.to) way.emplace_back(std::max(to, p.from), p.to);
    }
    std::erase_if(way, [](const auto& w) { return w.second - w.first <= touching; });
    return way;
}

/// Least room of one body on its way in with what it rides with.
Clearance on_the_way(const PlacedBody& body, const job::Hilt& hilt,
                     const std::vector<const PlacedBody*>& with, const std::vector<Piece>& all,
                     std::size_t base, bool left) {
    Clearance c{body.ref, Millimetre(INFINITY), body.from, {}, true, {}};
    const auto at = stations(with, body.from, body.to);
    for (std::size_t i = 0; i + 1 < at.size(); ++i) {
        const auto way = passed(all, base, left, at[i], at[i + 1]);
        if (way.empty()) continue;
        const Content in = content(with, at[i], at[i + 1]);
        if (std::find(in.bodies.begin(), in.bodies.end(), &body) == in.bodies.end()) continue;
        for (const auto& [from, to] : way) {
            const Narrow n = narrowest(hilt.sections, from, to);
            if (!std::isfinite(n.bore.value()) || n.bore - in.need >= c.spare) continue;
            take(c, n.bore - in.need, n.at, hilt.sections[n.section].name, true);
            if (in.need > body.need + touching)
                for (const PlacedBody* b : in.bodies)
                    if (b != &body) c.beside.push_back(b->ref);
        }
    }
    return c;
}

/// By the end that leaves the body most room; empty where none is open to it.
std::optional<Clearance> best_way(const PlacedBody& body, const job::Hilt& hilt,
                                  const std::vector<const PlacedBody*>& with,
                                  const std::vector<Piece>& apart, job::End goes_in,
                                  Millimetre from, Millimetre to) {
    const std::size_t base = piece_of(apart, from, to);
    std::optional<Clearance> best;
    for (const bool left : {true, false}) {
        // What rides on nothing goes in by the blade's end too.
        const bool open =
            left ? apart[base].open_left
                 : apart[base].open_right || (!body.on_chassis && base + 1 == apart.size());
        if (!open ||
            (goes_in != job::End::both && goes_in != (left ? job::End::pommel : job::End::emitter)))
            continue;
        Clearance c = on_the_way(body, hilt, with, apart, base, left);
        if (!best || c.spare > best->spare) best = std::move(c);
    }
    return best;
}

/// Ends of the hilt and other bodies.
void against_others(Clearance& c, const PlacedBody& body, const job::Hilt& hilt,
                    const std::vector<const PlacedBody*>& all) {
    const Millimetre end = hilt.sections.back().to;
    if (body.to > end + touching) take(c, end - body.to, end, "end of the hilt", false);
    for (const PlacedBody* other : all) {
        if (other == &body || other->ref == body.ref || !other->in_bore ||
            !in_each_others_way(body, *other))
            continue;
        // How far it would have to move to be clear: what it overlaps by may be less.
        const Millimetre into = std::min(body.to - other->from, other->to - body.from);
        take(c, -into, std::max(body.from, other->from), other->ref, false);
    }
}

/// What goes in with a body, itself included.
std::vector<const PlacedBody*> company(const PlacedBody& body,
                                       const std::vector<const PlacedBody*>& all) {
    std::vector<const PlacedBody*> with;
    for (const PlacedBody* b : all)
        if (b == &body || (b->on_chassis && body.on_chassis && b->carrier == body.carrier))
            with.push_back(b);
    return with;
}

std::vector<const PlacedBody*> pointers(const std::vector<PlacedBody>& bodies) {
    std::vector<const PlacedBody*> all;
    for (const PlacedBody& b : bodies)
        all.push_back(&b);
    return all;
}

double wire_mm2(int gauge) {
    constexpr double insulation = 0.25, packing = 0.6;
    const double d = wire_diameter(gauge).value() + 2 * insulation;
    return std::numbers::pi / 4 * d * d / packing;
}

double solid_mm2(const Solid& s) {
    return s.round ? std::numbers::pi * s.half_w * s.half_w : 4 * s.half_w * s.half_h;
}

/// Packed wires through the middle of a stretch: those between parts on either side of it.
double wires_through(const job::Job& job, const std::vector<PlacedBody>& bodies, Millimetre at) {
    double mm2 = 0;
    for (const job::Wire& w : job.wires) {
        const auto* a = job::find_ref(bodies, job::split_terminal(w.from).first);
        const auto* b = job::find_ref(bodies, job::split_terminal(w.to).first);
        if (!a || !b) continue;
        const Millimetre low = std::min(a->to, b->to), high = std::max(a->from, b->from);
        if (at > low && at < high) mm2 += wire_mm2(w.gauge);
    }
    return mm2;
}

std::vector<Slice> slices_of(const job::Job& job, const std::vector<PlacedBody>& bodies) {
    std::vector<const PlacedBody*> in_bore;
    for (const PlacedBody& b : bodies)
        if (b.in_bore) in_bore.push_back(&b);
    std::vector<Slice> slices;
    for (std::size_t k = 0; k < job.hilt.sections.size(); ++k) {
        const job::BoreSection& s = job.hilt.sections[k];
        const auto at = stations(in_bore, s.from, s.to);
        for (std::size_t i = 0; i + 1 < at.size(); ++i) {
            const Content in = content(in_bore, at[i], at[i + 1]);
            if (in.bodies.empty()) continue;
            Slice slice{at[i], at[i + 1], k, {}, in.need, {}, 0, 0};
            slice.bore = std::min(bore_at(s, at[i]), bore_at(s, at[i + 1]));
            const double r = slice.bore.value() / 2;
            slice.free_mm2 = std::numbers::pi * r * r;
            double wall = 0;
            for (const PlacedBody* b : in.bodies) {
                slice.refs.push_back(b->ref);
                wall = std::max(wall, b->wall.value());
                for (const Solid& solid : b->solids)
                    if (lies_in(solid, at[i], at[i + 1])) slice.free_mm2 -= solid_mm2(solid);
            }
            // The carrier's wall runs round all of it, as far out as the bore lets it.
            const double outside = std::max(r - wall, 0.0);
            slice.free_mm2 -= std::numbers::pi * (r * r - outside * outside);
            slice.wires_mm2 = wires_through(job, bodies, (at[i] + at[i + 1]) / 2);
            slices.push_back(std::move(slice));
        }
    }
    return slices;
}

} // namespace

const Clearance* Fit::tightest() const {
    const auto it = std::min_element(clearances.begin(), clearances.end(),
                                     [](auto& a, auto& b) { return a.spare < b.spare; });
    return it == clearances.end() ? nullptr : &*it;
}

const Clearance* Fit::of(std::string_view ref) const { return job::find_ref(clearances, ref); }

Fit fit(const job::Job& job, const catalogue::Catalogue& parts) {
    Fit result;
    result.bodies = place_all(job, parts);
    if (job.hilt.sections.empty()) return result;
    const auto all = pointers(result.bodies);
    const auto apart = pieces(job.hilt);
    result.slices = slices_of(job, result.bodies);
    const auto going_in = riders(job.hilt, result.bodies);
    for (const Rider& rider : going_in)
        result.passes.push_back(passing(job.hilt, result.bodies, rider));
    for (const PlacedBody& body : result.bodies) {
        if (!body.in_bore) continue;
        Clearance c = across(body, job.hilt, all);
        const Rider& rider = *std::find_if(going_in.begin(), going_in.end(),
                                           [&](const Rider& r) { return r.ref == body.carrier; });
        if (auto way = best_way(body, job.hilt, company(body, all), apart, rider.goes_in,
                                rider.from, rider.to);
            way && way->spare < c.spare)
            c = std::move(*way);
        against_others(c, body, job.hilt, all);
        result.clearances.push_back(std::move(c));
    }
    // A carrier may bind as one where none of its bodies does by itself.
    for (std::size_t k = 0; k < going_in.size(); ++k) {
        const Passing& p = result.passes[k];
        if (!p.reason.empty()) continue;
        Millimetre least(INFINITY);
        for (const std::size_t i : going_in[k].bodies)
            least = std::min(least, result.of(result.bodies[i].ref)->spare);
        if (going_in[k].carrier && p.room < least - touching)
            result.clearances.push_back({p.carrier, p.room, p.at, p.section, true, {p.part}});
    }
    return result;
}

Trial try_type(const job::Job& job, const catalogue::Catalogue& parts, const std::string& ref,
               const std::string& type) {
    job::Part part = *job::find_ref(job.parts, ref);
    const PlacedBody was = place(part, job.hilt, parts);
    part.type = type;
    std::vector<PlacedBody> bodies;
    for (const job::Part& other : job.parts)
        if (other.ref != ref) bodies.push_back(place(other, job.hilt, parts));
    if (job.hilt.sections.empty())
        return {part.at,
                {ref, Millimetre(INFINITY), part.at, {}, false, {}},
                Millimetre(INFINITY),
                Millimetre(INFINITY),
                part.at};

    // Where it is now, then against the neighbour on either side.
    const PlacedBody now = place(part, job.hilt, parts);
    const Millimetre middle = was.from + (was.to - was.from) / 2;
    Millimetre low(0), high = job.hilt.sections.back().to;
    for (const PlacedBody& other : bodies) {
        if (!other.in_bore) continue;
        // Never in each other's way: beside it, wherever it is along the axis.
        PlacedBody reach = now;
        for (Solid& s : reach.solids)
            s.from = other.from, s.to = other.to;
        reach.from = other.from, reach.to = other.to;
        if (!in_each_others_way(reach, other)) continue;
        if (other.to <= middle) low = std::max(low, other.to);
        if (other.from >= middle) high = std::min(high, other.from);
    }
    const auto apart = pieces(job.hilt);
    const job::Carrier* carrier = nullptr;
    const auto carriers = carriers_of(job.hilt);
    if (now.on_chassis) carrier = job::find_ref(carriers, now.carrier);
    Trial best;
    best.at = part.at;
    best.clearance = {ref, Millimetre(-INFINITY), part.at, {}, false, {}};
    bodies.emplace_back();
    for (const Millimetre at : {part.at, low, high - now.body.length}) {
        if (at < Millimetre(0)) continue;
        part.at = at;
        bodies.back() = place(part, job.hilt, parts);
        const PlacedBody& body = bodies.back();
        const auto all = pointers(bodies);
        Clearance in_place = across(body, job.hilt, all);
        against_others(in_place, body, job.hilt, all);
        const auto with = company(body, all);
        Millimetre from = body.from, to = body.to;
        for (const PlacedBody* b : with)
            from = std::min(from, b->from), to = std::max(to, b->to);
        const auto way = best_way(body, job.hilt, with, apart,
                                  carrier ? carrier->goes_in : job::End::both, from, to);
        Trial trial{at, in_place, in_place.spare, way ? way->spare : Millimetre(INFINITY),
                    in_place.at};
        if (way) trial.way = way->against;
        if (way && way->spare < in_place.spare) trial.clearance = *way, trial.limit_at = way->at;
        if (trial.clearance.spare > best.clearance.spare) best = std::move(trial);
    }
    return best;
}

CellTrial try_cells(const job::Job& job, const catalogue::Catalogue& parts, const std::string& type,
                    const std::string& adapter) {
    job::Job with = job;
    std::vector<job::Part*> cells;
    for (job::Part& part : with.parts)
        if (parts.find_as<catalogue::Cell>(part.type)) cells.push_back(&part);
    for (job::Part* cell : cells)
        cell->adapter = adapter.empty() ? std::nullopt : std::optional(adapter);
    CellTrial all{type, adapter, {}, {}};
    for (std::size_t i = 0; i < cells.size(); ++i) {
        // The others are of the new type as well, but for this one, whose place is looked for.
        for (std::size_t k = 0; k < cells.size(); ++k)
            if (k != i) cells[k]->type = type;
        Trial trial = try_type(with, parts, cells[i]->ref, type);
        cells[i]->type = type;
        cells[i]->at = trial.at;
        all.at.push_back(trial.at);
        if (i == 0 || trial.clearance.spare < all.trial.clearance.spare)
            all.trial = std::move(trial);
    }
    return all;
}

} // namespace conductus::hilt
