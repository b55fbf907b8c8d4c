// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/guards.h"

#include <algorithm>
#include <cmath>

#include "core/base/format.h"

namespace conductus::power {
namespace {

/// A resettable fuse holds again once it has cooled to this share of where it opens.
constexpr double holds_again = 0.2;

} // namespace

Ampere opens_at(const catalogue::Fuse& fuse) {
    return Ampere(std::sqrt(fuse.hold.value() * std::max(fuse.trip, fuse.hold).value()));
}

Second warms_in(const catalogue::Fuse& fuse) {
    if (fuse.warms > Second(0)) return fuse.warms;
    return Second(fuse.resettable ? 30 : 8);
}

std::vector<Guard> guards_of(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<Guard> all;
    for (const job::Part& part : job.parts) {
        const catalogue::PartType* type = parts.find(part.type);
        if (!type || all.size() == guard_count) continue;
        Guard guard;
        guard.ref = part.ref;
        if (const auto* fuse = std::get_if<catalogue::Fuse>(&type->figures)) {
            guard.kind = fuse->resettable ? Guard::Kind::resettable : Guard::Kind::fuse;
            guard.opens = opens_at(*fuse);
            guard.warms = warms_in(*fuse);
        } else if (std::holds_alternative<catalogue::Regulator>(type->figures) ||
                   std::holds_alternative<catalogue::Driver>(type->figures)) {
            guard.kind = Guard::Kind::shutdown;
            guard.to_air = type->thermal;
            // About 1 J/gK, as of a cell.
            guard.warms = Second(type->thermal.value() * std::max(type->mass.value(), 0.5));
        } else {
            continue;
        }
        all.push_back(std::move(guard));
    }
    return all;
}

std::vector<Guarded> guarded_in(const std::vector<Guard>& guards) {
    std::vector<Guarded> all;
    for (const Guard& guard : guards)
        all.push_back({guard.ref, guard.watts()});
    return all;
}

Warming::Warming(std::vector<Guard> guards, Celsius air) : guards_(std::move(guards)) {
    for (const Guard& guard : guards_)
        warmth_.push_back(guard.watts() ? air.value() : 0);
}

double Warming::settled(std::size_t guard, double flow, Celsius air) const {
    const Guard& g = guards_[guard];
    if (g.watts()) return air.value() + flow * g.to_air.value();
    const double share = flow / g.opens.value();
    return share * share;
}

double Warming::limit(std::size_t guard) const {
    return guards_[guard].watts() ? shuts_down.value() : 1;
}

std::optional<Warming::Opening> Warming::pass(const std::array<double, guard_count>& flows,
                                              double seconds, Celsius air) {
    std::optional<Opening> first;
    for (std::size_t i = 0; i < guards_.size(); ++i) {
        const double to = settled(i, flows[i], air), from = warmth_[i], most = limit(i);
        warmth_[i] = to + (from - to) * std::exp(-seconds / guards_[i].warms.value());
        if (!(warmth_[i] >= most)) continue;
        // When it passed: from + (to − from)(1 − e^(−t/τ)) = most.
        const double after =
            from >= most ? 0 : guards_[i].warms.value() * std::log((to - from) / (to - most));
        const double share = seconds > 0 ? std::clamp(after / seconds, 0.0, 1.0) : 0;
        if (!first || share < first->share) first = Opening{i, share};
    }
    return first;
}

std::optional<std::size_t> Warming::would_open(const std::array<double, guard_count>& flows,
                                               double seconds, Celsius air) const {
    for (std::size_t i = 0; i < guards_.size(); ++i) {
        const double to = settled(i, flows[i], air);
        const double then = to + (warmth_[i] - to) * std::exp(-seconds / guards_[i].warms.value());
        if (then >= limit(i)) return i;
    }
    return std::nullopt;
}

Opened Warming::told(std::size_t guard, const std::array<double, guard_count>& flows,
                     Celsius air) const {
    const Guard& g = guards_[guard];
    Opened o;
    o.ref = g.ref;
    if (g.watts()) {
        o.why = say("{} shuts down at {} °C: it burns {}", g.ref, decimals(shuts_down.value(), 0),
                    text(Watt(flows[guard])));
        o.back = Second(g.warms.value() * std::log((shuts_down - air).value() /
                                                   std::max(1.0, (comes_back - air).value())));
    } else {
        o.why = say("{} opens at {}", g.ref, text(Ampere(flows[guard])));
        if (g.kind == Guard::Kind::resettable)
            o.back = Second(g.warms.value() * std::log(1 / holds_again));
    }
    return o;
}

} // namespace conductus::power
