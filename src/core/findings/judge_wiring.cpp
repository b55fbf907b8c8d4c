// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of polarity: what copper joins that must not be joined, and what stands the wrong way
// round. docs/models.md, "Polarity and shorts".
#include <algorithm>
#include <fmt/format.h>
#include <set>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/poles.h"
#include "core/findings/rule_tools.h"
#include "core/harness/mend_wires.h"
#include "core/harness/nets.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"

namespace conductus::findings {
namespace {

using harness::Levels;

std::vector<std::string> together(std::vector<std::string> all,
                                  const std::vector<std::string>& more) {
    for (const std::string& ref : more)
        if (std::find(all.begin(), all.end(), ref) == all.end()) all.push_back(ref);
    return all;
}

/// What a full pack of these cells could drive through a short: their volts over their resistance.
double short_amps(const Facts& f, const Levels::Short& s) {
    const auto figures = power::cells_of(*f.job, *f.parts);
    double ohms = 0;
    const auto cells = parts_of<catalogue::Cell>(f);
    for (std::size_t i = 0; i < cells.size(); ++i)
        if (std::find(s.cells.begin(), s.cells.end(), cells[i]->ref) != s.cells.end())
            ohms += figures[i].resistance.value();
    return 4.18 * s.row / std::max(ohms, 1e-3);
}

/// "B1 is shorted through W1 and W9".
Message short_text(const Levels::Short& s, const Message& when) {
    const Message through =
        s.wires.empty() ? Message("its own pads") : Message(conductus::joined(s.wires, ", "));
    return say("{}{} {} shorted through {}", when, conductus::joined(s.cells, " and "),
               s.cells.size() == 1 ? "is" : "are", through);
}

Finding short_finding(const Facts& f, const char* id, const Levels::Short& s, const Message& when,
                      const Message& mend) {
    const double amps = short_amps(f, s);
    Finding finding{.id = id,
                    .severity = Severity::stop,
                    .station = Station::power,
                    .where = together(together(s.cells, s.wires), s.contacts),
                    .text = short_text(s, when),
                    .detail = say("Full, {} could drive about {} through them: wires glow, the "
                                  "cell vents. {}",
                                  conductus::joined(s.cells, " and "), text(Ampere(amps)), mend),
                    .evidence = {{"full short", amps, "A"}},
                    .fix = {}};
    propose(finding, harness::other_places(*f.job, *f.parts, s.wires));
    return finding;
}

/// Cells side by side of which one stands against the other; a row that is closed to a ring is a
/// plain short.
bool stands_against(const Facts& f, const Levels::Short& s) {
    return s.cells.size() > 1 && s.row > 1 && !harness::cells_in_row(*f.job, *f.parts);
}

Finding reversed_cell(std::vector<std::string> where, Message text, Message detail) {
    return {.id = "cell.reversed",
            .severity = Severity::stop,
            .station = Station::power,
            .where = std::move(where),
            .text = std::move(text),
            .detail = std::move(detail),
            .evidence = {},
            .fix = {}};
}

void shorted(const Facts& f, std::vector<Finding>& out) {
    std::vector<std::string> told; // wires: one that closes a way shorts every cell on it
    for (const Levels::Short& s : f.levels->shorts()) {
        if (std::any_of(s.wires.begin(), s.wires.end(), [&](const std::string& wire) {
                return std::find(told.begin(), told.end(), wire) != told.end();
            }))
            continue;
        told.insert(told.end(), s.wires.begin(), s.wires.end());
        if (!stands_against(f, s)) {
            out.push_back(short_finding(f, "cell.shorted", s, {},
                                        "Find the wire that closes the way before any cell goes "
                                        "in."));
            continue;
        }
        Finding finding = reversed_cell(
            together(s.cells, s.wires),
            say("{} stand against each other: one is the wrong way round",
                conductus::joined(s.cells, " and ")),
            "Side by side, plus meets plus. Like this each shorts the other: wires glow, cells "
            "vent.");
        finding.evidence = {{"full short", short_amps(f, s), "A"}};
        for (auto cell = s.cells.rbegin(); cell != s.cells.rend(); ++cell)
            propose(finding, {harness::turn_round(*cell)});
        out.push_back(std::move(finding));
    }
}

std::vector<const job::Part*> buttons_of(const Facts& f) {
    auto all = parts_of<catalogue::Button>(f);
    std::erase_if(all, [&](const job::Part* p) { return job::switches_power(*f.job, *p); });
    return all;
}

std::vector<std::string> wires_at(const job::Job& job, const std::string& ref) {
    std::vector<std::string> all;
    for (const job::Wire& w : job.wires)
        if (job::split_terminal(w.from).first == ref || job::split_terminal(w.to).first == ref)
            all.push_back(w.ref);
    return all;
}

/// A button side that hangs on the supply burns its pad; pressed it may short the cell.
void buttons_on_supply(const Facts& f, std::vector<Finding>& out) {
    for (const job::Part* button : buttons_of(f)) {
        Levels::Closed pressed;
        pressed.buttons = {button->ref};
        const Levels with(*f.job, *f.parts, pressed);
        const bool latching = f.parts->find_as<catalogue::Button>(button->type)->action ==
                              catalogue::Button::Action::latching;
        if (!with.shorts().empty()) {
            const Message when =
                latching ? say("{} on: ", button->ref) : say("{} pressed: ", button->ref);
            out.push_back(short_finding(f, "harness.button-on-supply", with.shorts().front(), when,
                                        "A button pad wants the button to ground."));
            auto& where = out.back().where;
            std::erase(where, button->ref);
            where.insert(where.begin(), button->ref);
            continue;
        }
        for (const char* side : {".a", ".b"}) {
            if (!f.levels->on_plus(button->ref + side)) continue;
            Finding finding{.id = "harness.button-on-supply",
                            .severity = Severity::stop,
                            .station = Station::harness,
                            .where = {button->ref},
                            .text = say("{}{} is on the supply", button->ref, side),
                            .detail = "A button pad stands no cell: it wants the button to ground.",
                            .evidence = {},
                            .fix = {}};
            propose(finding,
                    harness::other_places(*f.job, *f.parts, wires_at(*f.job, button->ref)));
            out.push_back(std::move(finding));
            break;
        }
    }
    // Pressed together, two may do what none does alone.
    const auto all = buttons_of(f);
    Levels::Closed every;
    for (const job::Part* button : all)
        every.buttons.insert(button->ref);
    const bool told = std::any_of(out.begin(), out.end(), [](const Finding& o) {
        return o.id == "harness.button-on-supply";
    });
    if (told || all.size() < 2) return;
    if (const Levels with(*f.job, *f.parts, every); !with.shorts().empty())
        out.push_back(
            short_finding(f, "harness.button-on-supply", with.shorts().front(),
                          "All buttons pressed: ", "A button pad wants the button to ground."));
}

/// A pad pulls to ground while it is lit: what joins it to the supply is shorted then.
void pads_on_supply(const Facts& f, std::vector<Finding>& out) {
    Levels::Closed lit;
    lit.pads = true;
    const Levels with(*f.job, *f.parts, lit);
    if (with.shorts().empty()) return;
    for (const job::Part& part : f.job->parts) {
        if (!f.parts->find_as<catalogue::Board>(part.type)) continue;
        for (const std::string& pad : harness::pads(*f.job, *f.parts, 'l')) {
            const auto level = f.levels->level(pad);
            if (job::split_terminal(pad).first != part.ref || !level || *level == 0) continue;
            auto s = with.shorts().front();
            s.wires = f.levels->way(pad, s.cells.back() + ".plus");
            Finding finding = short_finding(f, "pad.on-supply", s, say("{} lit: ", pad),
                                            "A pad is the return of what it lights, never its "
                                            "supply.");
            std::erase(finding.where, part.ref);
            finding.where.insert(finding.where.begin(), part.ref);
            out.push_back(std::move(finding));
            return;
        }
    }
}

/// Things with their poles exchanged, grouped by the copper of their plus: one crossed pair of
/// wires turns all that hangs behind it.
void reversed_supply(const Facts& f, std::vector<Finding>& out) {
    const Levels& l = *f.levels;
    const auto upside_down = [&](const Poles& p) {
        const auto plus = l.stands_at(p.plus), minus = l.stands_at(p.minus);
        return plus && minus && *plus < *minus;
    };
    std::vector<Poles> reversed = poles_of(*f.job, *f.parts);
    std::erase_if(reversed, [&](const Poles& p) { return !upside_down(p); });
    if (reversed.empty()) return;
    const auto board =
        std::find_if(reversed.begin(), reversed.end(), [](const Poles& p) { return p.board; });
    if (board != reversed.end()) {
        // Whether the cell or the board is the one that is turned: what was meant as a supply says
        // so where it leaves the cell.
        const job::Part* cell = parts_of<catalogue::Cell>(f).front();
        bool as_meant = false;
        for (const job::Wire& w : f.job->wires)
            as_meant |= w.role == job::Role::supply &&
                        (w.from == cell->ref + ".plus" || w.to == cell->ref + ".plus");
        Finding finding = reversed_cell(
            {cell->ref, board->ref},
            as_meant
                ? say("{} is the wrong way round: {} is on the cell's minus", board->ref,
                      board->plus)
                : say("{} is the wrong way round: its minus goes to {}", cell->ref, board->plus),
            "The board is destroyed at once. Mark the bay, spring side minus, and say which way "
            "round at the handover.");
        if (as_meant) finding.id = "supply.reversed", std::swap(finding.where[0], finding.where[1]);
        finding.evidence = {{"cells", 1, ""}};
        std::vector<harness::WireMend> mends{harness::turn_round(cell->ref),
                                             harness::exchange(board->plus, board->minus)};
        if (as_meant) std::swap(mends[0], mends[1]);
        propose(finding, std::move(mends));
        out.push_back(std::move(finding));
        return;
    }
    std::set<std::string> told;
    for (const Poles& p : reversed) {
        if (told.contains(p.plus)) continue;
        const auto island = l.island(p.plus);
        Finding finding{.id = "supply.reversed",
                        .severity = Severity::stop,
                        .station = Station::harness,
                        .where = {},
                        .text = {},
                        .detail = {},
                        .evidence = {},
                        .fix = {}};
        std::vector<std::string> refs;
        std::vector<harness::WireMend> mends;
        for (const Poles& other : reversed) {
            if (std::find(island.begin(), island.end(), other.plus) == island.end()) continue;
            told.insert(other.plus);
            if (std::find(refs.begin(), refs.end(), other.ref) == refs.end())
                refs.push_back(other.ref);
            mends.push_back(harness::exchange(other.plus, other.minus));
        }
        finding.where = refs;
        finding.text = say("{} is the wrong way round: plus is on the return, minus on the supply",
                           conductus::joined(refs, ", "));
        finding.detail =
            p.charges
                ? say("A charger in {} would drive the cell backwards: it vents. Exchange its two "
                      "wires.",
                      p.ref)
                : say("The {} does not light and is destroyed, or draws through its protection "
                      "diodes. Exchange its two wires.",
                      p.word);
        finding.evidence = {{"wrong way round", static_cast<double>(refs.size()), ""}};
        // Where only one wire is on the wrong terminal, moving it is enough.
        std::vector<std::string> wires;
        for (const std::string& ref : refs)
            wires = together(wires, wires_at(*f.job, ref));
        propose(finding, std::move(mends));
        propose(finding, harness::other_places(*f.job, *f.parts, wires));
        out.push_back(std::move(finding));
    }
}

/// In a row, plus to plus: they work against each other.
void reversed_in_row(const Facts& f, std::vector<Finding>& out) {
    const auto cells = parts_of<catalogue::Cell>(f);
    const Levels& l = *f.levels;
    const auto led_on = [&](const std::string& terminal) { return l.island(terminal).size() > 1; };
    for (const job::Part* a : cells)
        for (const job::Part* b : cells) {
            if (a >= b) continue;
            for (const auto& [meet, ends] :
                 {std::pair{".plus", ".minus"}, std::pair{".minus", ".plus"}}) {
                if (!l.joined(a->ref + meet, b->ref + meet)) continue;
                if (l.joined(a->ref + ends, b->ref + ends)) continue; // side by side
                if (!led_on(a->ref + ends) || !led_on(b->ref + ends)) continue;
                Finding finding = reversed_cell(
                    {a->ref, b->ref},
                    say("{} and {} stand {} to {}", a->ref, b->ref, std::string(meet).substr(1),
                        std::string(meet).substr(1)),
                    "In a row, each plus meets the next one's minus. Like this their volts cancel, "
                    "and one charges the other.");
                finding.evidence = {{"volts of the row", 0, "V"}};
                propose(finding, {harness::turn_round(b->ref), harness::turn_round(a->ref)});
                out.push_back(std::move(finding));
                return;
            }
        }
}

/// Both poles on one side, or a return to the middle of a row.
void wrong_ground(const Facts& f, std::vector<Finding>& out) {
    const Levels& l = *f.levels;
    std::set<std::string> told;
    if (!l.one_pack()) return; // cells that are not joined yet
    for (const Poles& p : poles_of(*f.job, *f.parts)) {
        const auto plus = l.stands_at(p.plus), minus = l.stands_at(p.minus);
        if (!plus || !minus || *plus < *minus || told.contains(p.ref)) continue;
        const bool nothing = *plus == *minus;
        const bool middle = *minus > 0 || *plus < l.top();
        if (!nothing && !middle) continue;
        told.insert(p.ref);
        Finding finding{
            .id = "return.wrong-ground",
            .severity = Severity::warn,
            .station = Station::harness,
            .where = {p.ref},
            .text =
                nothing
                    ? say("Both poles of {} are on the {}", p.ref, *plus > 0 ? "supply" : "return")
                : *minus > 0 ? say("{} returns to the middle of the row, not to its ground", p.ref)
                             : say("{} hangs on the middle of the row", p.ref),
            .detail = nothing ? Message("Nothing flows between two points of the same wire: one of "
                                        "its wires is on the wrong terminal.")
                              : Message("One cell of the row is emptied before the other, and is "
                                        "then driven below nothing. Lead it to the ends of the "
                                        "row."),
            .evidence = {{"volts, in cells", *plus - *minus, ""}},
            .fix = {}};
        propose(finding, harness::other_places(*f.job, *f.parts, wires_at(*f.job, p.ref)));
        out.push_back(std::move(finding));
    }
}

void speakers(const Facts& f, std::vector<Finding>& out) {
    const auto board = job::first_of<catalogue::Board>(*f.job, *f.parts);
    const Levels& l = *f.levels;
    for (const job::Part& part : f.job->parts) {
        if (!f.parts->find_as<catalogue::Speaker>(part.type)) continue;
        std::vector<std::string> poles{part.ref + ".plus", part.ref + ".minus"};
        if (board)
            for (const char* pad : {".spk_plus", ".spk_minus"})
                poles.push_back(board.part->ref + pad);
        Finding finding{.id = "speaker.on-ground",
                        .severity = Severity::warn,
                        .station = Station::harness,
                        .where = {part.ref},
                        .text = {},
                        .detail = {},
                        .evidence = {},
                        .fix = {}};
        for (const std::string& pole : poles) {
            const auto at = l.stands_at(pole);
            if (!at || !finding.text.empty()) continue;
            if (*at > 0) {
                finding.id = "speaker.on-supply", finding.severity = Severity::stop;
                finding.text = say("{} is on the supply", pole);
                finding.detail = "The cell drives the coil, or burns the amplifier's output: a "
                                 "speaker goes to the amplifier's two pads alone.";
            } else {
                finding.text = say("{} is on ground", pole);
                finding.detail =
                    "Both outputs of the amplifier swing: one that is held on ground is shorted at "
                    "every sound. A speaker goes to the amplifier's two pads alone.";
            }
        }
        if (finding.text.empty() && l.joined(poles[0], poles[1])) {
            finding.id = "speaker.one-pole";
            finding.text = say("Both poles of {} are on one wire: it is silent", part.ref);
            finding.detail = "One pole goes to spk_plus, the other to spk_minus.";
        }
        if (finding.text.empty()) continue;
        finding.evidence = {{"poles", 2, ""}};
        std::vector<std::string> wires = wires_at(*f.job, part.ref);
        propose(finding, harness::other_places(*f.job, *f.parts, wires));
        out.push_back(std::move(finding));
    }
}

} // namespace

void judge_wiring(const Facts& f, std::vector<Finding>& out) {
    shorted(f, out);
    if (!f.levels->shorts().empty()) return; // what stands where has no meaning then
    buttons_on_supply(f, out);
    pads_on_supply(f, out);
    reversed_in_row(f, out);
    reversed_supply(f, out);
    wrong_ground(f, out);
    speakers(f, out);
}

} // namespace conductus::findings
