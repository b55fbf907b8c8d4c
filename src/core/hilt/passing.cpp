// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/passing.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr double step_aside = 1e-5; ///< from a depth where a body meets a step, mm

struct Moving {
    const Solid* solid;
    const PlacedBody* body;
    double reach; ///< with the wall, from the axis
};

struct Lot {
    std::vector<Moving> solids;
    bool centred = true; ///< then the middle of the bore is best
};

Lot lot_of(const std::vector<PlacedBody>& bodies, const Rider& rider) {
    Lot lot;
    for (const std::size_t i : rider.bodies)
        for (const Solid& s : bodies[i].solids) {
            lot.solids.push_back({&s, &bodies[i], reach(s) + bodies[i].wall.value()});
            lot.centred = lot.centred && s.centred();
        }
    return lot;
}

struct Place {
    double room = INFINITY; ///< on the diameter
    double at = 0;
    const PlacedBody* body = nullptr;
    std::size_t section = 0;
};

/// The lot moved by `shift` along the axis, inside one piece of the hilt.
Place room_of(const job::Hilt& hilt, const Lot& lot, const Piece& piece, double shift) {
    Place least;
    std::vector<Disc> discs;
    std::vector<std::pair<const Moving*, Narrow>> inside;
    for (const Moving& m : lot.solids) {
        const Millimetre a = std::max(m.solid->from + Millimetre(shift), piece.from);
        const Millimetre b = std::min(m.solid->to + Millimetre(shift), piece.to);
        if (b <= a) continue;
        const Narrow n = narrowest(hilt.sections, a, b);
        if (!std::isfinite(n.bore.value())) continue;
        inside.emplace_back(&m, n);
        const double room = n.bore.value() - 2 * m.reach;
        if (room < least.room) least = {room, n.at.value(), m.body, n.section};
    }
    if (lot.centred || inside.empty()) return least;
    for (const auto& [m, n] : inside)
        outline(*m->solid, m->body->wall.value() - n.bore.value() / 2, discs);
    const Disc circle = smallest_circle(discs);
    least = {};
    std::vector<Disc> own;
    for (const auto& [m, n] : inside) {
        own.clear();
        outline(*m->solid, m->body->wall.value() - n.bore.value() / 2, own);
        for (const Disc& d : own) {
            const double room = -2 * (std::hypot(d.x - circle.x, d.y - circle.y) + d.r);
            if (room < least.room) least = {room, n.at.value(), m->body, n.section};
        }
    }
    return least;
}

/// Depths at which the lot, still to go by as much, meets a change of bore.
std::vector<double> events(const job::Hilt& hilt, const Lot& lot, const Piece& piece, bool left) {
    std::vector<double> stations{piece.from.value(), piece.to.value()};
    for (const job::BoreSection& s : hilt.sections)
        for (const Millimetre at : {s.from, s.to})
            if (at > piece.from && at < piece.to) stations.push_back(at.value());
    std::vector<double> depths{0};
    for (const Moving& m : lot.solids)
        for (const Millimetre end : {m.solid->from, m.solid->to})
            for (const double at : stations)
                if (const double d = left ? end.value() - at : at - end.value(); d > 0)
                    depths.push_back(d);
    std::sort(depths.begin(), depths.end());
    depths.erase(std::unique(depths.begin(), depths.end()), depths.end());
    return depths;
}

/// How the lot lies in its place, and where in the bore it would have most room.
void look_in_place(const job::Hilt& hilt, const Lot& lot, Passing& p) {
    std::vector<Disc> discs;
    p.as_placed = Millimetre(INFINITY);
    for (const Moving& m : lot.solids) {
        const Narrow n = narrowest(hilt.sections, m.solid->from, m.solid->to);
        if (!std::isfinite(n.bore.value())) continue;
        outline(*m.solid, m.body->wall.value() - n.bore.value() / 2, discs);
        p.as_placed = std::min(p.as_placed, n.bore - Millimetre(2 * m.reach));
    }
    if (lot.centred || discs.empty()) return;
    const Disc circle = smallest_circle(discs);
    p.move_side = Millimetre(-circle.x);
    p.move_up = Millimetre(-circle.y);
}

struct Way {
    Place least;
    double to_go = 0;
};

