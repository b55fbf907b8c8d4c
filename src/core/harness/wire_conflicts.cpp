// SPDX-License-Identifier: GPL-3.0-or-later
// Wires that can not be meant.
#include <algorithm>
#include <fmt/format.h>

#include "core/harness/derive.h"
#include "core/harness/nets.h"
#include "core/harness/rewire.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::harness {
namespace {

using catalogue::Catalogue;
using job::Job;
using job::Role;

/// What stands in a row with others and is soldered at one side, or at none.
void idle(const Job& job, const Catalogue& parts, const job::Wiring& wiring,
          std::vector<WireConflict>& all) {
    for (const job::Part& part : job.parts) {
        const auto row = in_row(part, parts);
        if (!row) continue;
        const bool in = wiring.is_wired(row->in), out = wiring.is_wired(row->out);
        if (in && out) continue;
        // That nothing is switched off is a finding of its own.
        const bool kill = parts.find_as<catalogue::Kill>(part.type) != nullptr;
        if (kill && !in && !out) continue;
        WireConflict c;
        c.where = {part.ref};
        if (in || out) {
            c.id = "harness.leads-nowhere";
            c.text = say("{} leads nowhere", in ? row->out : row->in);
            c.detail = "What comes in at one side has to go on at the other.";
        } else {
            c.id = "harness.not-wired";
            c.text = say("{} is fitted and not wired", part.ref);
            c.detail = "Lead a wire through it, or take it out of the build.";
            // A fuse belongs right after the cell.
            const bool first = parts.find_as<catalogue::Fuse>(part.type) != nullptr;
            const auto plus = pack_ends(job, parts, wiring).plus;
            for (const job::Wire& w : job.wires)
                if (first && w.role == Role::supply && !plus.empty() && w.from == plus.front()) {
                    c.fix_text = fmt::format("lead {} through it", w.ref);
                    c.fix = split_wire(w.ref, *row);
                    break;
                }
        }
        all.push_back(std::move(c));
    }
}

} // namespace

std::vector<WireConflict> wire_conflicts(const Job& job, const Catalogue& parts,
                                         const job::Wiring& wiring) {
    std::vector<WireConflict> all;
    for (const job::Wire& w : job.wires) {
        if (w.from == w.to) {
            all.push_back({"harness.loop",
                           {w.ref},
                           say("{} begins and ends on {}", w.ref, w.from),
                           "It joins nothing.",
                           "take it out",
                           [ref = w.ref](Job& j) {
                               std::erase_if(j.wires,
                                             [&](const job::Wire& x) { return x.ref == ref; });
                           }});
            continue;
        }
        const auto take = [&](const std::string& terminal, Role role) {
            return takes_wire(job, parts, terminal, role);
        };
        if (take(w.from, w.role) && take(w.to, w.role)) continue;
        WireConflict c;
        c.id = "harness.wrong-role";
        c.where = {w.ref};
        const bool first = !take(w.from, w.role);
        c.text = say("{} is a {} wire, {} is no place for one", w.ref, job::word(w.role),
                     first ? w.from : w.to);
        for (const Role role :
             {Role::supply, Role::return_path, Role::data, Role::button, Role::sound})
            if (take(w.from, role) && take(w.to, role) && c.fix_text.empty()) {
                c.fix_text = fmt::format("make it a {} wire", job::word(role));
                c.fix = [ref = w.ref, role](Job& j) {
                    if (auto* x = job::find_ref(j.wires, ref)) x->role = role;
                };
            }
        c.detail = c.fix_text.empty() ? "Its two ends have nothing in common: solder it elsewhere."
                                      : "Both its ends want another kind of wire.";
        all.push_back(std::move(c));
    }
    idle(job, parts, wiring, all);
    // Data lines soldered together speak at once.
    const auto data = pads(job, parts, 'd');
    for (std::size_t i = 0; i < data.size(); ++i) {
        const auto on = wiring.reached({data[i]}, {Role::data}, Through::conductors);
        for (std::size_t k = i + 1; k < data.size(); ++k)
            if (on.contains(data[k]))
                all.push_back({"harness.data-joined",
                               {std::string(job::split_terminal(data[i]).first)},
                               say("{} and {} are soldered together", data[i], data[k]),
                               "Two data pads on one line speak at once: take one off.",
                               {},
                               {}});
    }
    for (const job::Part& part : job.parts) {
        if (!parts.find_as<catalogue::Button>(part.type)) continue;
        const auto on = wiring.reached(pads(job, parts, 's'), {Role::button}, Through::nothing);
        if (on.contains(part.ref + ".a") && on.contains(part.ref + ".b"))
            all.push_back({"harness.button-both",
                           {part.ref},
                           say("both sides of {} are on button pads", part.ref),
                           "Pressed, it joins two pads and neither to ground: one side wants the "
                           "board's gnd.",
                           {},
                           {}});
    }
    return all;
}

} // namespace conductus::harness
