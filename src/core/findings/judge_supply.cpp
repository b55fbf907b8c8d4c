// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of the way from the cell to the blade.
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"

namespace conductus::findings {
namespace {

/// The smallest part of kind T for which `good` holds, of a given size order; null if none.
template <class T, class Good>
const catalogue::PartType* smallest(const catalogue::Catalogue& parts, Good&& good) {
    for (const catalogue::PartType* type : parts.all<T>())
        if (good(std::get<T>(type->figures))) return type;
    return nullptr;
}

void protection_trips(const Facts& f, std::vector<Finding>& out) {
    const auto cell = job::first_of<catalogue::Cell>(*f.job, *f.parts);
    const Solved* worst = f.largest();
    if (!cell || !worst || !cell.part->protection) return;
    const auto* board = f.parts->find_as<catalogue::Protection>(*cell.part->protection);
    const double amps = worst->amps_of(cell.part->ref);
    if (!board || amps <= board->trip.value()) return;
    Finding finding{.id = "cell.protection-trips",
                    .severity = Severity::stop,
                    .station = Station::power,
                    .where = {cell.part->ref, worst->name},
                    .text = say("{} takes {}, the protection trips at {}", worst->name,
                                text(Ampere(amps)), text(board->trip)),
                    .detail = "The blade goes dark at that moment and the board restarts.",
                    .evidence = {{"peak", amps, "A"}, {"trips at", board->trip.value(), "A"}},
                    .fix = {}};
    if (const auto* type = smallest<catalogue::Protection>(
            *f.parts, [&](const auto& p) { return p.trip.value() > amps; }))
        finding.fix =
            Fix{say("fit a {}", type->name), [ref = cell.part->ref, id = type->id](job::Job& job) {
                    if (auto* part = job::find_ref(job.parts, ref)) part->protection = id;
                }};
    out.push_back(std::move(finding));
}

void cell_over_continuous(const Facts& f, std::vector<Finding>& out) {
    const auto cell = job::first_of<catalogue::Cell>(*f.job, *f.parts);
    if (!cell) return;
    const Solved* worst = nullptr;
    for (const SolvedPtr& s : f.sustained)
        if (!worst || s->point.source_amps[0] > worst->point.source_amps[0]) worst = s.get();
    if (!worst) return;
    const double amps = worst->point.source_amps[0];
    if (amps <= cell.figures->continuous.value()) return;
    Finding finding{
        .id = "cell.over-continuous",
        .severity = Severity::stop,
        .station = Station::power,
        .where = {cell.part->ref, worst->name},
        .text = say("{} holds {}, the cell is rated {}", worst->name, text(Ampere(amps)),
                    text(cell.figures->continuous)),
        .detail = "Held over its rating a lithium cell overheats: choose one rated for it, or cap "
                  "the look.",
        .evidence = {{"held", amps, "A"}, {"rated", cell.figures->continuous.value(), "A"}},
        .fix = {}};
    for (const hilt::CellTrial& t : f.cell_trials) {
        const auto* other = f.parts->find_as<catalogue::Cell>(t.type);
        // A stiffer cell draws more; leave a fifth in hand.
        if (t.trial.clearance.spare < f.job->hilt.clearance ||
            other->continuous.value() < 1.2 * amps)
            continue;
        finding.fix = Fix{say("fit the {}", f.parts->find(t.type)->name),
                          job::place_cells(t.type, t.adapter, t.at, *f.parts)};
        break;
    }
    out.push_back(std::move(finding));
}

/// Of a docking board, where each wire has contacts of its own.
void contacts_over_current(const Facts& f, std::vector<Finding>& out) {
    std::map<std::string, const harness::PinLoad*> worst; // by dock
    for (const harness::PinLoad& l : f.harness.pins)
        if (const auto*& w = worst[l.ref]; !l.wire.empty() && l.amps > l.rated)
            if (!w || l.amps > w->amps) w = &l;
    for (const auto& [dock, l] : worst)
        if (l)
            out.push_back(
                {.id = "pins.over-current",
                 .severity = Severity::stop,
                 .station = Station::power,
                 .where = {dock, l->wire, l->state},
                 .text = say("A contact of {} carries {}, rated {}", dock, text(l->amps),
                             text(l->rated)),
                 .detail = say("{}: {} through {}. Take a board with more "
                               "contacts, or lead a second wire beside it.",
                               l->state, l->wire, l->pin),
                 .evidence = {{"contact", l->amps.value(), "A"}, {"rated", l->rated.value(), "A"}},
                 .fix = {}});
}

void pins_over_current(const Facts& f, std::vector<Finding>& out) {
    contacts_over_current(f, out);
    for (const job::Part& part : f.job->parts) {
        if (std::any_of(f.harness.rails.begin(), f.harness.rails.end(),
                        [&](const hilt::Rail& rail) { return rail.dock == part.ref; }))
            continue;
        const auto* c = f.parts->find_as<catalogue::Connector>(part.type);
        const Solved* worst = f.worst_for(part.ref);
        if (!c || !worst) continue;
        const double amps = worst->amps_of(part.ref);
        const int fewest = std::min(c->plus_pins, c->minus_pins);
        // Pins measured by themselves share as they are; else evenly.
        const bool uneven = !part.measured.pins.empty();
        const double per_pin = uneven ? amps : amps / fewest;
        if (per_pin <= c->pin_rating.value()) continue;
        Finding finding{
            .id = "pins.over-current",
            .severity = Severity::stop,
            .station = Station::power,
            .where = {part.ref, worst->name},
            .text = uneven ? say("A pin carries {}, rated {}", text(Ampere(per_pin)),
                                 text(c->pin_rating))
                           : say("Pins carry {} each, rated {}", text(Ampere(per_pin)),
                                 text(c->pin_rating)),
            .detail =
                uneven
                    ? say("{}: the pins of {} share unevenly, as measured.", worst->name, part.ref)
                    : say("{} puts {} through {}, {} {} a pole.", worst->name, text(Ampere(amps)),
                          part.ref, fewest, fewest == 1 ? "pin" : "pins"),
            .evidence = {{"each pin", per_pin, "A"}, {"rated", c->pin_rating.value(), "A"}},
            .fix = {}};
        if (const auto* type = smallest<catalogue::Connector>(*f.parts, [&](const auto& o) {
                // Fewer contact ohms let a little more through.
                return 1.1 * amps / std::min(o.plus_pins, o.minus_pins) < o.pin_rating.value();
            }))
            finding.fix = Fix{say("fit a {}", type->name), job::fit_type(part.ref, type->id)};
        out.push_back(std::move(finding));
    }
}

void kill_over_current(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto& figures = f.parts->find(part.type)->figures;
        const auto passes = catalogue::passes(figures);
        const bool switches = std::any_of(passes.begin(), passes.end(), [](const auto& pass) {
            return pass.how == catalogue::Pass::How::switched;
        });
        const auto rating = catalogue::rating_of(figures);
        const Solved* worst = f.worst_for(part.ref);
        if (!switches || !rating || !worst) continue;
        const double amps = worst->amps_of(part.ref);
        if (amps <= rating->value()) continue;
        std::string word(catalogue::kind_of(figures).word);
        word[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(word[0])));
        Finding finding{
            .id = "kill.over-current",
            .severity = Severity::warn,
            .station = Station::power,
            .where = {part.ref, worst->name},
            .text = say("{} carries {}, rated {}", word, text(Ampere(amps)), text(*rating)),
            .detail = say("{}: {}. Worn contacts heat up and drop more.", part.ref, worst->name),
            .evidence = {{"carries", amps, "A"}, {"rated", rating->value(), "A"}},
            .fix = {}};
        const auto* kill = std::get_if<catalogue::Kill>(&figures);
        if (!kill) {
            out.push_back(std::move(finding));
            continue;
        }
        if (const auto* type = smallest<catalogue::Kill>(*f.parts, [&](const auto& o) {
                return o.method == kill->method && o.rating.value() > 1.1 * amps;
            }))
            finding.fix = Fix{say("fit a {}", type->name), job::fit_type(part.ref, type->id)};
        out.push_back(std::move(finding));
    }
}