Way slide(const job::Hilt& hilt, const Lot& lot, const Piece& piece, bool left) {
    Way way;
    auto look = [&](double to_go) {
        const Place p = room_of(hilt, lot, piece, left ? -to_go : to_go);
        if (p.room < way.least.room - 1e-9) way = {p, to_go};
    };
    look(0);
    const std::vector<double> depths = events(hilt, lot, piece, left);
    for (std::size_t i = 0; i + 1 < depths.size(); ++i) {
        const double width = depths[i + 1] - depths[i], aside = std::min(step_aside, width / 3);
        look(depths[i] + aside);
        look(depths[i + 1] - aside);
    }
    return way;
}

bool may(job::End goes_in, bool left) {
    return goes_in == job::End::both || goes_in == (left ? job::End::pommel : job::End::emitter);
}

} // namespace

std::vector<Rider> riders(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies) {
    std::vector<Rider> all;
    auto add = [&](Rider& rider, std::size_t i) {
        const bool first = rider.bodies.empty();
        rider.bodies.push_back(i);
        rider.from = first ? bodies[i].from : std::min(rider.from, bodies[i].from);
        rider.to = first ? bodies[i].to : std::max(rider.to, bodies[i].to);
    };
    for (const job::Carrier& c : carriers_of(hilt)) {
        Rider rider{c.ref, c.goes_in, true, c.kind, {}, {}, {}};
        for (std::size_t i = 0; i < bodies.size(); ++i)
            if (bodies[i].on_chassis && bodies[i].carrier == c.ref) add(rider, i);
        if (!rider.bodies.empty()) all.push_back(std::move(rider));
    }
    for (std::size_t i = 0; i < bodies.size(); ++i)
        if (bodies[i].in_bore && !bodies[i].on_chassis) {
            Rider rider{bodies[i].ref, job::End::both, false, job::CarrierKind::fixed, {}, {}, {}};
            add(rider, i);
            all.push_back(std::move(rider));
        }
    return all;
}

Passing passing(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies, const Rider& rider) {
    Passing best;
    best.carrier = rider.ref;
    best.from = rider.from;
    best.to = rider.to;
    for (const std::size_t i : rider.bodies)
        best.width = std::max(best.width, bodies[i].need);
    best.room = Millimetre(-INFINITY);
    best.ok = false;
    auto all = pieces(hilt);
    if (all.empty()) {
        best.ok = true;
        best.room = Millimetre(INFINITY);
        return best;
    }
    const Lot lot = lot_of(bodies, rider);
    look_in_place(hilt, lot, best);
    const std::size_t base = piece_of(all, rider.from, rider.to);
    // What rides on nothing goes in by the blade's end too; only a chassis can not be built there.
    if (!rider.carrier) all.back().open_right = true;
    best.in_from = all[base].from;
    best.in_to = all[base].to;
    best.reason = all[base].open_left || all[base].open_right
                      ? "the end it should go in by is closed"
                      : "no end opens";
    // The sections beyond the one it goes into are slid over it.
    Way over;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (i == base || all[i].to <= rider.from || all[i].from >= rider.to) continue;
        if (const Way w = slide(hilt, lot, all[i], i > base); w.least.room < over.least.room)
            over = w;
    }
    for (const bool left : {true, false}) {
        if (!(left ? all[base].open_left : all[base].open_right) || !may(rider.goes_in, left))
            continue;
        Way way = slide(hilt, lot, all[base], left);
        if (over.least.room < way.least.room) way = over;
        if (Millimetre(way.least.room) <= best.room) continue;
        best.room = Millimetre(way.least.room);
        best.from_pommel = left;
        best.at = Millimetre(way.least.at);
        best.still_to_go = Millimetre(way.to_go);
        best.part = way.least.body ? way.least.body->ref : std::string();
        best.section = way.least.body ? hilt.sections[way.least.section].name : std::string();
        best.reason = {};
    }
    best.ok = best.reason.empty() && best.room >= Millimetre(0);
    return best;
}

Millimetre room_at(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies, const Rider& rider,
                   const Passing& way, Millimetre to_go) {
    const Piece piece{way.in_from, way.in_to, true, true};
    const double shift = way.from_pommel ? -to_go.value() : to_go.value();
    return Millimetre(room_of(hilt, lot_of(bodies, rider), piece, shift).room);
}

} // namespace conductus::hilt
