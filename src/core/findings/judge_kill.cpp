// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of what a kill opens and what it leaves on, and of what draws while nobody uses it.
#include <algorithm>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/findings/poles.h"
#include "core/findings/rule_tools.h"
#include "core/harness/rewire.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/power/cell_model.h"

namespace conductus::findings {
namespace {

using harness::Levels;

/// Kills and switched jacks that something is soldered to.
std::vector<std::string> kills_of(const Facts& f) {
    std::vector<std::string> all;
    for (const job::Part& part : f.job->parts)
        if (opens(f, part) && !f.wiring->is_loose(part)) all.push_back(part.ref);
    return all;
}

/// Powered from both poles.
bool powered(const Levels& l, const Poles& p) {
    const auto plus = l.stands_at(p.plus), minus = l.stands_at(p.minus);
    return plus && minus && *plus > *minus;
}

/// How the cell comes out, as far as the hilt was surveyed.
enum class CellComesOut { easily, with_work, not_known };
CellComesOut cell_comes_out(const Facts& f) {
    if (f.job->hilt.sections.empty()) return CellComesOut::not_known;
    const hilt::Access* cell = f.hilt_report.assembly.to("cell");
    if (!cell) return CellComesOut::not_known;
    return cell->possible && cell->keys.empty() && cell->steps.size() <= 3
               ? CellComesOut::easily
               : CellComesOut::with_work;
}

/// A kill that is fitted and loose goes into the wire from the cell, wherever that begins.
void propose_kill(const Facts& f, const std::string& cell, Finding& finding) {
    for (const job::Part& part : f.job->parts) {
        if (!f.parts->find_as<catalogue::Kill>(part.type) || !f.wiring->is_loose(part)) continue;
        const auto row = harness::in_row(part, *f.parts);
        for (const char* pole : {".plus", ".minus"})
            for (const job::Wire& w : f.job->wires) {
                if (!job::power_roles.holds(w.role)) continue;
                if (w.from != cell + pole && w.to != cell + pole) continue;
                finding.proposed.push_back(
                    {say("wire {} into {}", part.ref, w.ref), harness::split_wire(w.ref, *row)});
            }
    }
}

/// The dock that every way from a cell to the board goes through: drawn apart, it is a kill. Empty:
/// there is none.
std::string docks_between(const Facts& f, const Levels& open, const Poles& board) {
    for (const harness::PinLoad& pin : f.harness.pins) {
        if (pin.wire.empty()) continue;
        for (const job::Part* cell : parts_of<catalogue::Cell>(f))
            for (const auto& [from, to] : {std::pair{cell->ref + ".plus", board.plus},
                                           std::pair{cell->ref + ".minus", board.minus}}) {
                const auto way = open.way(from, to);
                if (std::find(way.begin(), way.end(), pin.wire) != way.end()) return pin.ref;
            }
    }
    return {};
}

void no_kill(const Facts& f, const Levels& open, std::vector<Finding>& out) {
    const auto cell = job::first_of<catalogue::Cell>(*f.job, *f.parts);
    const auto board = job::first_of<catalogue::Board>(*f.job, *f.parts);
    if (!cell || !board) return;
    const Poles poles{
        board.part->ref, board.part->ref + ".bat", board.part->ref + ".gnd", {}, false, true};
    if (!powered(open, poles) || !powered(*f.levels, poles)) return;
    const auto kills = kills_of(f);
    const double sleep = board.figures->sleep.value();
    const double days = f.storage ? f.storage->asleep_days : 0; // 0: nothing is solved
    // Where no kill is fitted at all, the cell is pulled: how bad that is depends on how it comes
    // out.
    const bool fitted = std::any_of(f.job->parts.begin(), f.job->parts.end(), [&](auto& part) {
        return f.parts->template find_as<catalogue::Kill>(part.type) != nullptr;
    });
    const bool easy = !fitted && cell_comes_out(f) == CellComesOut::easily;
    const std::string dock = kills.empty() ? docks_between(f, open, poles) : std::string();
    Finding finding{
        .id = "supply.no-kill",
        .severity = kills.empty() && (easy || !dock.empty()) ? Severity::note : Severity::warn,
        .station = Station::power,
        .where = {cell.part->ref, board.part->ref},
        .text = kills.empty() ? say("No kill between {} and {}", cell.part->ref, board.part->ref)
                              : say("{} does not switch {} off", conductus::joined(kills, " and "),
                                    board.part->ref),
        .detail = say("Deep sleep draws {}: a full cell is flat after {} days, and nothing stops a "
                      "fault but pulling the cell.",
                      with_unit(sleep * 1e6, "µA"), decimals(days, 0)),
        .evidence = {{"deep sleep", sleep * 1e6, "µA"}, {"flat after", days, "days"}},
        .fix = {}};
    if (kills.empty() && easy)
        finding.detail = say("The cell is pulled out instead, which is easy here. Left in, deep "
                             "sleep draws {}: a full cell is flat after {} days.",
                             with_unit(sleep * 1e6, "µA"), decimals(days, 0));
    if (!dock.empty()) {
        finding.where.push_back(dock);
        finding.detail = say("Drawing the chassis out opens {}, and takes the board off its cell. "
                             "Docked, deep sleep draws {}: a full cell is flat after {} days.",
                             dock, with_unit(sleep * 1e6, "µA"), decimals(days, 0));
    }
    for (const std::string& kill : kills)
        finding.where.push_back(kill);
    // The way that stays closed.
    std::vector<std::string> around;
    for (const job::Part& part : f.job->parts) {
        if (!f.parts->find_as<catalogue::Cell>(part.type)) continue;
        for (const auto& [from, to] : {std::pair{part.ref + ".plus", poles.plus},
                                       std::pair{part.ref + ".minus", poles.minus}})
            for (const std::string& wire : open.way(from, to))
                if (std::find(around.begin(), around.end(), wire) == around.end())
                    around.push_back(wire);
    }
    if (!kills.empty()) {
        finding.detail = say("Open, it leaves a way round it through {}. {}",
                             conductus::joined(around, ", "), finding.detail);
        std::vector<harness::WireMend> mends;
        for (const std::string& wire : around)
            mends.push_back(harness::take_out(wire));
        propose(finding, std::move(mends));
        propose(finding, harness::other_places(*f.job, *f.parts, around));
    }
    propose_kill(f, cell.part->ref, finding);
    out.push_back(std::move(finding));
}

/// With the kill open the board is off, and something else is not.
void leaves_on(const Facts& f, const Levels& open, std::vector<Finding>& out) {
    const auto kills = kills_of(f);
    if (kills.empty()) return;
    if (std::any_of(out.begin(), out.end(),
                    [](const Finding& o) { return o.id == "supply.no-kill"; }))
        return;
    std::vector<std::string> on, wires;
    for (const Poles& p : poles_of(*f.job, *f.parts)) {
        // A dock's contacts lead on; what hangs behind them is told by itself.
        const job::Part* part = job::find_ref(f.job->parts, p.ref);
        const auto* connector = part ? f.parts->find_as<catalogue::Connector>(part->type) : nullptr;
        const bool leads_on =
            connector && connector->pixels == 0 &&
            std::none_of(f.job->blades.begin(), f.job->blades.end(),
                         [&](const job::Blade& b) { return b.connector == p.ref; });
        if (p.charges || leads_on || !powered(open, p) || !powered(*f.levels, p)) continue;
        if (std::find(on.begin(), on.end(), p.ref) != on.end()) continue;
        on.push_back(p.ref);
        for (const job::Wire& w : f.job->wires)
            if ((w.from == p.plus || w.to == p.plus) && job::power_roles.holds(w.role))
                wires.push_back(w.ref);
    }
    if (on.empty()) return;
    const double days = f.storage ? f.storage->killed_days : 0;
    Finding finding{
        .id = "kill.leaves-on",
        .severity = Severity::warn,
        .station = Station::power,
        .where = on,
        .text = on.size() == 1
                    ? say("{} stays on with {} open", on[0], conductus::joined(kills, " and "))
                    : say("{} stay on with {} open", conductus::joined(on, ", "),
                          conductus::joined(kills, " and ")),
        .detail = {},
        .evidence = {{"flat after", days, "days"}},
        .fix = {}};
    for (const std::string& kill : kills)
        finding.where.push_back(kill);
    finding.detail =
        f.storage ? say("Its supply is taken before the kill. Killed, full cells are flat after "
                        "{} days. Take it behind the kill.",
                        decimals(days, 0))
                  : Message("Its supply is taken before the kill: take it behind the kill.");
    const auto board = job::first_of<catalogue::Board>(*f.job, *f.parts);
    std::vector<harness::WireMend> mends;
    if (board)
        for (const job::Wire& w : f.job->wires) {
            if (std::find(wires.begin(), wires.end(), w.ref) == wires.end()) continue;
            const bool from_load = std::any_of(on.begin(), on.end(), [&](const std::string& ref) {
                return job::split_terminal(w.from).first == ref;
            });
            mends.push_back(
                harness::move_end(w.ref, from_load ? w.to : w.from, board.part->ref + ".bat"));
        }
    propose(finding, std::move(mends));
    // Where the return goes round it.
    std::vector<std::string> returns;
    for (const Poles& p : poles_of(*f.job, *f.parts))
        if (std::find(on.begin(), on.end(), p.ref) != on.end())
            for (const job::Wire& w : f.job->wires)
                if ((w.from == p.minus || w.to == p.minus) && job::power_roles.holds(w.role))
                    returns.push_back(w.ref);
    mends.clear();
    if (board)
        for (const std::string& ref : returns) {
            const job::Wire* w = job::find_ref(f.job->wires, ref);
            const bool from_load = std::any_of(on.begin(), on.end(), [&](const std::string& r) {
                return job::split_terminal(w->from).first == r;
            });
            mends.push_back(
                harness::move_end(ref, from_load ? w->to : w->from, board.part->ref + ".gnd"));
        }
    propose(finding, std::move(mends));
    propose(finding, harness::other_places(*f.job, *f.parts, wires));
    out.push_back(std::move(finding));
}

/// A fuse, or one kill of several, with a wire past it.
void bypassed(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part& part : f.job->parts) {
        const auto row = harness::in_row(part, *f.parts);
        const bool fuse = f.parts->find_as<catalogue::Fuse>(part.type) != nullptr;
        if (!row || !(fuse || opens(f, part))) continue;
        Levels::Closed closed;
        if (fuse)
            closed.fuses = false;
        else
            closed.kills = closed.jacks = false;
        const Levels open(*f.job, *f.parts, closed);
        if (!open.joined(row->in, row->out)) continue;
        if (!fuse && std::any_of(out.begin(), out.end(), [](const Finding& o) {
                return o.id == "supply.no-kill" || o.id == "kill.leaves-on";
            }))
            continue;
        const auto wires = open.way(row->in, row->out);
        Finding finding{
            .id = fuse ? "fuse.bypassed" : "kill.bypassed",
            .severity = Severity::warn,
            .station = Station::power,
            .where = {part.ref},
            .text = wires.empty()
                        ? say("{} is bridged", part.ref)
                        : say("{} is bridged by {}", part.ref, conductus::joined(wires, " and ")),
            .detail = fuse ? "What flows past a fuse never opens it." : "Open, it opens nothing.",
            .evidence = {{"wires past it", static_cast<double>(wires.size()), ""}},
            .fix = {}};
        finding.where.insert(finding.where.end(), wires.begin(), wires.end());
        std::vector<harness::WireMend> mends;
        for (const std::string& wire : wires)
            mends.push_back(harness::take_out(wire));
        propose(finding, std::move(mends));
        out.push_back(std::move(finding));
    }
}

/// Cells side by side: the one without protection feeds a fault through the others.
void unprotected(const Facts& f, std::vector<Finding>& out) {
    const auto cells = parts_of<catalogue::Cell>(f);
    for (const job::Part* bare : cells) {
        if (bare->protection) continue;
        for (const job::Part* other : cells) {
            if (!other->protection ||
                f.levels->level(bare->ref + ".plus") != f.levels->level(other->ref + ".plus") ||
                f.levels->level(bare->ref + ".minus") != f.levels->level(other->ref + ".minus") ||
                !f.levels->level(bare->ref + ".plus"))
                continue;
            Finding finding{
                .id = "cell.unprotected-beside",
                .severity = Severity::warn,
                .station = Station::power,
                .where = {bare->ref, other->ref},
                .text = say("{} has no protection, {} beside it has", bare->ref, other->ref),
                .detail = "Side by side, a fault is fed by the bare one alone once the other has "
                          "tripped, and the bare one is emptied below its limit.",
                .evidence = {{"protected", 1, ""}},
                .fix = {}};
            finding.proposed.push_back({say("fit {} with the same protection", bare->ref),
                                        [ref = bare->ref, like = other->protection](job::Job& job) {
                                            if (auto* part = job::find_ref(job.parts, ref))
                                                part->protection = like;
                                        }});
            out.push_back(std::move(finding));
            return;
        }
    }
}

/// The blade of a strip or string; empty: it is neither.
std::string owner_of(const Facts& f, const std::string& ref) {
    for (const job::Blade& blade : f.job->blades)
        if (job::find_ref(blade.strips, ref) || job::find_ref(blade.strings, ref)) return blade.ref;
    return {};
}

/// What is lit, or draws without showing it, while the board sleeps.
void asleep(const Facts& f, const Levels& open, std::vector<Finding>& out) {
    if (!f.storage) return;
    constexpr double lasts = 60;    // days; more, and it is charged before it is flat
    constexpr double forgotten = 3; // days: a kill that is forgotten once empties it
    const auto kills = kills_of(f);
    const job::Preset* preset = job::preset_of_use(*f.job);
    const auto set_asleep = job::lights_at_rest(*f.job, job::Rest::asleep,
                                                preset ? preset->name : std::string());
    const auto behind = [&](const std::string& ref) {
        if (kills.empty()) return false;
        for (const Poles& p : poles_of(*f.job, *f.parts))
            if (p.ref == ref && powered(open, p)) return false;
        return true;
    };
    const bool board = static_cast<bool>(job::first_of<catalogue::Board>(*f.job, *f.parts));
    std::vector<std::string> quiet;
    double quiet_amps = 0;
    bool all_behind = true;
    for (const power::Draw& d : f.asleep) {
        if (d.board) continue;
        if (!d.lit) {
            quiet_amps += d.amps.value();
            if (d.amps < Ampere(1e-4)) continue; // what leaks through an open pad
            quiet.push_back(d.ref);
            all_behind = all_behind && behind(d.ref);
            continue;
        }
        // Without a board the kill is the light's own switch.
        if (!board && behind(d.ref)) continue;
        const double days = f.storage->asleep_days;
        // What was set to be lit asleep is meant so, as long as it does not empty the cell at once.
        const bool meant =
            std::any_of(set_asleep.begin(), set_asleep.end(), [&](const job::LightOverride& l) {
                return l.light == d.ref || owner_of(f, d.ref) == l.light;
            });
        Finding finding{
            .id = "light.always-on",
            .severity = meant && days > forgotten ? Severity::note : Severity::warn,
            .station = Station::lights,
            .where = {d.ref},
            .text = say("{} is lit while the board sleeps: flat after {} days", d.ref,
                        decimals(days, days < 10 ? 1 : 0)),
            .detail = say("It draws {}. {}{}", text(d.amps),
                          behind(d.ref) ? say("{} opens it, if it is thought of. ",
                                              conductus::joined(kills, " and "))
                                        : Message(),
                          meant ? "It is set to be lit asleep."
                                : "Move its return to a pad that the board switches."),
            .evidence = {{"draws", d.amps.value() * 1e3, "mA"}, {"flat after", days, "days"}},
            .fix = {}};
        for (const Poles& p : poles_of(*f.job, *f.parts)) {
            if (p.ref != d.ref || meant) continue;
            const auto free = harness::free_pads(*f.job, *f.parts, *f.wiring, 'l');
            for (const job::Wire& w : f.job->wires)
                if (!free.empty() && (w.from == p.minus || w.to == p.minus))
                    propose(finding, {harness::move_end(w.ref, w.from == p.minus ? w.to : w.from,
                                                        free.front())});
        }
        out.push_back(std::move(finding));
    }
    const double days = f.storage->asleep_days;
    if (quiet.empty() || days > lasts || quiet_amps < 2e-4) return;
    if (std::any_of(out.begin(), out.end(), [](const Finding& o) {
            return o.id == "light.always-on" || o.id == "kill.leaves-on";
        }))
        return;
    if (!board && all_behind) return;
    out.push_back(
        {.id = "supply.drains-asleep",
         .severity = all_behind && days > forgotten ? Severity::note : Severity::warn,
         .station = Station::power,
         .where = quiet,
         .text = say("Asleep, {} {} {}: flat after {} days", conductus::joined(quiet, ", "),
                     quiet.size() == 1 ? "draws" : "draw", text(Ampere(quiet_amps)),
                     decimals(days, days < 10 ? 1 : 0)),
         .detail = all_behind
                       ? say("Dark pixels and displays draw as long as they have a supply. Open {} "
                             "whenever it lies for more than a day or two.",
                             conductus::joined(kills, " and "))
                       : Message("Dark pixels and displays draw as long as they have a supply, and "
                                 "nothing opens it: return them to a pad, or fit a kill."),
         .evidence = {{"draws", quiet_amps * 1e3, "mA"}, {"flat after", days, "days"}},
         .fix = {}});
}

/// A jack or port that the kill takes off the cell can not charge it while it lies.
void charges_behind(const Facts& f, const Levels& open, std::vector<Finding>& out) {
    for (const Poles& p : poles_of(*f.job, *f.parts)) {
        if (!p.charges || !powered(*f.levels, p) || powered(open, p)) continue;
        const job::Part* part = job::find_ref(f.job->parts, p.ref);
        const bool jack = f.parts->find_as<catalogue::Jack>(part->type) != nullptr;
        if (jack && open.stands_at(p.plus) && open.stands_at(p.minus)) continue;
        Finding finding{.id = "charge.behind-kill",
                        .severity = Severity::note,
                        .station = Station::power,
                        .where = {p.ref},
                        .text = say("{} is behind the kill", p.ref),
                        .detail = "With the kill open nothing is charged: the owner has to be told "
                                  "to close it, or it goes right to the cell.",
                        .evidence = {{"ways to the cell", 0, ""}},
                        .fix = {}};
        const auto ends = harness::pack_ends(*f.job, *f.parts, *f.wiring);
        for (const auto& [pole, to] :
             {std::pair{p.plus, ends.plus}, std::pair{p.minus, ends.minus}})
            for (const job::Wire& w : f.job->wires)
                if (!to.empty() && (w.from == pole || w.to == pole) &&
                    open.stands_at(pole) != f.levels->stands_at(pole))
                    propose(finding,
                            {harness::move_end(w.ref, w.from == pole ? w.to : w.from, to.front())});
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_kill(const Facts& f, std::vector<Finding>& out) {
    if (!f.levels->shorts().empty()) return;
    Levels::Closed all_open;
    all_open.kills = all_open.jacks = false;
    const Levels open(*f.job, *f.parts, all_open);
    no_kill(f, open, out);
    leaves_on(f, open, out);
    bypassed(f, out);
    unprotected(f, out);
    asleep(f, open, out);
    charges_behind(f, open, out);
}

} // namespace conductus::findings
