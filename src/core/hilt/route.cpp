// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/route.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

#include "core/base/format.h"
#include "core/base/wire_gauge.h"
#include "core/catalogue/kinds.h"
#include "core/hilt/bore.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr double pi = std::numbers::pi;
constexpr double usual_radius = 12; // mm, where no bore is surveyed

/// Clockwise seen from the pommel, 0 at the top, radians.
double angle_of(const Spot& s) { return std::atan2(s.x, s.y); }

/// The shorter way round between two angles.
double between(double a, double b) { return std::abs(std::remainder(a - b, 2 * pi)); }

double across(const Spot& s) { return std::hypot(s.x, s.y); }

/// Pads of a board stand along its two long edges, in the order of its terminals.
void pad_place(Spot& spot, const PlacedBody& body, const std::vector<std::string>& terminals,
               std::string_view terminal) {
    const auto it = std::find(terminals.begin(), terminals.end(), terminal);
    const auto i = static_cast<std::size_t>(it - terminals.begin());
    const std::size_t first = (terminals.size() + 1) / 2;
    const bool back = i >= first;
    const std::size_t row = back ? terminals.size() - first : first, k = back ? i - first : i;
    const double length = (body.to - body.from).value(), inset = std::min(2.0, length / 4);
    const double share = row > 1 ? static_cast<double>(k) / static_cast<double>(row - 1) : 0.5;
    const double along = inset + (back ? 1 - share : share) * (length - 2 * inset);
    spot.z = body.from.value() + along;
    const Solid& solid = body.solids.front();
    const double edge = (back ? 1 : -1) * std::max(0.0, solid.half_w - 1);
    spot.x = solid.x + edge * std::cos(solid.turn);
    spot.y = solid.y - edge * std::sin(solid.turn);
}

} // namespace

Router::Router(const job::Job& job, const catalogue::Catalogue& parts)
    : job_(job), parts_(parts), bodies_(place_all(job, parts)), carriers_(carriers_of(job.hilt)) {
    if (!job.hilt.sections.empty()) mouth_ = job.hilt.sections.back().to.value();
    for (const PlacedBody& b : bodies_)
        if (job.hilt.sections.empty()) mouth_ = std::max(mouth_, b.to.value());
    double deep = 0;
    for (const job::SocketBore& b : job.hilt.socket.bores)
        deep = std::max(deep, b.depth.value());
    seat_ = std::max(0.0, mouth_ - deep);
    for (const job::Joint& joint : job.hilt.joints) {
        if (joint.kind != job::JointKind::thread || !(joint.pitch > Millimetre(0)) ||
            !(joint.engaged > Millimetre(0)))
            continue;
        double area = 0;
        for (const job::Wire& wire : job.wires) {
            const auto a = spot(wire.from), b = spot(wire.to);
            if (a && b && std::min(a->z, b->z) < joint.at.value() &&
                std::max(a->z, b->z) > joint.at.value() && docks(wire).empty() &&
                !rides_along(wire.from, wire.to))
                area += insulated_area(wire.gauge);
        }
        if (area > 0)
            turned_.push_back(
                {joint.at.value(), joint.engaged / joint.pitch, std::sqrt(area / pi) / 2});
    }
}

bool Router::rides_along(const std::string& from, const std::string& to) const {
    const PlacedBody* a = job::find_ref(bodies_, job::split_terminal(from).first);
    const PlacedBody* b = job::find_ref(bodies_, job::split_terminal(to).first);
    return a && b && a->on_chassis && b->on_chassis && a->carrier == b->carrier;
}

double wound_up(double length, double radius, double turns) {
    return std::hypot(length, 2 * pi * radius * turns) - length;
}

double Router::wound_up(double from, double to, double length) const {
    double taken = 0;
    for (const Turned& t : turned_)
        if (std::min(from, to) < t.at && std::max(from, to) > t.at)
            taken += hilt::wound_up(length, t.radius, t.turns);
    return taken;
}

