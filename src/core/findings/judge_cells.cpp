// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/findings/judge_cells.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "core/power/charging.h"

namespace conductus::findings {
namespace {

/// Every terminal that wires, kills and fuses join to this one. What limits does not join.
job::Terminals joined(const Facts& f, const std::string& from) {
    return f.wiring->reached({from}, job::power_roles, job::Wiring::Through::contacts);
}

std::vector<const job::Part*> cells_in(const Facts& f) {
    std::vector<const job::Part*> cells;
    for (const job::Part& part : f.job->parts)
        if (f.parts->find_as<catalogue::Cell>(part.type)) cells.push_back(&part);
    return cells;
}

/// Turns a cell round: what went to its plus goes to its minus.
Fix turn_round(const std::string& ref) {
    return Fix{say("turn {} round", ref), [ref](job::Job& job) {
                   const std::string plus = ref + ".plus", minus = ref + ".minus";
                   for (job::Wire& w : job.wires)
                       for (std::string* end : {&w.from, &w.to}) {
                           if (*end == plus)
                               *end = minus;
                           else if (*end == minus)
                               *end = plus;
                       }
               }};
}

void shorted(const Facts& f, std::vector<Finding>& out) {
    const auto figures = power::cells_of(*f.job, *f.parts);
    const auto cells = cells_in(f);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const std::string& ref = cells[i]->ref;
        if (!joined(f, ref + ".plus").contains(ref + ".minus")) continue;
        const double amps =
            4.18 * figures[i].series / std::max(figures[i].resistance.value(), 1e-3);
        out.push_back({.id = "cell.shorted",
                       .severity = Severity::stop,
                       .station = Station::power,
                       .where = {ref},
                       .text = say("{} is shorted: wires join its plus to its minus", ref),
                       .detail = say("Full, it could drive about {} through them: wires "
                                     "glow, the cell vents. Find the wire that closes the "
                                     "way before any cell goes in.",
                                     text(Ampere(amps))),
                       .evidence = {{"full short", amps, "A"}},
                       .fix = {}});
    }
}

void reversed(const Facts& f, std::vector<Finding>& out) {
    const auto board = job::first_of<catalogue::Board>(*f.job, *f.parts);
    const auto cells = cells_in(f);
    if (board) {
        const auto bat = joined(f, board.part->ref + ".bat");
        const auto gnd = joined(f, board.part->ref + ".gnd");
        for (const job::Part* cell : cells) {
            const std::string plus = cell->ref + ".plus", minus = cell->ref + ".minus";
            const bool wrong = (bat.contains(minus) && !bat.contains(plus)) &&
                               (gnd.contains(plus) || cells.size() > 1);
            if (!wrong) continue;
            out.push_back({.id = "cell.reversed",
                           .severity = Severity::stop,
                           .station = Station::power,
                           .where = {cell->ref, board.part->ref},
                           .text = say("{} is the wrong way round: its minus goes to {}.bat",
                                       cell->ref, board.part->ref),
                           .detail = "The board is destroyed at once. Mark the bay, spring side "
                                     "minus, and say which way round at the handover.",
                           .evidence = {{"cells", static_cast<double>(cells.size()), ""}},
                           .fix = turn_round(cell->ref)});
        }
    }
    // Of a row, plus to plus: they work against each other.
    for (const job::Part* a : cells)
        for (const job::Part* b : cells) {
            if (a >= b) continue;
            const auto at = joined(f, a->ref + ".plus");
            const bool beside = at.contains(b->ref + ".plus") &&
                                joined(f, a->ref + ".minus").contains(b->ref + ".minus");
            if (!at.contains(b->ref + ".plus") || beside) continue;
            if (joined(f, a->ref + ".minus").size() < 2 || joined(f, b->ref + ".minus").size() < 2)
                continue; // the other ends go nowhere yet
            out.push_back({.id = "cell.reversed",
                           .severity = Severity::stop,
                           .station = Station::power,
                           .where = {a->ref, b->ref},
                           .text = say("{} and {} stand plus to plus", a->ref, b->ref),
                           .detail = "In a row, each plus meets the next one's minus.",
                           .evidence = {{"volts of the row", 0, "V"}},
                           .fix = turn_round(b->ref)});
        }
}

void mixed(const Facts& f, std::vector<Finding>& out) {
    const auto cells = cells_in(f);
    const auto figures = power::cells_of(*f.job, *f.parts);
    for (std::size_t i = 1; i < cells.size(); ++i) {
        const bool types = cells[i]->type != cells[0]->type;
        const double a = figures[0].capacity.value(), b = figures[i].capacity.value();
        const double apart = std::abs(a - b) / std::max(a, b);
        if (!types && apart <= 0.05) continue;
        Finding finding{
            .id = "cell.mixed-pack",
            .severity = types || apart > 0.2 ? Severity::stop : Severity::warn,
            .station = Station::power,
            .where = {cells[0]->ref, cells[i]->ref},
            .text = types ? say("{} and {} are different cells", cells[0]->ref, cells[i]->ref)
                          : say("{} holds {}, {} {}", cells[0]->ref, text(figures[0].capacity),
                                cells[i]->ref, text(figures[i].capacity)),
            .detail =
                "In a row the weaker one is empty first and is then driven below nothing; side "
                "by side one charges the other. Use cells of one kind and age, bought and "
                "measured together.",
            .evidence = {{"capacities apart", apart * 100, "%"}},
            .fix = {}};
        if (types)
            finding.fix = Fix{say("fit two of {}", f.parts->find(cells[0]->type)->name),
                              [ref = cells[i]->ref, like = *cells[0]](job::Job& job) {
                                  auto* part = job::find_ref(job.parts, ref);
                                  if (!part) return;
                                  part->type = like.type;
                                  part->adapter = like.adapter;
                                  part->measured = like.measured;
                              }};
        out.push_back(std::move(finding));
    }
}

void hot(const Facts& f, std::vector<Finding>& out) {
    constexpr double warm = 60, dangerous = 80; // °C; a lithium cell stands about 60 held
    for (const power::PartHeat& h : f.heat) {
        const job::Part* part = job::find_ref(f.job->parts, h.ref);
        if (!part || !f.parts->find_as<catalogue::Cell>(part->type)) continue;
        const double t = h.temperature.value();
        if (t <= warm) continue;
        // Held over its rating, that it gets hot is the same thing said twice.
        if (std::any_of(out.begin(), out.end(),
                        [](const Finding& o) { return o.id == "cell.over-continuous"; }))
            continue;
        out.push_back(
            {.id = "cell.hot",
             .severity = t > dangerous ? Severity::stop : Severity::warn,
             .station = Station::power,
             .where = {h.ref},
             .text = say("{} settles at {} if the look is held", h.ref, text(h.temperature)),
             .detail = "A lithium cell is not to be held over 60 °C: it ages in days, and "
                       "far above that it vents. Cap the look, share the load, or choose "
                       "a cell of less resistance.",
             .evidence = {{"settles at", t, "degC"}, {"makes", h.power.value(), "W"}},
             .fix = {}});
    }
}

void charging(const Facts& f, std::vector<Finding>& out) {
    for (const power::ChargeFault& fault : power::charging_of(*f.job, *f.parts).faults) {
        const bool stop = fault.id == "charge.bare-in-hilt" || fault.id == "charge.cells" ||
                          fault.id == "charge.too-fast" || fault.id == "charge.port-rating";
        Finding finding{.id = fault.id,
                        .severity = stop                         ? Severity::stop
                                    : fault.id == "charge.timer" ? Severity::note
                                                                 : Severity::warn,
                        .station = Station::power,
                        .where = {},
                        .text = fault.text,
                        .detail = fault.mend,
                        .evidence = {},
                        .fix = {}};
        if (!fault.ref.empty()) finding.where.push_back(fault.ref);
        if (!fault.unit.empty())
            finding.evidence = {{"is", fault.value, fault.unit},
                                {"may be", fault.limit, fault.unit}};
        else
            finding.evidence = {
                {"charges with", power::charging_of(*f.job, *f.parts).current.value(), "A"}};
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_cells(const Facts& facts, std::vector<Finding>& out) {
    shorted(facts, out);
    reversed(facts, out);
    mixed(facts, out);
    hot(facts, out);
    charging(facts, out);
}

} // namespace conductus::findings
