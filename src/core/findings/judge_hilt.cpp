// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of the hilt: ways in, screws and threads, socket, sound, contacts.
#include <cmath>
#include <fmt/format.h>
#include <iterator>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/words.h"

namespace conductus::findings {
namespace {

using hilt::Passing;

/// A binding that each body by itself tells already is not told again for the carrier.
bool told_by_bodies(const Facts& f, const Passing& p) {
    for (const hilt::Clearance& c : f.fit.clearances) {
        const auto* body = job::find_ref(f.fit.bodies, c.ref);
        if (body && body->carrier == p.carrier && c.spare < Millimetre(0)) return true;
    }
    return false;
}

void judge_passing(const Facts& f, std::vector<Finding>& out) {
    for (const Passing& p : f.fit.passes) {
        if (!p.reason.empty()) {
            out.push_back(raise_at_hilt(
                "fit.no-way-in", Severity::stop, {p.carrier},
                say("{} can not go in: {}", p.carrier, p.reason),
                "Open an end of the hilt, mark a joint that comes apart, or let it go in by the "
                "other end.",
                {{"piece from", p.in_from.value(), "mm"}, {"piece to", p.in_to.value(), "mm"}}));
            continue;
        }
        if (!p.ok && !told_by_bodies(f, p))
            out.push_back(raise_at_hilt(
                "fit.carrier-binds", Severity::stop, {p.carrier, p.part},
                say("{} binds by {} at {} in {}", p.carrier, text(-p.room), text(p.at), p.section),
                say("{} touches there with {} still to go. Its bodies keep their places to "
                    "each other: what fits alone need not fit together.",
                    p.part, text(p.still_to_go)),
                {{"room", p.room.value(), "mm"},
                 {"at", p.at.value(), "mm"},
                 {"still to go", p.still_to_go.value(), "mm"}}));
        if (p.as_placed < Millimetre(0) && p.ok) {
            Finding finding = raise_at_hilt(
                "fit.off-centre", Severity::warn, {p.carrier},
                say("{} as placed reaches {} into the wall", p.carrier, text(-p.as_placed / 2)),
                say("Moved {} up and {} to the side, all of it together, it has most room.",
                    text(p.move_up), text(p.move_side)),
                {{"room as placed", p.as_placed.value(), "mm"},
                 {"room when moved", p.room.value(), "mm"}});
            finding.fix = Fix{"move it to the middle of its room",
                              [carrier = p.carrier, bodies = f.fit.bodies, up = p.move_up,
                               side = p.move_side](job::Job& job) {
                                  const auto tenth = [](Millimetre v) {
                                      return Millimetre(std::round(v.value() * 100) / 100);
                                  };
                                  for (const hilt::PlacedBody& b : bodies)
                                      if (b.in_bore && b.carrier == carrier)
                                          if (auto* part = job::find_ref(job.parts, b.ref)) {
                                              part->off_axis = tenth(part->off_axis + up);
                                              part->side = tenth(part->side + side);
                                          }
                              }};
            out.push_back(std::move(finding));
        }
    }
    const hilt::Slice* worst = nullptr;
    for (const hilt::Slice& s : f.fit.slices)
        if (s.spare() >= Millimetre(0) && s.wires_mm2 > s.free_mm2 &&
            (!worst || s.wires_mm2 - s.free_mm2 > worst->wires_mm2 - worst->free_mm2))
            worst = &s;
    if (worst)
        out.push_back(raise_at_hilt(
            "fit.wires-crowded", Severity::warn, worst->refs,
            say("Wires need {} mm² at {}, {} mm² are free", three_figures(worst->wires_mm2),
                text((worst->from + worst->to) / 2), three_figures(std::max(worst->free_mm2, 0.0))),
            "Packed at 60 %. Route some another way, use a finer gauge where the current allows "
            "it, or thin the carrier.",
            {{"wires", worst->wires_mm2, "mm2"}, {"free", worst->free_mm2, "mm2"}}));
    if (!f.hilt_report.assembly.possible && !f.fit.clearances.empty()) {
        bool told = false;
        std::vector<std::string> all;
        for (const Passing& p : f.fit.passes)
            told = told || !p.ok, all.push_back(p.carrier);
        if (!told)
            out.push_back(raise_at_hilt(
                "assembly.no-order", Severity::stop, all,
                say("No order of assembly: {}", f.hilt_report.assembly.trouble),
                "Whatever goes in first bars what comes after. Move a part, or open another end.",
                {{"parts", static_cast<double>(f.fit.passes.size()), ""}}));
    }
}

void judge_screws(const Facts& f, std::vector<Finding>& out) {
    const job::Hilt& hilt = f.job->hilt;
    for (const job::Joint& j : hilt.joints)
        if (j.kind == job::JointKind::thread && j.hand == job::Hand::left)
            out.push_back(
                raise_at_hilt("thread.left-hand", Severity::note, {j.name},
                              say("Left-hand thread at {}", text(j.at)),
                              say("{} turns the other way; it goes on the owner's card. Forced, it "
                                  "strips.",
                                  j.name),
                              {{"at", j.at.value(), "mm"}, {"pitch", j.pitch.value(), "mm"}}));
    for (std::size_t i = 0; i < hilt.fasteners.size(); ++i) {
        const job::Fastener& a = hilt.fasteners[i];
        if (a.state != job::ScrewState::fine && a.loosen == job::Loosen::may)
            out.push_back(raise_at_hilt(
                "screw.hard-to-turn", Severity::warn, {a.name, a.holds},
                say("{} at {} is {}, and has to come out", a.name, text(a.at), job::word(a.state)),
                a.state == job::ScrewState::hidden
                    ? "Mark where it is on the owner's card, with its key."
                    : "Heat and penetrating oil first, the right key fully seated; replace it.",
                {{"at", a.at.value(), "mm"}}));
        // Two screws a hand may take for each other, one of which must stay.
        const bool blade = a.holds == "blade" || job::find_ref(f.job->blades, a.holds);
        if (!blade) continue;
        for (const job::Fastener& b : hilt.fasteners) {
            const job::Part* part = job::find_ref(f.job->parts, b.holds);
            if (!part || !f.parts->find_as<catalogue::Connector>(part->type)) continue;
            const double apart = std::abs((a.at - b.at).value());
            double turn = std::fmod(std::abs((a.angle - b.angle).value()), 360);
            turn = std::min(turn, 360 - turn);
            if (apart > 20 || turn > 45 || b.loosen == job::Loosen::never) continue;
            Finding finding = raise_at_hilt(
                "screw.confused", Severity::stop, {b.name, b.holds},
                "Connector screw beside the blade's screw",
                say("{} and {} stand {} apart on one side. Loosened for the blade, the "
                    "connector floats.",
                    b.name, a.name, text(Millimetre(apart))),
                {{"apart", apart, "mm"}, {"turned", turn, "deg"}});
            finding.fix = Fix{"mark it never to be loosened", [name = b.name](job::Job& job) {
                                  if (auto* s = job::find_name(job.hilt.fasteners, name))
                                      s->loosen = job::Loosen::never;
                              }};
            out.push_back(std::move(finding));
        }
    }
}

void judge_socket(const Facts& f, const hilt::SocketFit& s, std::vector<Finding>& out) {
    if (s.mend > Millimetre(0)) {
        out.push_back(raise_at_hilt(
            "socket.does-not-seat", s.seats > Millimetre(0) ? Severity::warn : Severity::stop,
            {s.blade},
            s.seats > Millimetre(0)
                ? say("{} stops {} short, at a step of ø {}", s.blade, text(s.depth - s.seats),
                      text(s.step_bore))
                : say("{}, ø {}, does not go into ø {}", s.blade, text(s.outer), text(s.step_bore)),
            say("Open the step by {}, or thin the blade's foot by as much over {}.", text(s.mend),
                text(s.depth - s.seats)),
            {{"seats", s.seats.value(), "mm"},
             {"depth", s.depth.value(), "mm"},
             {"mend", s.mend.value(), "mm"}}));
    }
    const hilt::Hold wanted = hilt::wanted_for(f.job->brief.occasion);
    const Message socket = s.socket.empty() ? Message("Socket") : say("Socket at {}", s.socket);
    if (s.holds < wanted && s.seats > Millimetre(0))
        out.push_back(
            raise_at_hilt("socket.too-weak", Severity::warn, {s.blade},
                          s.holds == hilt::Hold::nothing
                              ? say("{} seats {}: too little even for show", socket, text(s.seats))
                              : say("{} seats {}: good for {}, not for {}", socket, text(s.seats),
                                    hilt::word(s.holds), hilt::word(wanted)),
                          say("{}. Put it to the owner, or deepen the socket.", s.why),
                          {{"seats", s.seats.value(), "mm"},
                           {"lean", s.tilt, "deg"},
                           {"tip swings", s.tip.value(), "mm"}}));
}

void judge_sound_space(const Facts& f, std::vector<Finding>& out) {
    if (!f.hilt_report.sound) return;
    const hilt::SoundSpace& s = *f.hilt_report.sound;
    if (s.vents_mm2 > 0 && s.vents_mm2 < 0.3 * s.cone_mm2)
        out.push_back(raise_at_hilt(
            "sound.vents-small", Severity::warn, {s.speaker},
            say("Vents are {} % of the cone", three_figures(100 * s.vents_mm2 / s.cone_mm2)),
            "Below 30 % the sound is choked and whistles. More or larger vents.",
            {{"vents", s.vents_mm2, "mm2"}, {"cone", s.cone_mm2, "mm2"}}));
    if (s.cone_room && *s.cone_room < Millimetre(1))
        out.push_back(raise_at_hilt("sound.cone-touches", Severity::warn,
                                    s.before.empty() ? std::vector{s.speaker}
                                                     : std::vector{s.speaker, s.before},
                                    say("{} has {} before its cone", s.speaker, text(*s.cone_room)),
                                    say("The cone moves; it wants 1 mm to {}.",
                                        s.before.empty() ? std::string("the cap") : s.before),
                                    {{"room", s.cone_room->value(), "mm"}}));
}

void judge_docking(const Facts& f, std::vector<Finding>& out) {
    for (const hilt::LastTurn& t : f.hilt_report.docking.turns)
        if (t.turns - t.meets_at < 0.25)
            out.push_back(raise_at_hilt(
                "dock.last-turn", Severity::warn, {t.connector, t.joint},
                say("Contacts of {} meet only at turn {} of {}", t.connector,
                    decimals(t.meets_at, 2), decimals(t.turns, 2)),
                say("A quarter turn back and it is off. Longer springs, or a shim so that "
                    "{} meets them earlier.",
                    t.joint),
                {{"meets at", t.meets_at, "turns"}, {"turns", t.turns, "turns"}}));
    for (const hilt::Lean& l : f.hilt_report.docking.leans)
        if (l.aside > l.pitch / 2)
            out.push_back(raise_at_hilt(
                "dock.leans", Severity::warn, {l.carrier, l.connector},
                say("{} meets the contacts {} aside", l.carrier, text(l.aside)),
                say("Only {} guides it, narrower than the bore on both sides: at an angle "
                    "the contacts, {} apart, short. In by the {} end instead, or a guide "
                    "beyond the ring.",
                    l.ring, text(l.pitch), l.from_pommel ? "emitter" : "pommel"),
                {{"aside", l.aside.value(), "mm"}, {"pitch", l.pitch.value(), "mm"}}));
}

/// A blade where it stands, and as it would stand in each other socket it may go into: what the
/// worst of them says of it.
void judge_seat(const Facts& f, const job::Blade& blade, std::vector<Finding>& out) {
    std::vector<Finding> worst;
    std::string stands_in;
    for (const hilt::SocketFit& s : f.hilt_report.sockets)
        if (s.blade == blade.ref) judge_socket(f, s, worst);
    if (const job::Blade* here = job::find_ref(f.job->blades, blade.ref))
        stands_in = here->connector;
    for (const std::string& socket : job::sockets_of(*f.whole)) {
        const auto mates = job::mates_of(*f.whole, socket);
        if (socket == stands_in || std::find(mates.begin(), mates.end(), blade.ref) == mates.end())
            continue;
        const job::Job as = job::as_mated(*f.whole, {{socket, blade.ref}});
        const auto s = hilt::socket_fit(as, f.fit.bodies, *job::find_ref(as.blades, blade.ref));
        if (!s) continue;
        std::vector<Finding> told;
        judge_socket(f, *s, told);
        if (told.size() > worst.size()) worst = std::move(told);
    }
    out.insert(out.end(), std::make_move_iterator(worst.begin()),
               std::make_move_iterator(worst.end()));
}

} // namespace

void judge_hilt(const Facts& f, std::vector<Finding>& out) {
    judge_passing(f, out);
    judge_screws(f, out);
    for (const job::Blade& blade : f.whole->blades)
        if (blade.form != job::BladeForm::plug) judge_seat(f, blade, out);
    judge_sound_space(f, out);
    judge_docking(f, out);
}

} // namespace conductus::findings
