// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/body.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

using catalogue::Body;

constexpr Millimetre button_top(1.8);
constexpr double hair = 1e-6;

struct Point {
    double x, y;
};

std::array<Point, 4> corners(const Solid& s) {
    const double c = std::cos(s.turn), n = std::sin(s.turn);
    std::array<Point, 4> points{};
    for (std::size_t i = 0; i < 4; ++i) {
        const double w = (i == 0 || i == 3 ? -1 : 1) * s.half_w, h = (i < 2 ? -1 : 1) * s.half_h;
        points[i] = {s.x + w * c - h * n, s.y + w * n + h * c};
    }
    return points;
}

/// Both outlines' shadows on a direction; no overlap of the shadows means none of the outlines.
bool apart_along(const Solid& a, const Solid& b, double nx, double ny) {
    const auto shadow = [&](const Solid& s) {
        if (s.round) {
            const double middle = s.x * nx + s.y * ny;
            return std::pair<double, double>(middle - s.half_w, middle + s.half_w);
        }
        std::pair<double, double> range(INFINITY, -INFINITY);
        for (const Point& p : corners(s)) {
            const double at = p.x * nx + p.y * ny;
            range = {std::min(range.first, at), std::max(range.second, at)};
        }
        return range;
    };
    const auto [a0, a1] = shadow(a);
    const auto [b0, b1] = shadow(b);
    return a1 <= b0 + hair || b1 <= a0 + hair;
}

/// The directions that can part two convex outlines: normals of the boxes, and for a disc the line
/// to the nearest corner or middle.
bool separated(const Solid& a, const Solid& b) {
    for (const Solid* s : {&a, &b})
        if (!s->round)
            for (const double turn : {s->turn, s->turn + std::numbers::pi / 2})
                if (apart_along(a, b, std::cos(turn), std::sin(turn))) return true;
    const auto from_disc = [&](const Solid& disc, const Solid& other) {
        std::vector<Point> targets;
        if (other.round) {
            targets.push_back({other.x, other.y});
        } else {
            const auto all = corners(other);
            targets.assign(all.begin(), all.end());
        }
        return std::any_of(targets.begin(), targets.end(), [&](const Point& p) {
            const double d = std::hypot(p.x - disc.x, p.y - disc.y);
            return d > 0 && apart_along(a, b, (p.x - disc.x) / d, (p.y - disc.y) / d);
        });
    };
    if (a.round && from_disc(a, b)) return true;
    return b.round && from_disc(b, a);
}

Solid solid_of(Body::Shape shape, Millimetre from, Millimetre length, Millimetre diameter,
               Millimetre width, Millimetre height) {
    Solid s;
    s.from = from;
    s.to = from + length;
    s.round = shape == Body::Shape::cylinder;
    s.half_w = (s.round ? diameter : width).value() / 2;
    s.half_h = (s.round ? diameter : height).value() / 2;
    return s;
}

/// The part's solids about the axis, then moved and turned to where it is fitted.
std::vector<Solid> solids_of(const Body& body, const job::Part& part) {
    std::vector<Solid> solids;
    if (body.shape == Body::Shape::compound) {
        for (const catalogue::BodyPiece& p : body.pieces) {
            solids.push_back(
                solid_of(p.shape, part.at + p.from, p.length, p.diameter, p.width, p.height));
            solids.back().x = p.side.value();
            solids.back().y = p.up.value();
        }
    } else {
        solids.push_back(
            solid_of(body.shape, part.at, body.length, body.diameter, body.width, body.height));
    }
    const double turn = part.turn.value() * std::numbers::pi / 180;
    const double c = std::cos(turn), n = std::sin(turn);
    for (Solid& s : solids) {
        const double x = s.x, y = s.y;
        if (turn != 0) s.x = x * c - y * n, s.y = x * n + y * c, s.turn = turn;
        s.x += part.side.value();
        s.y += part.off_axis.value();
    }
    return solids;
}

} // namespace

void outline(const Solid& s, double wall, std::vector<Disc>& into) {
    if (s.round) {
        into.push_back({s.x, s.y, s.half_w + wall});
        return;
    }
    for (const Point& p : corners(s))
        into.push_back({p.x, p.y, wall});
}

