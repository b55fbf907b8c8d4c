// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/hilt/arrange.h"
#include "core/job/lookup.h"
#include "core/plan/options.h"
#include "files/json_text.h"
#include "shop/book.h"

namespace conductus::cli {
namespace {

using files::Json;

/// Null for what is not finite; else to a thousandth.
Json number(double v) {
    return std::isfinite(v) ? Json(std::round(v * 1000) / 1000) : Json(nullptr);
}
Json number(Millimetre v) { return number(v.value()); }

Json tightest_json(const hilt::Fit& fit) {
    const hilt::Clearance* c = fit.tightest();
    if (!c) return nullptr;
    Json between{c->ref};
    for (const std::string& ref : c->beside)
        between.push_back(ref);
    if (!c->against.empty()) between.push_back(c->against);
    return {{"at_mm", number(c->at)},
            {"clearance_mm", number(c->spare)},
            {"between", std::move(between)},
            {"on_the_way", c->on_the_way}};
}

Json passes_json(const hilt::Fit& fit) {
    Json list = Json::array();
    for (const hilt::Passing& p : fit.passes) {
        Json entry{{"carrier", p.carrier},
                   {"ok", p.ok},
                   {"binds_at_mm", p.ok || !p.reason.empty() ? Json(nullptr) : number(p.at)},
                   {"by_mm", number(p.reason.empty() ? p.by() : Millimetre(INFINITY))},
                   {"part", p.part},
                   {"room_mm", number(p.room)},
                   {"from", p.from_pommel ? "pommel" : "emitter"}};
        if (!p.reason.empty()) entry["reason"] = p.reason;
        list.push_back(std::move(entry));
    }
    return list;
}

Json cells_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (const auto& [type, adapter, trial, at] : plan::cell_trials(plan))
        list.push_back({{"type", type},
                        {"fits", trial.in_place >= plan.job->hilt.clearance},
                        {"passes", trial.on_way >= Millimetre(0)},
                        {"spare_mm", number(trial.clearance.spare)},
                        {"limit_at_mm", number(trial.limit_at)},
                        {"limit", trial.clearance.against}});
    return list;
}

Json steps_json(const std::vector<hilt::Step>& steps) {
    Json list = Json::array();
    for (const hilt::Step& s : steps)
        list.push_back({{"step", s.text}, {"why", s.why}});
    return list;
}

Json access_json(const hilt::Assembly& assembly) {
    Json all = Json::object();
    for (const hilt::Access& a : assembly.access)
        all[a.what] = {{"steps", a.possible ? Json(a.steps.size()) : Json(nullptr)},
                       {"keys", a.keys},
                       {"how", steps_json(a.steps)}};
    return all;
}

Json socket_json(const hilt::SocketFit& s) {
    return {{"blade", s.blade},
            {"socket", s.socket.empty() ? Json(nullptr) : Json(s.socket)},
            {"seats_mm", number(s.seats)},
            {"depth_mm", number(s.depth)},
            {"mend_mm", number(s.mend)},
            {"lean_deg", number(s.tilt)},
            {"screwed", s.screwed},
            {"holds_for", hilt::word(s.holds)},
            {"why", s.why}};
}

Json sockets_json(const std::vector<hilt::SocketFit>& sockets) {
    Json all = Json::array();
    for (const hilt::SocketFit& s : sockets)
        all.push_back(socket_json(s));
    return all;
}

void print_words(const plan::Plan& plan) {
    const hilt::Report& report = plan.hilt_report;
    if (const auto* c = plan.fit.tightest())
        fmt::print("tightest   {} at {}: {} and {}\n", text(c->spare), text(c->at), c->ref,
                   c->against);
    for (const hilt::Passing& p : plan.fit.passes) {
        if (!p.reason.empty()) {
            fmt::print("{:<10} {}\n", p.carrier, p.reason);
        } else if (p.ok) {
            fmt::print("{:<10} goes in by the {} side, {} to spare at {}\n", p.carrier,
                       p.from_pommel ? "pommel" : "emitter", text(p.room), text(p.at));
        } else {
            fmt::print("{:<10} binds by {} at {} in {}: {}\n", p.carrier, text(-p.room), text(p.at),
                       p.section, p.part);
        }
    }
    fmt::print("\n");
    for (const auto& [type, adapter, trial, at] : plan::cell_trials(plan))
        fmt::print("{:<22} {:<9} {:>10} at {}\n", type,
                   trial.on_way < Millimetre(0)                 ? "binds"
                   : trial.in_place >= plan.job->hilt.clearance ? "fits"
                                                                : "no room",
                   text(trial.clearance.spare), text(trial.limit_at));
    fmt::print("\n");
    if (!report.assembly.possible) fmt::print("no order: {}\n", report.assembly.trouble);
    int n = 0;
    for (const hilt::Step& s : report.assembly.steps)
        fmt::print("{:>2} {}\n   {}\n", ++n, s.text, s.why);
    for (const std::string& w : report.assembly.warnings)
        fmt::print("!  {}\n", w);
    for (const hilt::Access& a : report.assembly.access)
        fmt::print("to reach {:<9} {}{}\n", a.what,
                   !a.possible       ? "not without taking apart what is never loosened"
                   : a.steps.empty() ? "as it is"
                                     : fmt::format("{} steps", a.steps.size()),
                   a.keys.empty() ? "" : fmt::format(", {}", fmt::join(a.keys, ", ")));
    for (const hilt::SocketFit& s : report.sockets)
        fmt::print("{}{} seats {} of {}, good for {}{}\n", s.blade,
                   s.socket.empty() ? "" : " in " + s.socket, text(s.seats), text(s.depth),
                   hilt::word(s.holds), s.why.empty() ? "" : "; " + s.why.english());
    if (report.sound) fmt::print("cavity {} ml\n", three_figures(report.sound->cavity_ml));
    fmt::print("{} g, balances at {}; {} g at {} without blade\n",
               three_figures(report.mass.all.mass.value()), text(report.mass.all.at),
               three_figures(report.mass.without_blade.mass.value()),
               text(report.mass.without_blade.at));
}

} // namespace