std::optional<Spot> Router::spot(const std::string& terminal) const {
    const auto [owner, name] = job::split_terminal(terminal);
    const std::string ref(owner);
    const auto* body = job::find_ref(bodies_, ref);
    if (!body) {
        for (const job::Blade& blade : job_.blades) {
            if (blade.ref == ref) return Spot{seat_, 0, 0, {}};
            for (const job::Strip& strip : blade.strips)
                if (strip.ref == ref) return Spot{seat_, 0, 0, {}};
        }
        return std::nullopt;
    }
    const job::Part* part = job::find_ref(job_.parts, ref);
    const auto* type = parts_.find(part->type);
    Spot s;
    s.rider = body->carrier;
    if (!body->solids.empty()) s.x = body->solids.front().x, s.y = body->solids.front().y;
    const double from = body->from.value(), to = body->to.value();
    s.z = (from + to) / 2;
    switch (catalogue::place_of_terminal(type->figures, name)) {
    case catalogue::TerminalPlace::plus_end:
        s.z = (name == "plus") == (part->minus_faces != job::End::emitter) ? to : from;
        break;
    case catalogue::TerminalPlace::edges:
        pad_place(s, *body, type->terminals, name);
        break;
    case catalogue::TerminalPlace::start:
        s.z = from;
        break;
    case catalogue::TerminalPlace::end:
        s.z = to;
        break;
    case catalogue::TerminalPlace::middle:
        break;
    }
    return s;
}

double Router::radius(double from, double to) const {
    const Narrow n = narrowest(job_.hilt.sections, Millimetre(std::min(from, to)),
                               Millimetre(std::max(from, to)));
    const double bore = n.bore.value();
    if (!std::isfinite(bore)) return usual_radius;
    return std::max(1.0, bore / 2 - off_the_wall.value());
}

/// From end to end; what of it is along and what around goes to the route.
double Router::path(const Spot& a, const Spot& b, const std::optional<Degree>& turn,
                    Route& route) const {
    const double low = std::min(a.z, b.z), high = std::max(a.z, b.z);
    const bool free = std::none_of(bodies_.begin(), bodies_.end(), [&](const PlacedBody& body) {
        // What ends where the wire ends is what it is soldered to.
        return body.in_bore &&
               std::min(high, body.to.value()) - std::max(low, body.from.value()) > 1e-6;
    });
    if (free && !turn) {
        const double straight = std::sqrt((a.z - b.z) * (a.z - b.z) + (a.x - b.x) * (a.x - b.x) +
                                          (a.y - b.y) * (a.y - b.y));
        route.straight = true;
        route.line.push_back({Millimetre(a.z), Millimetre(a.y)});
        route.line.push_back({Millimetre(b.z), Millimetre(b.y)});
        route.along += Millimetre(straight);
        return straight;
    }
    const double r = radius(low, high);
    const double out = std::max(0.0, r - across(a)) + std::max(0.0, r - across(b));
    // A terminal on the axis has the wire leave it to any side.
    const bool a_turned = across(a) > 1e-6, b_turned = across(b) > 1e-6;
    double round = 0, runs = a_turned ? angle_of(a) : b_turned ? angle_of(b) : 0;
    if (turn) {
        runs = turn->value() * pi / 180;
        round = (a_turned ? between(angle_of(a), runs) : 0) +
                (b_turned ? between(angle_of(b), runs) : 0);
    } else if (a_turned && b_turned) {
        round = between(angle_of(a), angle_of(b));
    }
    route.turn = Degree(std::remainder(runs, 2 * pi) * 180 / pi);
    const Millimetre up(r * std::cos(runs));
    for (const Bend& bend : {Bend{Millimetre(a.z), Millimetre(a.y)}, Bend{Millimetre(a.z), up},
                             Bend{Millimetre(b.z), up}, Bend{Millimetre(b.z), Millimetre(b.y)}})
        route.line.push_back(bend);
    route.along += Millimetre(high - low + out);
    route.around += Millimetre(r * round);
    return high - low + out + r * round;
}

