// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of the survey: screws, what can be reached, and what contradicts itself.
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <numbers>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/hilt/access.h"
#include "core/hilt/bore.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::findings {
namespace {

using hilt::PlacedBody;

// --- screws --------------------------------------------------------------------------------

/// Hexagon keys that fit screws of a thread, mm: set screws, countersunk or button heads, cap
/// heads. ISO 4026, 10642, 7380 and 4762.
const std::map<std::string, std::vector<double>, std::less<>>& hex_keys() {
    static const std::map<std::string, std::vector<double>, std::less<>> table{
        {"M1.6", {0.7, 0.9, 1.5}},
        {"M2", {0.9, 1.25, 1.3, 1.5}},
        {"M2.5", {1.3, 1.25, 1.5, 2}},
        {"M3", {1.5, 2, 2.5}},
        {"M4", {2, 2.5, 3}},
        {"M5", {2.5, 3, 4}},
        {"M6", {3, 4, 5}},
        {"M8", {4, 5, 6}}};
    return table;
}

/// "2.5 mm hex" is 2.5; nothing: it is no metric hexagon key.
std::optional<double> hex_of(const std::string& key) {
    if (key.find("hex") == std::string::npos || key.find("mm") == std::string::npos)
        return std::nullopt;
    char* end = nullptr;
    const double mm = std::strtod(key.c_str(), &end);
    return end == key.c_str() ? std::nullopt : std::optional(mm);
}

bool holds_blade(const Facts& f, const job::Fastener& s) { return hilt::is_blade(*f.job, s.holds); }

void retention(const Facts& f, std::vector<Finding>& out) {
    const job::Hilt& hilt = f.job->hilt;
    if (hilt.sections.empty()) return;
    const Millimetre mouth = hilt.sections.back().to;
    for (const job::Fastener& s : hilt.fasteners) {
        if (!holds_blade(f, s)) continue;
        if (s.loosen == job::Loosen::never) {
            Finding finding = raise_at_hilt(
                "screw.holds-for-ever", Severity::warn, {s.name, s.holds},
                say("{} holds the blade and may never be loosened", s.name),
                "The blade could not be taken out again. Say that it may be loosened, or "
                "which screw really holds the blade.",
                {{"at", s.at.value(), "mm"}});
            finding.proposed.push_back({"let it be loosened", [name = s.name](job::Job& job) {
                                            if (auto* screw =
                                                    job::find_name(job.hilt.fasteners, name))
                                                screw->loosen = job::Loosen::may;
                                        }});
            out.push_back(std::move(finding));
        }
        // Side blades have their own sockets.
        const job::Blade* blade = job::find_ref(f.job->blades, s.holds);
        if (!s.socket.empty() || (blade && blade->stands_at) || s.at > mouth ||
            s.at < Millimetre(0))
            continue;
        const PlacedBody* on = nullptr;
        for (const PlacedBody& b : f.fit.bodies) {
            const job::Part* part = job::find_ref(f.job->parts, b.ref);
            if (f.parts->find_as<catalogue::Connector>(part->type) && s.at > b.from && s.at < b.to)
                on = &b;
        }
        if (on) {
            out.push_back(raise_at_hilt(
                "screw.on-connector", Severity::warn, {s.name, on->ref},
                say("{} at {} bears on {}, not on the blade", s.name, text(s.at), on->ref),
                "Tightened, it breaks the connector and the blade stays loose. "
                "Move the connector back, or the screw toward the mouth.",
                {{"at", s.at.value(), "mm"}}));
            continue;
        }
        if (!f.hilt_report.socket) continue;
        const auto& socket = *f.hilt_report.socket;
        const Millimetre foot = mouth - std::max(socket.seats, Millimetre(0));
        if (socket.seats > Millimetre(0) && s.at < foot - Millimetre(0.5))
            out.push_back(
                raise_at_hilt("screw.on-nothing", Severity::warn, {s.name},
                              say("{} at {} meets no blade: its foot stands at {}", s.name,
                                  text(s.at), text(foot)),
                              "It holds nothing there. A screw between foot and mouth holds "
                              "the blade.",
                              {{"at", s.at.value(), "mm"}, {"foot", foot.value(), "mm"}}));
    }
}

// --- what can be reached -------------------------------------------------------------------

void access(const Facts& f, std::vector<Finding>& out) {
    if (f.job->hilt.sections.empty() || !f.hilt_report.assembly.possible) return;
    // What can not even go in is told; that it does not come out is the same.
    if (std::any_of(f.fit.passes.begin(), f.fit.passes.end(),
                    [](const hilt::Passing& p) { return !p.ok || !p.reason.empty(); }))
        return;
    const auto never = [&](const std::string& holds) {
        const auto& all = f.job->hilt.fasteners;
        const auto it = std::find_if(all.begin(), all.end(), [&](const job::Fastener& s) {
            return s.loosen == job::Loosen::never && s.holds == holds;
        });
        return it == all.end() ? std::string() : it->name;
    };
    std::set<std::string> told;
    const auto loosened = [](const std::string& name) {
        return [name](job::Job& job) {
            if (auto* screw = job::find_name(job.hilt.fasteners, name))
                screw->loosen = job::Loosen::may;
        };
    };
    for (const job::Carrier& c : f.job->hilt.carriers) {
        const std::string screw = never(c.ref);
        if (screw.empty() || c.kind == job::CarrierKind::fixed) continue;
        Finding finding =
            raise_at_hilt("access.carrier", Severity::warn, {c.ref, screw},
                          say("{} is {}, and {} that holds it may never be loosened", c.ref,
                              job::word(c.kind), screw),
                          "It can not be taken out. Call it fixed, or say that the screw may be "
                          "loosened.",
                          {{"screws", 1, ""}});
        finding.proposed.push_back({"let it be loosened", loosened(screw)});
        out.push_back(std::move(finding));
        told.insert(c.ref);
    }
    if (!told.empty()) return; // what rides on it is out of reach with it
    if (std::any_of(out.begin(), out.end(),
                    [](const Finding& o) { return o.id == "screw.holds-for-ever"; }))
        return;
    // What one screw or one glued joint keeps out of reach is one finding, under the gravest of it.
    constexpr std::pair<const char*, const char*> graver_first[] = {{"cell", "access.cell"},
                                                                    {"kill", "access.kill"},
                                                                    {"card", "access.card"},
                                                                    {"blade", "access.blade"}};
    std::vector<std::string> refs, names;
    std::string id, gravest;
    for (const auto& [what, its_id] : graver_first)
        for (const hilt::Access& a : f.hilt_report.assembly.access) {
            if (a.possible || a.what != what) continue;
            if (id.empty()) id = its_id, gravest = what;
            if (std::find(refs.begin(), refs.end(), a.ref) == refs.end()) refs.push_back(a.ref);
            names.push_back(a.what == "card" ? "the card of " + a.ref : a.ref);
        }
    if (refs.empty()) return;
    const bool more = refs.size() > 1;
    Finding finding = raise_at_hilt(
        id.c_str(), Severity::warn, refs, say("No step reaches {}", conductus::joined(names, ", ")),
        more ? "Glued joints, screws that must stay and what lies in the way leave no way to them."
        : gravest == "cell"
            ? "Glued joints, screws that must stay and what lies in its way leave no way to change "
              "or to pull the cell."
        : gravest == "kill" ? "Nobody can open it: it wants a hole, or a way in by an end."
        : gravest == "card" ? "Sounds can not be changed any more: it wants an end of the board "
                              "that shows, a slot, or a way out."
                            : "It can not be taken out again.",
        {{"out of reach", static_cast<double>(refs.size()), ""}});
    for (const job::Fastener& s : f.job->hilt.fasteners)
        if (s.loosen == job::Loosen::never && !holds_blade(f, s))
            finding.proposed.push_back({say("let {} be loosened", s.name), loosened(s.name)});
    out.push_back(std::move(finding));
}

// --- what contradicts itself ---------------------------------------------------------------

void contradictions(const Facts& f, std::vector<Finding>& out) {
    const job::Hilt& hilt = f.job->hilt;
    if (hilt.sections.empty()) return;
    const Millimetre end = hilt.sections.back().to;
    for (const job::Fastener& s : hilt.fasteners) {
        const auto key = hex_of(s.key);
        const auto table = hex_keys().find(s.thread);
        if (!key || table == hex_keys().end()) continue;
        const auto& fit = table->second;
        if (std::any_of(fit.begin(), fit.end(),
                        [&](double mm) { return std::abs(mm - *key) < 0.06; }))
            continue;
        std::vector<std::string> keys;
        for (const double mm : fit)
            keys.push_back(fmt::format("{:g}", mm));
        out.push_back(
            raise_at_hilt("survey.wrong-key", Severity::note, {s.name},
                          say("{} is {}, and its key is noted as {}", s.name, s.thread, s.key),
                          say("Screws of {} take {} mm: measure it again before a key slips.",
                              s.thread, conductus::joined(keys, ", ")),
                          {{"key", *key, "mm"}}));
    }
    for (const job::Fastener& s : hilt.fasteners)
        for (const PlacedBody& b : f.fit.bodies) {
            const job::Part* part = job::find_ref(f.job->parts, b.ref);
            if (!f.parts->find_as<catalogue::Cell>(part->type)) continue;
            if (s.at <= b.from + Millimetre(1) || s.at >= b.to - Millimetre(1)) continue;
            if (holds_blade(f, s)) continue;
            out.push_back(
                raise_at_hilt("survey.screw-over-cell", Severity::note, {s.name, b.ref},
                              say("{} at {} stands over {}", s.name, text(s.at), b.ref),
                              "A screw that is too long dents the cell. Measure its length "
                              "against wall and carrier, or move one of the two.",
                              {{"at", s.at.value(), "mm"}}));
        }
    struct Placed {
        std::string name;
        Millimetre at;
    };
    std::vector<Placed> all;
    for (const job::Joint& j : hilt.joints)
        all.push_back({j.name, j.at});
    for (const job::Opening& o : hilt.openings)
        all.push_back({o.name, o.at});
    for (const job::Fastener& s : hilt.fasteners)
        all.push_back({s.name, s.at});
    for (const Placed& p : all)
        if (p.at > end || p.at < Millimetre(0))
            out.push_back(raise_at_hilt(
                "survey.off-hilt", Severity::note, {p.name},
                say("{} is noted at {}, the hilt ends at {}", p.name, text(p.at), text(end)),
                "Measure it again from the pommel end.",
                {{"at", p.at.value(), "mm"}, {"ends", end.value(), "mm"}}));
    for (const job::Joint& j : hilt.joints) {
        if (j.at > end || j.at < Millimetre(0)) continue;
        const bool between = std::any_of(hilt.sections.begin(), hilt.sections.end(), [&](auto& s) {
            return std::abs((s.from - j.at).value()) < 0.5 || std::abs((s.to - j.at).value()) < 0.5;
        });
        if (between) continue;
        const auto in = std::find_if(hilt.sections.begin(), hilt.sections.end(),
                                     [&](auto& s) { return j.at > s.from && j.at < s.to; });
        out.push_back(
            raise_at_hilt("survey.joint-inside", Severity::note, {j.name},
                          say("{} at {} lies inside {}, which is noted as one piece", j.name,
                              text(j.at), in->name),
                          "Sections part at a joint: split the section there, or move the "
                          "joint to its end.",
                          {{"at", j.at.value(), "mm"}}));
    }
    // A hand screws on what is there: names that nothing has.
    std::set<std::string> known{"blade", "chassis", ""};
    for (const auto& p : f.job->parts)
        known.insert(p.ref);
    for (const auto& b : f.job->blades)
        known.insert(b.ref);
    for (const auto& c : hilt.carriers)
        known.insert(c.ref);
    for (const auto& j : hilt.joints)
        known.insert(j.name);
    for (const auto& s : hilt.sections)
        known.insert(s.name);
    const auto named = [&](const std::string& name, const std::string& what) {
        if (known.contains(what)) return;
        out.push_back(raise_at_hilt("survey.names-nothing", Severity::note, {name},
                                    say("{} names {}, and there is no such thing", name, what),
                                    "Choose what it holds or shows, or leave it empty.",
                                    {{"things", 0, ""}}));
    };
    for (const job::Fastener& s : hilt.fasteners)
        named(s.name, s.holds), named(s.name, s.socket);
    for (const job::SideBore& b : hilt.side_bores)
        named("side socket", b.socket);
    for (const job::Opening& o : hilt.openings)
        named(o.name, o.part);
    const job::Socket& socket = hilt.socket;
    if (socket.nominal > Millimetre(0) && !socket.bores.empty()) {
        const Millimetre mouth = socket.bores.front().bore;
        const double more = (mouth - socket.nominal).value();
        if (more < -0.3 || more > 1.2)
            out.push_back(raise_at_hilt(
                "survey.nominal", Severity::note, {"socket"},
                say("The socket is called {}, and its mouth measures {}", text(socket.nominal),
                    text(mouth)),
                "One of the two is wrong: measure the mouth again.",
                {{"nominal", socket.nominal.value(), "mm"}, {"measured", mouth.value(), "mm"}}));
    }
}

/// The connector stands where the blade is to stand.
void connector_in_socket(const Facts& f, std::vector<Finding>& out) {
    const job::Hilt& hilt = f.job->hilt;
    if (hilt.sections.empty() || hilt.socket.bores.empty()) return;
    const Millimetre bottom = hilt.sections.back().to - hilt.socket.bores.back().depth;
    for (const PlacedBody& b : f.fit.bodies) {
        const job::Part* part = job::find_ref(f.job->parts, b.ref);
        if (!f.parts->find_as<catalogue::Connector>(part->type) || b.to <= bottom + Millimetre(0.5))
            continue;
        const bool mates = std::any_of(f.job->blades.begin(), f.job->blades.end(), [&](auto& bl) {
            return bl.connector == b.ref && !bl.stands_at;
        });
        if (!mates) continue;
        Finding finding = raise_at_hilt(
            "socket.connector-in", Severity::warn, {b.ref},
            say("{} reaches {} into the socket", b.ref, text(b.to - bottom)),
            say("The socket is {} deep from the mouth, and the blade needs that: move the "
                "connector back.",
                text(hilt.socket.bores.back().depth)),
            {{"in the socket", (b.to - bottom).value(), "mm"}});
        finding.proposed.push_back({say("move {} back to the socket's bottom", b.ref),
                                    [ref = b.ref, by = b.to - bottom](job::Job& job) {
                                        if (auto* p = job::find_ref(job.parts, ref)) p->at -= by;
                                    }});
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_survey(const Facts& f, std::vector<Finding>& out) {
    retention(f, out);
    connector_in_socket(f, out);
    access(f, out);
    contradictions(f, out);
}

} // namespace conductus::findings
