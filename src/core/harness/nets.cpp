// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/nets.h"

#include <algorithm>
#include <cctype>
#include <fmt/format.h>

#include "core/job/lookup.h"

namespace conductus::harness {
namespace {

std::vector<const job::Part*> cells_of(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<const job::Part*> cells;
    for (const job::Part& part : job.parts)
        if (parts.find_as<catalogue::Cell>(part.type)) cells.push_back(&part);
    return cells;
}

} // namespace

std::optional<InARow> in_row(const job::Part& part, const catalogue::Catalogue& parts) {
    using catalogue::Pass;
    for (const Pass& pass : catalogue::passes(parts.find(part.type)->figures))
        if (pass.how != Pass::How::converts || pass.carries == Pass::Carries::data)
            return InARow{part.ref, fmt::format("{}.{}", part.ref, pass.a),
                          fmt::format("{}.{}", part.ref, pass.b)};
    return std::nullopt;
}

bool takes_wire(const job::Job& job, const catalogue::Catalogue& parts, std::string_view terminal,
                job::Role role) {
    const auto [ref, name] = job::split_terminal(terminal);
    const job::Part* part = job::find_ref(job.parts, ref);
    const bool power = job::power_roles.holds(role);
    if (!part) // of a blade, or of a strip in it
        return name == "data" || name == "out" ? role == job::Role::data : power;
    if (power && parts.find_as<catalogue::Button>(part->type) && job::switches_power(job, *part))
        return true;
    const catalogue::Takes takes = catalogue::takes(parts.find(part->type)->figures, name);
    switch (role) {
    case job::Role::supply:
        return takes.supply;
    case job::Role::return_path:
        return takes.back;
    case job::Role::data:
        return takes.data;
    case job::Role::button:
        return takes.button;
    case job::Role::sound:
        return takes.sound;
    }
    return false;
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
                                   const job::Wiring& wiring, char letter) {
    std::vector<std::string> all = pads(job, parts, letter);
    std::erase_if(all, [&](const std::string& pad) { return wiring.is_wired(pad); });
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

PackEnds pack_ends(const job::Job& job, const catalogue::Catalogue& parts,
                   const job::Wiring& wiring) {
    PackEnds ends;
    const auto cells = cells_of(job, parts);
    constexpr Through everything = Through::conductors_and_converters;
    for (const job::Part* cell : cells) {
        const Terminals up = wiring.reached({cell->ref + ".plus"}, job::power_roles, everything);
        const Terminals down = wiring.reached({cell->ref + ".minus"}, job::power_roles, everything);
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