void no_kill(const Facts& f, std::vector<Finding>& out) {
    const auto cell = job::first_of<catalogue::Cell>(*f.job, *f.parts);
    const auto board = job::first_of<catalogue::Board>(*f.job, *f.parts);
    if (!cell || !board) return;
    using Through = job::Wiring::Through;
    const auto reached =
        f.wiring->reached({cell.part->ref + ".plus"}, {job::Role::supply}, Through::nothing);
    if (!reached.contains(board.part->ref + ".bat")) return;
    // In the return it kills as well.
    const std::string gnd = board.part->ref + ".gnd";
    const auto back = [&](Through through) {
        return f.wiring->reached({cell.part->ref + ".minus"}, job::power_roles, through)
            .contains(gnd);
    };
    if (!back(Through::nothing) && back(Through::contacts)) return;
    const double sleep = board.figures->sleep.value();
    const double capacity_Ah =
        cell.part->measured.capacity.value_or(cell.figures->capacity).value() / 1e3;
    const double days = capacity_Ah / sleep / 24;
    Finding finding{.id = "supply.no-kill",
                    .severity = Severity::warn,
                    .station = Station::power,
                    .where = {cell.part->ref, board.part->ref},
                    .text = say("No kill between {} and {}", cell.part->ref, board.part->ref),
                    .detail =
                        say("Deep sleep draws {}: a full cell is flat after {} days, and nothing "
                            "stops a fault but pulling the cell.",
                            with_unit(sleep * 1e6, "µA"), decimals(days, 0)),
                    .evidence = {{"deep sleep", sleep * 1e6, "µA"}, {"flat after", days, "days"}},
                    .fix = {}};
    // A kill that is fitted but not wired in can be put into the wire from the cell.
    for (const job::Part& part : f.job->parts) {
        if (!f.parts->find_as<catalogue::Kill>(part.type)) continue;
        for (const job::Wire& w : f.job->wires) {
            const std::string bat = board.part->ref + ".bat";
            const bool forward = w.to == bat && reached.contains(w.from);
            if (w.role != job::Role::supply || !forward) continue;
            finding.fix = Fix{say("wire {} into {}", part.ref, w.ref),
                              [wire = w.ref, kill = part.ref, bat](job::Job& job) {
                                  auto* first = job::find_ref(job.wires, wire);
                                  if (!first) return;
                                  std::string ref = wire + "b";
                                  while (job::find_ref(job.wires, ref))
                                      ref += "b";
                                  job::Wire second = *first;
                                  second.ref = ref;
                                  second.from = kill + ".out";
                                  first->to = kill + ".in";
                                  job.wires.push_back(second);
                              }};
            break;
        }
        break;
    }
    out.push_back(std::move(finding));
}

} // namespace

void judge_supply(const Facts& facts, std::vector<Finding>& out) {
    protection_trips(facts, out);
    cell_over_continuous(facts, out);
    pins_over_current(facts, out);
    kill_over_current(facts, out);
    no_kill(facts, out);
}

} // namespace conductus::findings
