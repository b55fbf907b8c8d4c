// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/nets.h"

#include <algorithm>
#include <cctype>

#include "core/job/lookup.h"

namespace conductus::harness {
namespace {

/// What follows behind a terminal inside its part; empty where nothing does.
std::string other_side(const job::Job& job, const catalogue::Catalogue& parts, std::string_view ref,
                       const std::string& terminal) {
    const job::Part* part = job::find_ref(job.parts, ref);
    if (!part || parts.find_as<catalogue::Shifter>(part->type)) return {};
    if (const auto row = in_row(*part, parts)) return terminal == row->in ? row->out : row->in;
    const bool converts = parts.find_as<catalogue::Regulator>(part->type) ||
                          parts.find_as<catalogue::Driver>(part->type);
    return converts && terminal == part->ref + ".in" ? part->ref + ".out" : std::string();
}

std::vector<const job::Part*> cells_of(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<const job::Part*> cells;
    for (const job::Part& part : job.parts)
        if (parts.find_as<catalogue::Cell>(part.type)) cells.push_back(&part);
    return cells;
}

} // namespace

std::optional<Through> in_row(const job::Part& part, const catalogue::Catalogue& parts) {
    const auto& f = parts.find(part.type)->figures;
    const bool linear = std::holds_alternative<catalogue::Driver>(f) &&
                        std::get<catalogue::Driver>(f).method == catalogue::Driver::Method::linear;
    if (std::holds_alternative<catalogue::Kill>(f) || linear ||
        std::holds_alternative<catalogue::Shifter>(f))
        return Through{part.ref, part.ref + ".in", part.ref + ".out"};
    if (std::holds_alternative<catalogue::Fuse>(f) ||
        std::holds_alternative<catalogue::Resistor>(f))
        return Through{part.ref, part.ref + ".a", part.ref + ".b"};
    return std::nullopt;
}

bool soldered_to(const job::Job& job, const std::string& terminal) {
    return std::any_of(job.wires.begin(), job.wires.end(),
                       [&](const job::Wire& w) { return w.from == terminal || w.to == terminal; });
}

bool is_loose(const job::Job& job, const catalogue::Catalogue& parts, const job::Part& part) {
    const auto& terminals = parts.find(part.type)->terminals;
    return std::none_of(terminals.begin(), terminals.end(),
                        [&](const std::string& t) { return soldered_to(job, part.ref + "." + t); });
}

Terminals reached(const job::Job& job, const catalogue::Catalogue& parts,
                  const std::vector<std::string>& from, const std::vector<job::Role>& roles,
                  bool through) {
    Terminals seen(from.begin(), from.end());
    std::vector<std::string> queue = from;
    for (std::size_t i = 0; i < queue.size(); ++i) {
        const std::string at = queue[i]; // the queue grows
        auto go = [&](const std::string& to) {
            if (!to.empty() && seen.insert(to).second) queue.push_back(to);
        };
        for (const job::Wire& w : job.wires) {
            if (std::find(roles.begin(), roles.end(), w.role) == roles.end()) continue;
            if (w.from == at) go(w.to);
            if (w.to == at) go(w.from);
        }
        if (through) go(other_side(job, parts, job::split_terminal(at).first, at));
    }
    return seen;
}

std::vector<std::string> pads(const job::Job& job, const catalogue::Catalogue& parts, char letter) {
    std::vector<std::string> all;
    for (const job::Part& part : job.parts) {
        if (!parts.find_as<catalogue::Board>(part.type)) continue;
        for (const std::string& t : parts.find(part.type)->terminals)
            if (t.size() > 1 && t[0] == letter && std::isdigit(static_cast<unsigned char>(t[1])))
                all.push_back(part.ref + "." + t);
    }
    return all;
}

std::vector<std::string> free_pads(const job::Job& job, const catalogue::Catalogue& parts,
                                   char letter) {
    std::vector<std::string> all = pads(job, parts, letter);
    std::erase_if(all, [&](const std::string& pad) { return soldered_to(job, pad); });
    return all;
}

bool cells_in_row(const job::Job& job, const catalogue::Catalogue& parts) {
    const auto cells = cells_of(job, parts);
    if (cells.size() < 2) return false;
    double volts = 0;
    for (const job::Part* c : cells)
        volts += 4.25 * parts.find_as<catalogue::Cell>(c->type)->series;
    const auto board = job::first_of<catalogue::Board>(job, parts);
    return board && board.figures->most.value() >= volts;
}

PackEnds pack_ends(const job::Job& job, const catalogue::Catalogue& parts) {
    PackEnds ends;
    const auto cells = cells_of(job, parts);
    using job::Role;
    for (const job::Part* cell : cells) {
        const Terminals up =
            reached(job, parts, {cell->ref + ".plus"}, {Role::supply, Role::ground}, true);
        const Terminals down =
            reached(job, parts, {cell->ref + ".minus"}, {Role::supply, Role::ground}, true);
        bool top = true, bottom = true;
        for (const job::Part* other : cells) {
            if (other == cell) continue;
            top = top && !up.contains(other->ref + ".minus");
            bottom = bottom && !down.contains(other->ref + ".plus");
        }
        if (top) ends.plus.push_back(cell->ref + ".plus");
        if (bottom) ends.minus.push_back(cell->ref + ".minus");
    }
    // Not joined to each other yet: as they would be.
    if (cells.size() > 1 && ends.plus.size() == cells.size() && cells_in_row(job, parts)) {
        ends.plus = {cells.back()->ref + ".plus"};
        ends.minus = {cells.front()->ref + ".minus"};
    }
    return ends;
}

} // namespace conductus::harness
