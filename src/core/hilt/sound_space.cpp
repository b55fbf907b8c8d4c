// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/sound_space.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/job/lookup.h"

namespace conductus::hilt {
namespace {

constexpr double speed_of_sound = 343e3; ///< mm/s at 20 °C
constexpr double closing = 0.85;         ///< share of the bore that a body fills to close it

double section_mm2(const PlacedBody& b) {
    double mm2 = 0;
    for (const Solid& s : b.solids)
        mm2 = std::max(mm2,
                       s.round ? std::numbers::pi * s.half_w * s.half_w : 4 * s.half_w * s.half_h);
    return mm2;
}

double solids_ml(const std::vector<PlacedBody>& bodies, const std::string& but, Millimetre from,
                 Millimetre to) {
    double mm3 = 0;
    for (const PlacedBody& b : bodies) {
        if (!b.in_bore || b.ref == but) continue;
        for (const Solid& s : b.solids) {
            const Millimetre in = std::min(s.to, to) - std::max(s.from, from);
            if (in <= Millimetre(0)) continue;
            mm3 += in.value() *
                   (s.round ? std::numbers::pi * s.half_w * s.half_w : 4 * s.half_w * s.half_h);
        }
    }
    return mm3 / 1000;
}

struct Cavity {
    Millimetre from, to;
    std::string closed_by;
};

/// From the speaker's back to the first body behind it that closes the bore; one may be left out
/// of account.
Cavity behind(const job::Job& job, const std::vector<PlacedBody>& bodies, const PlacedBody& speaker,
              bool faces_pommel, const std::string& left_out, bool any_body) {
    const job::Hilt& hilt = job.hilt;
    const Millimetre end = hilt.sections.back().to;
    Cavity c{faces_pommel ? speaker.to : Millimetre(0), faces_pommel ? end : speaker.from, {}};
    for (const PlacedBody& b : bodies) {
        if (!b.in_bore || b.ref == speaker.ref || b.ref == left_out) continue;
        const double bore = narrowest(hilt.sections, b.from, b.to).bore.value();
        const double share = section_mm2(b) / (std::numbers::pi / 4 * bore * bore);
        const bool under_blade = std::any_of(job.blades.begin(), job.blades.end(),
                                             [&](auto& blade) { return blade.connector == b.ref; });
        if (!any_body && share < closing && !under_blade) continue;
        if (faces_pommel && b.from >= speaker.to && b.from < c.to)
            c.to = b.from, c.closed_by = b.ref;
        if (!faces_pommel && b.to <= speaker.from && b.to > c.from)
            c.from = b.to, c.closed_by = b.ref;
    }
    return c;
}

double volume_ml(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies, const Cavity& c,
                 const std::string& left_out) {
    return std::max(0.0, bore_volume_ml(hilt.sections, c.from, c.to) -
                             solids_ml(bodies, left_out, c.from, c.to));
}

/// Σ A/(t + 1.7 r) of the vents in a stretch, mm.
double conductivity(const job::Hilt& hilt, Millimetre from, Millimetre to) {
    double sum = 0;
    for (const job::Opening& o : hilt.openings) {
        if (o.use != job::OpeningUse::vent || o.at < from || o.at > to) continue;
        const double area = area_mm2(o), r = std::sqrt(area / std::numbers::pi);
        double wall = 0;
        for (const job::BoreSection& s : hilt.sections)
            if (o.at >= s.from && o.at <= s.to)
                wall = (outer_at(s, o.at) - bore_at(s, o.at)).value() / 2;
        if (area > 0) sum += area / (wall + 1.7 * r);
    }
    return sum;
}

} // namespace

double area_mm2(const job::Opening& o) {
    const double a = o.length.value(), b = o.width.value();
    const double across = std::min(a, b), along = std::max(a, b);
    return std::numbers::pi / 4 * across * across + (along - across) * across;
}

std::optional<SoundSpace> sound_space(const job::Job& job, const catalogue::Catalogue& parts,
                                      const std::vector<PlacedBody>& bodies) {
    const auto fitted = job::first_of<catalogue::Speaker>(job, parts);
    if (!fitted || job.hilt.sections.empty()) return std::nullopt;
    const job::Hilt& hilt = job.hilt;
    const PlacedBody& speaker = *job::find_ref(bodies, fitted.part->ref);
    const Millimetre end = hilt.sections.back().to;
    SoundSpace s;
    s.speaker = speaker.ref;
    s.faces_pommel = (speaker.from + speaker.to) / 2 <= end / 2;
    const Cavity c = behind(job, bodies, speaker, s.faces_pommel, {}, false);
    s.from = c.from;
    s.to = c.to;
    s.closed_by = c.closed_by;
    s.cavity_ml = volume_ml(hilt, bodies, c, {});
    const job::Part* closer = job::find_ref(job.parts, c.closed_by);
    s.sealed = closer && parts.find_as<catalogue::Spacer>(closer->type);
    const Cavity open =
        s.sealed ? behind(job, bodies, speaker, s.faces_pommel, c.closed_by, false) : c;
    s.without_spacer_ml = volume_ml(hilt, bodies, open, s.sealed ? c.closed_by : std::string());
    s.with_spacer_ml =
        s.sealed
            ? s.cavity_ml
            : volume_ml(hilt, bodies, behind(job, bodies, speaker, s.faces_pommel, {}, true), {});
    s.cone_mm2 = 0.7 * section_mm2(speaker);
    for (const job::Opening& o : hilt.openings)
        if (o.use == job::OpeningUse::vent) s.vents_mm2 += area_mm2(o);

    // Before the cone: a body, or the end where it is closed.
    const bool open_end = hilt.opens == job::End::both ||
                          hilt.opens == (s.faces_pommel ? job::End::pommel : job::End::emitter);
    Millimetre front = s.faces_pommel ? Millimetre(0) : end;
    for (const PlacedBody& b : bodies) {
        if (!b.in_bore || b.ref == speaker.ref) continue;
        if (s.faces_pommel && b.to <= speaker.from && b.to > front) front = b.to, s.before = b.ref;
        if (!s.faces_pommel && b.from >= speaker.to && b.from < front)
            front = b.from, s.before = b.ref;
    }
    if (!open_end || !s.before.empty())
        s.cone_room = s.faces_pommel ? speaker.from - front : front - speaker.to;

    auto helmholtz = [](double k, double ml) -> std::optional<double> {
        if (k <= 0 || ml <= 0) return std::nullopt;
        return speed_of_sound / (2 * std::numbers::pi) * std::sqrt(k / (ml * 1000));
    };
    s.resonance_hz = helmholtz(conductivity(hilt, s.from, s.to), s.cavity_ml);
    if (!s.resonance_hz) {
        s.before_cone = true;
        const Cavity before =
            s.faces_pommel ? Cavity{front, speaker.from, {}} : Cavity{speaker.to, front, {}};
        s.resonance_hz = helmholtz(conductivity(hilt, before.from, before.to),
                                   volume_ml(hilt, bodies, before, {}));
    }
    return s;
}

double cavity_gain(const SoundSpace& s) {
    constexpr double open_back = -6, least_vents = 0.3, muffled = -12;
    const double back = s.sealed ? 0 : s.closed_by.empty() ? open_back : open_back / 2;
    // Before an open end nothing has to be vented.
    double front = 0;
    if (s.cone_room && s.cone_mm2 > 0) {
        const double share = s.vents_mm2 / s.cone_mm2 / least_vents;
        front = share > 0 ? std::clamp(20 * std::log10(share), muffled, 0.0) : muffled;
    }
    return back + front;
}

} // namespace conductus::hilt
