// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of openings: whether what sits in the wall has its hole, and the speaker its vents.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>
#include <optional>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::findings {
namespace {

using hilt::PlacedBody;

double apart(Degree a, Degree b) { return std::abs(std::remainder((a - b).value(), 360)); }

bool takes_opening(const catalogue::Figures& figures, job::OpeningUse use) {
    const bool button = std::holds_alternative<catalogue::Button>(figures);
    const bool inlet = std::holds_alternative<catalogue::Port>(figures) ||
                       std::holds_alternative<catalogue::Jack>(figures);
    const auto* kill = std::get_if<catalogue::Kill>(&figures);
    switch (use) {
    case job::OpeningUse::switch_hole:
        return button || kill || inlet;
    case job::OpeningUse::port:
        return inlet || kill || std::holds_alternative<catalogue::Board>(figures);
    case job::OpeningUse::vent:
        return std::holds_alternative<catalogue::Speaker>(figures);
    case job::OpeningUse::window:
    case job::OpeningUse::slot:
        return true;
    }
    return true;
}

/// Where a part stands round the bore; nothing: in its middle.
std::optional<Degree> side_of(const job::Part& part) {
    const double up = part.off_axis.value(), side = part.side.value();
    if (std::hypot(up, side) < 3) return std::nullopt;
    return Degree(std::atan2(side, up) * 180 / std::numbers::pi);
}

void openings(const Facts& f, std::vector<Finding>& out) {
    const job::Hilt& hilt = f.job->hilt;
    if (hilt.openings.empty() || hilt.sections.empty()) return; // not surveyed so far
    for (const job::Opening& o : hilt.openings) {
        const job::Part* part = job::find_ref(f.job->parts, o.part);
        const PlacedBody* body = job::find_ref(f.fit.bodies, o.part);
        if (!part || !body) continue;
        const auto* type = f.parts->find(part->type);
        if (!takes_opening(type->figures, o.use)) {
            out.push_back(raise_at_hilt("opening.wrong-part", Severity::warn, {o.name, o.part},
                                        say("{} is a {} for {}, a {}", o.name, job::word(o.use),
                                            o.part, catalogue::kind_of(type->figures).word),
                                        "Say what is reached through it, or what it is for.",
                                        {{"at", o.at.value(), "mm"}}));
            continue;
        }
        const bool wall = catalogue::kind_of(type->figures).stands == catalogue::Stands::wall;
        const double half = (body->to - body->from).value() / 2;
        const double off = std::abs((o.at - (body->from + body->to) / 2).value());
        const double may = wall ? std::max(2.0, half / 2) : half + o.length.value() / 2;
        const auto side = side_of(*part);
        const bool round = side && apart(*side, o.angle) > 60;
        if (o.use != job::OpeningUse::vent && (off > may || (round && wall))) {
            // What it stands over instead, if anything.
            std::string over;
            for (const PlacedBody& other : f.fit.bodies)
                if (other.ref != o.part && o.at >= other.from && o.at <= other.to) over = other.ref;
            Finding finding = raise_at_hilt(
                over.empty() ? "opening.elsewhere" : "opening.over-other", Severity::warn,
                {o.name, o.part},
                off > may ? say("{} is at {}, {} at {}", o.name, text(o.at), o.part,
                                text((body->from + body->to) / 2))
                          : say("{} is at {}°, {} at {}°", o.name, decimals(o.angle.value(), 0),
                                o.part, decimals(side->value(), 0)),
                over.empty() ? Message("The part does not meet its hole: move one of the two.")
                             : say("The hole is over {}: move one of the two.", over),
                {{"apart", off, "mm"}});
            if (off > may && wall)
                finding.proposed.push_back(
                    {say("move {} to its hole", o.part),
                     [ref = o.part, at = o.at - Millimetre(half)](job::Job& job) {
                         if (auto* p = job::find_ref(job.parts, ref)) p->at = at;
                     }});
            out.push_back(std::move(finding));
            continue;
        }
        // What sits in the wall goes through its hole; small ones ride inside and are pressed
        // through it.
        const auto& b = type->body;
        const double needs = b.shape == catalogue::Body::Shape::cylinder
                                 ? b.diameter.value()
                                 : std::min(b.width.value(), b.length.value());
        const double has = std::min(o.length, o.width).value();
        if (wall && needs >= 8 && has < needs - 0.2)
            out.push_back(
                raise_at_hilt("opening.too-small", Severity::warn, {o.name, o.part},
                              say("{} is {}, {} takes {}", o.name, text(Millimetre(has)), o.part,
                                  text(Millimetre(needs))),
                              "Open the hole before anything else goes in, and deburr it.",
                              {{"hole", has, "mm"}, {"takes", needs, "mm"}}));
    }
    // Where vents alone are noted, the other holes have not been looked at yet.
    if (std::all_of(hilt.openings.begin(), hilt.openings.end(),
                    [](const job::Opening& o) { return o.use == job::OpeningUse::vent; }))
        return;
    for (const job::Part& part : f.job->parts) {
        const auto* type = f.parts->find(part.type);
        const auto& figures = type->figures;
        const auto* kill = std::get_if<catalogue::Kill>(&figures);
        const bool wants = catalogue::kind_of(figures).stands == catalogue::Stands::wall ||
                           (kill && kill->method == catalogue::Kill::Method::plug);
        if (!wants) continue;
        const PlacedBody* body = job::find_ref(f.fit.bodies, part.ref);
        const bool has =
            std::any_of(hilt.openings.begin(), hilt.openings.end(), [&](const job::Opening& o) {
                if (o.part == part.ref) return true;
                return o.part.empty() && o.use != job::OpeningUse::vent && body &&
                       o.at >= body->from - Millimetre(2) && o.at <= body->to + Millimetre(2);
            });
        // A plug may go in by an end that stands open.
        const bool at_end = kill && body &&
                            ((hilt.opens != job::End::emitter && body->from < Millimetre(30)) ||
                             hilt.opens == job::End::both);
        if (has || at_end || (kill && hilt.openings.size() < 2)) continue;
        out.push_back(
            raise_at_hilt("opening.missing", Severity::warn, {part.ref},
                          say("No hole for {} in the survey", part.ref),
                          "Nothing can be pressed or plugged through a closed wall. Enter "
                          "the hole, or plan it.",
                          {{"openings", static_cast<double>(hilt.openings.size()), ""}}));
    }
}

void vents(const Facts& f, std::vector<Finding>& out) {
    if (!f.hilt_report.sound) return;
    const hilt::SoundSpace& s = *f.hilt_report.sound;
    const job::Hilt& hilt = f.job->hilt;
    std::vector<const job::Opening*> all;
    for (const job::Opening& o : hilt.openings)
        if (o.use == job::OpeningUse::vent) all.push_back(&o);
    if (all.empty()) {
        // A survey without any opening says nothing of vents either. The speaker may fire out of
        // an end that stands open; one that is screwed on is a cap.
        const bool capped = std::any_of(hilt.joints.begin(), hilt.joints.end(), [&](auto& j) {
            const Millimetre end = hilt.sections.back().to;
            return s.faces_pommel ? j.at < end / 2 : j.at > end / 2;
        });
        if (hilt.openings.empty() || (!capped && !s.cone_room)) return;
        out.push_back(raise_at_hilt(
            "sound.no-vents", Severity::warn, {s.speaker}, say("{} has no vent", s.speaker),
            "In a closed hilt the sound stays inside. Vents of a third of the "
            "cone, near it.",
            {{"vents", 0, "mm2"}, {"cone", s.cone_mm2, "mm2"}}));
        return;
    }
    const PlacedBody* body = job::find_ref(f.fit.bodies, s.speaker);
    double nearest = INFINITY;
    for (const job::Opening* o : all) {
        const double before = (body->from - o->at).value(), behind = (o->at - body->to).value();
        nearest = std::min(nearest, std::max({0.0, before, behind}) - o->length.value() / 2);
    }
    constexpr double far = 30; // mm
    if (nearest > far)
        out.push_back(raise_at_hilt(
            "sound.vents-far", Severity::warn, {s.speaker},
            say("The nearest vent is {} from {}", text(Millimetre(nearest)), s.speaker),
            "The sound has to go round what lies between, and is muffled. "
            "Vents beside the speaker, or the speaker beside its vents.",
            {{"away", nearest, "mm"}}));
}

} // namespace

void judge_openings(const Facts& facts, std::vector<Finding>& out) {
    openings(facts, out);
    vents(facts, out);
}

} // namespace conductus::findings