double Router::withdrawal(const Spot& end, const Spot& other, Message& way) const {
    const auto* carrier = job::find_ref(carriers_, end.rider);
    double from = 1e9, to = -1e9;
    for (const PlacedBody& b : bodies_)
        if (b.carrier == end.rider)
            from = std::min(from, b.from.value()), to = std::max(to, b.to.value());
    const auto apart = pieces(job_.hilt);
    double left = 0, right = mouth_;
    bool by_left = carrier->goes_in != job::End::emitter;
    if (!apart.empty()) {
        const Piece& p = apart[piece_of(apart, Millimetre(from), Millimetre(to))];
        left = p.from.value(), right = p.to.value();
        if (!p.open_left && p.open_right) by_left = false;
        if (p.open_left && !p.open_right) by_left = true;
    }
    const double by = by_left ? to - left : right - from;
    const double moved = end.z + (by_left ? -by : by);
    way = say("slides out {} by the {} side", text(Millimetre(by)), by_left ? "pommel" : "emitter");
    return std::max(0.0, std::abs(other.z - moved) - std::abs(other.z - end.z));
}

std::vector<std::string> Router::docks(const job::Wire& wire) const {
    const auto a = spot(wire.from), b = spot(wire.to);
    if (!a || !b || a->rider == b->rider) return {};
    const auto leaves = [&](const Spot& end) {
        const auto* carrier = job::find_ref(carriers_, end.rider);
        return carrier && carrier->kind == job::CarrierKind::removable;
    };
    if (!leaves(*a) && !leaves(*b)) return {};
    const double low = std::min(a->z, b->z), high = std::max(a->z, b->z);
    std::vector<const PlacedBody*> on_way;
    for (const PlacedBody& body : bodies_) {
        const job::Part* part = job::find_ref(job_.parts, body.ref);
        if (!parts_.find_as<catalogue::Connector>(part->type)) continue;
        if (std::any_of(job_.blades.begin(), job_.blades.end(),
                        [&](const job::Blade& blade) { return blade.connector == body.ref; }))
            continue;
        const auto own = [&](const std::string& terminal) {
            return job::split_terminal(terminal).first == body.ref;
        };
        if (body.from.value() >= low - 1e-6 && body.to.value() <= high + 1e-6 && !own(wire.from) &&
            !own(wire.to))
            on_way.push_back(&body);
    }
    std::sort(on_way.begin(), on_way.end(), [&](const PlacedBody* p, const PlacedBody* q) {
        return (p->from < q->from) == (a->z < b->z);
    });
    std::vector<std::string> refs;
    for (const PlacedBody* body : on_way)
        refs.push_back(body->ref);
    return refs;
}

Route Router::route(const job::Wire& wire) const {
    Route route;
    route.ref = wire.ref;
    const auto a = spot(wire.from), b = spot(wire.to);
    if (!a || !b) {
        route.ends = solder_end + solder_end;
        route.pieces = {route.ends};
        return route;
    }
    route.from = Millimetre(a->z), route.to = Millimetre(b->z);
    const auto* ca = job::find_ref(carriers_, a->rider);
    const auto* cb = job::find_ref(carriers_, b->rider);
    const bool apart = a->rider != b->rider;
    auto is = [&](const job::Carrier* c, job::CarrierKind kind) { return c && c->kind == kind; };
    const bool docks =
        apart && (is(ca, job::CarrierKind::removable) || is(cb, job::CarrierKind::removable));
    const bool slides =
        apart && (is(ca, job::CarrierKind::slide_out) || is(cb, job::CarrierKind::slide_out));
    if (docks) {
        route.docks = this->docks(wire);
        if (!route.docks.empty()) {
            Spot at = *a;
            for (const std::string& ref : route.docks) {
                const PlacedBody* dock = job::find_ref(bodies_, ref);
                const bool forth = a->z < b->z;
                const Spot face{(forth ? dock->from : dock->to).value(), 0, 0, {}};
                route.pieces.push_back(Millimetre(path(at, face, wire.turn, route)) + solder_end +
                                       solder_end);
                route.ends += solder_end + solder_end;
                at = {(forth ? dock->to : dock->from).value(), 0, 0, {}};
            }
            route.pieces.push_back(Millimetre(path(at, *b, wire.turn, route)) + solder_end +
                                   solder_end + wire.loop);
            route.ends += solder_end + solder_end;
            route.slack = wire.loop;
            route.why = say("cut by {}: no slack across it", conductus::joined(route.docks, ", "));
            return route;
        }
    }
    (void)path(*a, *b, wire.turn, route);
    route.ends = solder_end + solder_end;
    if (slides || docks) {
        Message way;
        double most = 0;
        for (const auto& [end, other, carrier] :
             {std::tuple(&*a, &*b, ca), std::tuple(&*b, &*a, cb)}) {
            if (!is(carrier, job::CarrierKind::slide_out) &&
                !is(carrier, job::CarrierKind::removable))
                continue;
            Message one;
            const double by = withdrawal(*end, *other, one);
            if (by >= most) most = by, way = one;
        }
        route.out = Millimetre(most);
        route.slack = Millimetre(most) + coil_over;
        route.why = say("{}, and a coil", way);
    } else {
        route.slack = service_loop;
        route.why = "service loop";
    }
    route.slack += wire.loop;
    if (!rides_along(wire.from, wire.to))
        route.twist = Millimetre(wound_up(a->z, b->z, route.length().value()));
    route.slack += route.twist;
    if (route.twist > Millimetre(0.5)) route.why = say("{}, and turns of a joint", route.why);
    route.pieces = {route.length()};
    return route;
}

