// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/drag.h"

#include <algorithm>
#include <cmath>

#include "core/hilt/body.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

double tenths(double mm) { return std::round(mm * 10) / 10; }

tl::unexpected<Problem> no_such_part(const std::string& ref) {
    return problem("/parts", say("there is no part {}", ref), "Choose one");
}

} // namespace

HandPlace place_of(const job::Part& part) { return {part.at, part.off_axis, part.turn}; }

Snap snap_along(const job::Job& job, const catalogue::Catalogue& parts, const std::string& ref,
                Millimetre wanted, Millimetre within) {
    job::Part moved = *job::find_ref(job.parts, ref);
    moved.at = wanted;
    const PlacedBody body = place(moved, job.hilt, parts);
    const double length = (body.to - body.from).value(),
                 ahead = (body.from - moved.at).value(); // protection lies before the part
    Snap best{Millimetre(std::max(0.0, tenths(wanted.value()))), {}};
    double nearest = within.value() + 1e-9;
    /// Another start of the body.
    const auto offer = [&](double start, const Message& to) {
        const double at = start - ahead, by = std::abs(at - wanted.value());
        if (at < -1e-9 || by >= nearest) return;
        nearest = by;
        best = {Millimetre(std::max(0.0, at)), to};
    };
    const auto& sections = job.hilt.sections;
    for (std::size_t i = 0; i < sections.size(); ++i) {
        const bool steps = i > 0 && sections[i].bore != sections[i - 1].bore;
        if (i > 0 && !steps) continue;
        const double x = sections[i].from.value();
        const Message to =
            i == 0 ? Message("the pommel end") : say("the shoulder at {}", text(sections[i].from));
        offer(x, to);
        if (i > 0) offer(x - length, to);
    }
    if (!sections.empty()) offer(sections.back().to.value() - length, "the emitter end");
    // What rides on a carrier moves past its ends; the ends of the others are what it meets.
    std::string carrier = body.carrier;
    for (const job::Carrier& c : job.hilt.carriers) {
        if (c.ref == carrier) continue;
        double from = INFINITY, to = -INFINITY;
        for (const job::Part& part : job.parts)
            if (part.carrier == c.ref && part.ref != ref) {
                const PlacedBody other = place(part, job.hilt, parts);
                from = std::min(from, other.from.value()), to = std::max(to, other.to.value());
            }
        if (from > to) continue;
        offer(to, say("the end of carrier {}", c.ref));
        offer(from - length, say("the end of carrier {}", c.ref));
    }
    for (const job::Part& part : job.parts) {
        if (part.ref == ref) continue;
        const PlacedBody other = place(part, job.hilt, parts);
        if (!other.in_bore) continue;
        offer(other.to.value(), say("the end of {}", part.ref));
        offer(other.from.value() - length, say("the end of {}", part.ref));
    }
    for (const job::Opening& o : job.hilt.openings)
        if (o.part.empty() || o.part == ref)
            offer(o.at.value() - length / 2, say("the middle of {}", o.name));
    return best;
}

job::Edit move_part(std::string ref, HandPlace to) {
    return [ref = std::move(ref), to](job::Job& job) -> Result<void> {
        job::Part* part = job::find_ref(job.parts, ref);
        if (!part) return no_such_part(ref);
        part->at = to.at, part->off_axis = to.off_axis, part->turn = to.turn;
        return {};
    };
}

job::Edit nudge_part(std::string ref, Millimetre along, Millimetre up, Degree turn) {
    return [ref = std::move(ref), along, up, turn](job::Job& job) -> Result<void> {
        job::Part* part = job::find_ref(job.parts, ref);
        if (!part) return no_such_part(ref);
        part->at = Millimetre(std::max(0.0, tenths((part->at + along).value())));
        part->off_axis = Millimetre(tenths((part->off_axis + up).value()));
        part->turn = Degree(std::remainder(part->turn.value() + turn.value(), 360.0));
        return {};
    };
}

} // namespace conductus::hilt
