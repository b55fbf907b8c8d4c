// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/fit.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

using catalogue::Body;

constexpr Millimetre touching(1e-6);
constexpr Millimetre button_top(1.8);

double half_width(const Body& b) {
    return (b.shape == Body::Shape::cylinder ? b.diameter : b.width).value() / 2;
}

/// Smallest bore on the axis that holds the body off the axis as it is.
Millimetre bore_for(const Body& b, Millimetre off_axis) {
    const double off = std::abs(off_axis.value());
    if (b.shape == Body::Shape::cylinder) return Millimetre(2 * off + b.diameter.value());
    return Millimetre(2 * std::hypot(half_width(b), off + b.height.value() / 2));
}

bool overlap(const PlacedBody& a, const PlacedBody& b) {
    const bool along = std::min(a.to, b.to) - std::max(a.from, b.from) > touching;
    const Millimetre apart(std::abs((a.off_axis - b.off_axis).value()));
    return along && (a.height + b.height) / 2 - apart > touching;
}

/// Least room of one body in the bore, along the stretch it lies in or has to pass.
Clearance against_bore(const PlacedBody& body, const job::Hilt& hilt) {
    Clearance c{body.ref, Millimetre(INFINITY), body.from, {}, false};
    const bool from_pommel = hilt.opens == job::End::pommel;
    for (const job::Section& s : hilt.sections) {
        const bool here = s.from < body.to - touching && s.to > body.from + touching;
        const bool before =
            from_pommel ? s.to <= body.from + touching : s.from >= body.to - touching;
        if (!here && !(body.on_chassis && before)) continue;
        const Millimetre spare = s.bore - body.need;
        if (spare < c.spare) {
            c.spare = spare;
            c.at = here ? std::max(s.from, body.from) : s.from;
            c.against = s.name;
            c.on_the_way = !here;
        }
    }
    return c;
}

Clearance clearance_of(const PlacedBody& body, const job::Hilt& hilt,
                       const std::vector<PlacedBody>& bodies) {
    Clearance c = against_bore(body, hilt);
    const Millimetre end = hilt.sections.back().to;
    if (body.to > end + touching && end - body.to < c.spare)
        c = {body.ref, end - body.to, end, "end of the hilt", false};
    for (const PlacedBody& other : bodies) {
        if (other.ref == body.ref || !other.in_bore || !overlap(body, other)) continue;
        // How far it would have to move to be clear: what it overlaps by may be less.
        const Millimetre into = std::min(body.to - other.from, other.to - body.from);
        if (-into < c.spare)
            c = {body.ref, -into, std::max(body.from, other.from), other.ref, false};
    }
    return c;
}

} // namespace

const Clearance* Fit::tightest() const {
    const auto it = std::min_element(clearances.begin(), clearances.end(),
                                     [](auto& a, auto& b) { return a.spare < b.spare; });
    return it == clearances.end() ? nullptr : &*it;
}

const Clearance* Fit::of(std::string_view ref) const { return job::find_ref(clearances, ref); }

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
    }
    placed.from = part.at;
    placed.to = part.at + placed.body.length;
    placed.off_axis = part.off_axis;
    placed.height =
        placed.body.shape == Body::Shape::cylinder ? placed.body.diameter : placed.body.height;
    placed.in_bore = !std::holds_alternative<catalogue::Button>(type.figures);
    placed.on_chassis = placed.in_bore &&
                        !std::holds_alternative<catalogue::Speaker>(type.figures) &&
                        !std::holds_alternative<catalogue::Connector>(type.figures);
    placed.need = bore_for(placed.body, part.off_axis) +
                  (placed.on_chassis ? hilt.chassis_wall * 2 : Millimetre(0));
    return placed;
}

Fit fit(const job::Job& job, const catalogue::Catalogue& parts) {
    Fit result;
    for (const job::Part& part : job.parts)
        result.bodies.push_back(place(part, job.hilt, parts));
    if (job.hilt.sections.empty()) return result;
    for (const PlacedBody& body : result.bodies)
        if (body.in_bore) result.clearances.push_back(clearance_of(body, job.hilt, result.bodies));
    return result;
}

Trial try_type(const job::Job& job, const catalogue::Catalogue& parts, const std::string& ref,
               const std::string& type) {
    job::Part part = *job::find_ref(job.parts, ref);
    part.type = type;
    std::vector<PlacedBody> others;
    for (const job::Part& other : job.parts)
        if (other.ref != ref) others.push_back(place(other, job.hilt, parts));

    // Where it is now, then against the neighbour on either side.
    const PlacedBody now = place(part, job.hilt, parts);
    const Millimetre middle =
        now.from + (place(*job::find_ref(job.parts, ref), job.hilt, parts).to - part.at) / 2;
    Millimetre low(0),
        high = job.hilt.sections.empty() ? Millimetre(0) : job.hilt.sections.back().to;
    for (const PlacedBody& other : others) {
        PlacedBody reach = now;
        reach.from = other.from, reach.to = other.to;
        if (!other.in_bore || !overlap(reach, other)) continue; // never in each other's way
        if (other.to <= middle) low = std::max(low, other.to);
        if (other.from >= middle) high = std::min(high, other.from);
    }
    Trial best{part.at, {ref, Millimetre(-INFINITY), part.at, {}, false}};
    if (job.hilt.sections.empty())
        return {part.at, {ref, Millimetre(INFINITY), part.at, {}, false}};
    for (const Millimetre at : {part.at, low, high - now.body.length}) {
        if (at < Millimetre(0)) continue;
        part.at = at;
        const Clearance c = clearance_of(place(part, job.hilt, parts), job.hilt, others);
        if (c.spare > best.clearance.spare) best = {at, c};
    }
    return best;
}

} // namespace conductus::hilt