int fit(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    bool stop = false;
    for (const findings::Finding& f : plan->findings)
        stop = stop ||
               (f.station == findings::Station::hilt && f.severity == findings::Severity::stop);
    if (!json) {
        print_words(*plan);
        return stop ? stop_finding : fine;
    }
    const hilt::Report& report = plan->hilt_report;
    const auto balance = [](const hilt::Balance& b) {
        return Json{{"mass_g", number(b.mass.value())}, {"balance_mm", number(b.at)}};
    };
    const Json all{{"job", plan->job->name},
                   {"tightest", tightest_json(plan->fit)},
                   {"passes", passes_json(plan->fit)},
                   {"cells", cells_json(*plan)},
                   {"assembly", steps_json(report.assembly.steps)},
                   {"trouble", report.assembly.trouble},
                   {"warnings", report.assembly.warnings},
                   {"keys", report.assembly.keys},
                   {"access", access_json(report.assembly)},
                   {"socket", report.socket ? socket_json(*report.socket) : Json(nullptr)},
                   {"sockets", sockets_json(report.sockets)},
                   {"cavity_ml", report.sound ? number(report.sound->cavity_ml) : Json(nullptr)},
                   {"resonance_hz", report.sound && report.sound->resonance_hz
                                        ? number(*report.sound->resonance_hz)
                                        : Json(nullptr)},
                   {"mass_g", number(report.mass.all.mass.value())},
                   {"balance_mm", number(report.mass.all.at)},
                   {"without_blade", balance(report.mass.without_blade)},
                   {"without_cell", balance(report.mass.without_cell)}};
    fmt::print("{}\n", all.dump(2));
    return stop ? stop_finding : fine;
}

int arrange(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto named = job_as_it_stands(parts, name);
    if (!named) return refuse(named.error());
    const job::Job* job = &named->job;
    const hilt::Arranged found = hilt::arrange(*job, *named->parts);
    if (found.best.empty()) {
        Json remedies = Json::array();
        for (const hilt::Remedy& r : found.remedies)
            remedies.push_back(
                {{"text", r.text}, {"at_mm", number(r.at)}, {"by_mm", number(r.by)}});
        const bool known = !found.remedies.empty();
        if (json) {
            fmt::print("{}\n",
                       Json{{"job", job->name},
                            {"impossible",
                             {{"at_mm", known ? number(found.remedies[0].at) : Json(nullptr)},
                              {"by_mm", known ? number(found.remedies[0].by) : Json(nullptr)},
                              {"remedies", remedies}}}}
                           .dump(2));
        } else {
            fmt::print("No order of these parts goes in, with any cell.\n");
            for (const hilt::Remedy& r : found.remedies)
                fmt::print("  {}\n", r.text);
        }
        return stop_finding;
    }
    Json list = Json::array();
    int rank = 0;
    for (const hilt::Arrangement& a : found.best) {
        Json placed = Json::array();
        std::string line;
        for (const hilt::ArrangedPart& p : a.parts) {
            placed.push_back({{"ref", p.ref}, {"type", p.type}, {"at_mm", number(p.at)}});
            line += fmt::format("{}{} {}", line.empty() ? "" : " · ", p.ref, text(p.at));
        }
        ++rank;
        list.push_back({{"rank", rank},
                        {"cell", a.cell},
                        {"as_it_is", a.as_it_is},
                        {"parts", placed},
                        {"spare_length_mm", number(a.spare_length)},
                        {"clearance_mm", number(a.clearance)},
                        {"cavity_ml", number(a.cavity_ml)},
                        {"cell_steps", a.cell_steps < 0 ? Json(nullptr) : Json(a.cell_steps)}});
        if (!json)
            fmt::print("{}  {}{}\n   {}\n   {} longest gap, {} clearance, {} ml cavity\n", rank,
                       a.cell, a.as_it_is ? ", as it is" : "", line, text(a.spare_length),
                       text(a.clearance), three_figures(a.cavity_ml));
    }
    if (json) fmt::print("{}\n", Json{{"job", job->name}, {"arrangements", list}}.dump(2));
    return fine;
}

} // namespace conductus::cli