double reach(const Solid& s) {
    if (s.round) return std::hypot(s.x, s.y) + s.half_w;
    if (s.centred()) return std::hypot(s.half_w, s.half_h);
    double most = 0;
    for (const Point& p : corners(s))
        most = std::max(most, std::hypot(p.x, p.y));
    return most;
}

bool outlines_overlap(const Solid& a, const Solid& b) {
    const bool along = std::min(a.to, b.to) - std::max(a.from, b.from) > Millimetre(hair);
    return along && !separated(a, b);
}

bool in_each_other(const PlacedBody& a, const PlacedBody& b) {
    constexpr double inside = 1; // mm: each outline is drawn in by half of it
    const auto drawn_in = [](Solid s) {
        s.from += Millimetre(inside / 2), s.to -= Millimetre(inside / 2);
        s.half_w -= inside / 2, s.half_h -= inside / 2;
        return s;
    };
    const auto left = [](const Solid& s) { return s.half_w > 0 && s.half_h > 0 && s.to > s.from; };
    for (const Solid& x : a.solids)
        for (const Solid& y : b.solids) {
            const Solid p = drawn_in(x), q = drawn_in(y);
            if (left(p) && left(q) && outlines_overlap(p, q)) return true;
        }
    return false;
}

std::vector<job::Carrier> carriers_of(const job::Hilt& hilt) {
    if (!hilt.carriers.empty()) return hilt.carriers;
    const auto kind = hilt.chassis == job::Chassis::fixed       ? job::CarrierKind::fixed
                      : hilt.chassis == job::Chassis::removable ? job::CarrierKind::removable
                                                                : job::CarrierKind::slide_out;
    return {{"chassis", kind, hilt.chassis_wall, job::End::both}};
}

PlacedBody place(const job::Part& part, const job::Hilt& hilt, const catalogue::Catalogue& parts) {
    const catalogue::PartType& type = *parts.find(part.type);
    PlacedBody placed;
    placed.ref = part.ref;
    placed.body = type.body;
    if (std::holds_alternative<catalogue::Cell>(type.figures)) {
        if (part.protection)
            if (const auto* board = parts.find_as<catalogue::Protection>(*part.protection))
                placed.body.length += board->adds;
        if (part.top == job::CellTop::button) placed.body.length += button_top;
        if (part.adapter && parts.find(*part.adapter)) { // takes the bay's room
            const catalogue::Body& bay = parts.find(*part.adapter)->body;
            placed.body.diameter = std::max(placed.body.diameter, bay.diameter);
            placed.body.length = std::max(placed.body.length, bay.length);
        }
    }
    placed.from = part.at;
    placed.to = part.at + placed.body.length;
    placed.off_axis = part.off_axis;
    const catalogue::Kind& kind = catalogue::kind_of(type.figures);
    placed.in_bore = kind.stands == catalogue::Stands::bore;
    placed.carrier = part.ref;
    if (!hilt.carriers.empty()) {
        const job::Carrier* c = job::find_ref(hilt.carriers, part.carrier);
        placed.on_chassis = placed.in_bore && c;
        if (placed.on_chassis) placed.carrier = c->ref, placed.wall = c->wall;
    } else {
        placed.on_chassis = placed.in_bore && kind.on_chassis;
        if (placed.on_chassis) placed.carrier = "chassis", placed.wall = hilt.chassis_wall;
    }
    placed.solids = solids_of(placed.body, part);
    double low = INFINITY, high = -INFINITY;
    std::vector<Disc> discs;
    for (const Solid& s : placed.solids) {
        outline(s, placed.wall.value(), discs);
        double up = s.half_h;
        if (!s.round)
            up = std::abs(s.half_w * std::sin(s.turn)) + std::abs(s.half_h * std::cos(s.turn));
        low = std::min(low, s.y - up);
        high = std::max(high, s.y + up);
    }
    placed.height = Millimetre(high - low);
    placed.need = Millimetre(2 * smallest_circle(discs).r);
    return placed;
}

std::vector<PlacedBody> place_all(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<PlacedBody> bodies;
    bodies.reserve(job.parts.size());
    for (const job::Part& part : job.parts)
        bodies.push_back(place(part, job.hilt, parts));
    return bodies;
}

} // namespace conductus::hilt
