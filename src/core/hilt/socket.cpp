// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/socket.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

#include "core/base/format.h"
#include "core/hilt/bore.h"
#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr Millimetre slip(0.05);  ///< a blade that shall drop in by its own weight
constexpr Millimetre mended(0.1); ///< play after thinning or opening

/// One blade stands along the hilt at its mouth, wherever its foot was measured; others that say
/// where they stand are beside it.
bool in_side_socket(const job::Job& job, const job::Blade& blade) {
    if (blade.angle != Degree(0)) return true;
    if (!blade.stands_at) return false;
    const auto along = std::find_if(job.blades.begin(), job.blades.end(),
                                    [](const job::Blade& b) { return b.angle == Degree(0); });
    return along != job.blades.end() && along->ref != blade.ref;
}

/// From the mouth inward; the measured socket, else what the survey says of the emitter end.
std::vector<job::SocketBore> bores_of(const job::Job& job, const std::vector<PlacedBody>& bodies,
                                      const job::Blade& blade) {
    if (in_side_socket(job, blade)) {
        std::vector<job::SocketBore> bores;
        for (const job::SideBore& b : job.hilt.side_bores)
            if (b.socket == blade.connector) bores.push_back({b.depth, b.bore});
        return bores;
    }
    if (!job.hilt.socket.bores.empty()) return job.hilt.socket.bores;
    if (job.hilt.sections.empty()) return {};
    const Millimetre mouth = job.hilt.sections.back().to;
    Millimetre bottom(0);
    for (const PlacedBody& b : bodies)
        if (b.in_bore) bottom = std::max(bottom, std::min(b.to, mouth));
    std::vector<job::SocketBore> bores;
    for (auto s = job.hilt.sections.rbegin(); s != job.hilt.sections.rend(); ++s) {
        if (s->to <= bottom) break;
        bores.push_back({mouth - std::max(s->from, bottom), std::min(s->bore, bore_at(*s, s->to))});
    }
    return bores;
}

struct Limit {
    Hold hold;
    double diameters, lean;
    bool screw;
};
constexpr Limit limits[] = {
    {Hold::show, 1.0, 3.0, false}, {Hold::swing, 1.5, 0.8, true}, {Hold::bout, 2.5, 0.4, true}};

} // namespace

const char* word(Hold hold) {
    constexpr const char* words[] = {"nothing", "show", "swings", "bouts"};
    return words[static_cast<int>(hold)];
}

Hold wanted_for(job::Occasion occasion) {
    switch (occasion) {
    case job::Occasion::unsaid:
        return Hold::nothing;
    case job::Occasion::shelf:
    case job::Occasion::carried:
        return Hold::show;
    case job::Occasion::rehearsal:
    case job::Occasion::stage:
        return Hold::swing;
    case job::Occasion::bout:
        return Hold::bout;
    }
    return Hold::nothing;
}

std::optional<SocketFit> socket_fit(const job::Job& job, const std::vector<PlacedBody>& bodies) {
    const auto along = std::find_if(job.blades.begin(), job.blades.end(),
                                    [&](const job::Blade& b) { return !in_side_socket(job, b); });
    return along == job.blades.end() ? std::nullopt : socket_fit(job, bodies, *along);
}

std::optional<SocketFit> socket_fit(const job::Job& job, const std::vector<PlacedBody>& bodies,
                                    const job::Blade& blade) {
    const auto bores = bores_of(job, bodies, blade);
    if (bores.empty()) return std::nullopt;
    // What goes in may have been thinned, as far as it was.
    const job::Tube& tube = blade.tube;
    const bool thinned = tube.foot > Millimetre(0) && (tube.foot_length <= Millimetre(0) ||
                                                       tube.foot_length >= bores.back().depth);
    const Millimetre foot = thinned ? tube.foot : blade.outer;
    SocketFit f;
    f.blade = blade.ref;
    if (in_side_socket(job, blade)) f.socket = blade.connector;
    f.outer = foot;
    f.depth = bores.back().depth;
    // It leans until it touches at the mouth and, across, at the end of one of the bores.
    std::optional<Millimetre> mouth_gap;
    double lean = INFINITY;
    for (const job::SocketBore& b : bores) {
        if (b.bore < foot + slip) {
            f.step_bore = b.bore;
            f.mend = foot + mended - b.bore;
            break;
        }
        const Millimetre gap = b.bore - foot;
        if (!mouth_gap) mouth_gap = gap;
        f.seats = b.depth;
        const Millimetre mean = (*mouth_gap + gap) / 2;
        if (const double here = std::atan2(mean.value(), b.depth.value()); here < lean)
            lean = here, f.gap = mean;
    }
    f.screwed = std::any_of(job.hilt.fasteners.begin(), job.hilt.fasteners.end(),
                            [&](const job::Fastener& s) { return retains(job, s, blade); });
    if (f.seats <= Millimetre(0)) {
        f.why = "it does not go in";
        return f;
    }
    f.tilt = lean * 180 / std::numbers::pi;
    f.tip = Millimetre(2 * std::sin(lean) * (blade.length - f.seats).value());
    const double diameters = f.seats / f.outer;
    for (const Limit& l : limits) {
        if (diameters < l.diameters) {
            f.why =
                say("{} want {} diameters of seat, {}; it has {}", word(l.hold),
                    decimals(l.diameters, 1), text(f.outer * l.diameters), decimals(diameters, 1));
        } else if (f.tilt > l.lean) {
            f.why = say("{} allow {}° of lean; it has {}°", word(l.hold), decimals(l.lean, 1),
                        decimals(f.tilt, 1));
        } else if (l.screw && !f.screwed && !job.hilt.fasteners.empty()) {
            f.why = say("{} want a retention screw", word(l.hold));
        } else {
            f.holds = l.hold;
            continue;
        }
        break;
    }
    return f;
}

std::vector<SocketFit> socket_fits(const job::Job& job, const std::vector<PlacedBody>& bodies) {
    std::vector<SocketFit> all;
    for (const job::Blade& blade : job.blades) {
        if (blade.form == job::BladeForm::plug) continue;
        if (auto s = socket_fit(job, bodies, blade)) all.push_back(std::move(*s));
    }
    return all;
}

bool retains(const job::Job& job, const job::Fastener& screw, const job::Blade& blade) {
    if (screw.holds != "blade") return screw.holds == blade.ref;
    return screw.socket.empty() ? !in_side_socket(job, blade) : screw.socket == blade.connector;
}

} // namespace conductus::hilt