namespace {

std::string_view pole_of(job::Role role) {
    return role == job::Role::supply ? "plus" : role == job::Role::return_path ? "minus" : "data";
}

/// Contacts of one board to the wires it cuts.
void deal(std::vector<Rail*> rails, const job::Job& job, const catalogue::Connector& dock) {
    std::map<std::string_view, std::vector<std::string>> left;
    for (const auto& [pole, count] : {std::pair(std::string_view("plus"), dock.plus_pins),
                                      std::pair(std::string_view("minus"), dock.minus_pins),
                                      std::pair(std::string_view("data"), dock.data_pins)})
        for (int i = count; i >= 1; --i)
            left[pole].push_back(fmt::format("{}{}", pole, i));
    auto wire = [&](const Rail* r) { return job::find_ref(job.wires, r->wire); };
    auto take = [&](Rail* rail, std::string_view pole) {
        auto& of = left[pole];
        if (of.empty()) return false;
        rail->pins.push_back(std::move(of.back()));
        of.pop_back();
        return true;
    };
    for (Rail* r : rails)
        (void)take(r, pole_of(wire(r)->role));
    for (Rail* r : rails)
        for (const std::string_view pole : {"data", "minus", "plus"})
            if (r->pins.empty()) (void)take(r, pole);
    std::stable_sort(rails.begin(), rails.end(),
                     [&](const Rail* a, const Rail* b) { return wire(a)->gauge < wire(b)->gauge; });
    for (const job::Role role : {job::Role::supply, job::Role::return_path})
        for (bool more = true; more;) {
            more = false;
            for (Rail* r : rails)
                if (wire(r)->role == role && !r->pins.empty() && take(r, pole_of(role)))
                    more = true;
        }
}

} // namespace

Runs runs_of(const job::Job& job, const catalogue::Catalogue& parts) {
    Runs runs;
    const auto carriers = carriers_of(job.hilt); // as the school says where none are listed
    const bool docks = std::any_of(carriers.begin(), carriers.end(), [](const job::Carrier& c) {
        return c.kind == job::CarrierKind::removable;
    });
    std::optional<Router> router; // only where something follows from it
    for (const job::Wire& wire : job.wires) {
        if (!router && (docks || !wire.length)) router.emplace(job, parts);
        runs.lengths.emplace(wire.ref, wire.length ? *wire.length : router->route(wire).length());
    }
    if (docks && router) runs.rails = rails_of(job, parts, *router);
    return runs;
}

std::vector<Rail> rails_of(const job::Job& job, const catalogue::Catalogue& parts,
                           const Router& router) {
    std::vector<Rail> all;
    for (const job::Wire& wire : job.wires)
        for (std::string& dock : router.docks(wire))
            all.push_back({std::move(dock), wire.ref, {}});
    std::map<std::string, std::vector<Rail*>> by_dock;
    for (Rail& rail : all)
        by_dock[rail.dock].push_back(&rail);
    for (const auto& [ref, rails] : by_dock)
        deal(rails, job, *parts.find_as<catalogue::Connector>(job::find_ref(job.parts, ref)->type));
    return all;
}

} // namespace conductus::hilt
