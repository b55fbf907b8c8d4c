// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/levels.h"

#include <algorithm>
#include <fmt/format.h>
#include <cctype>
#include <deque>

#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"
#include "core/job/wiring.h"

namespace conductus::harness {

using catalogue::Pass;

namespace {

/// A resistor of less is no resistor to a lithium cell.
constexpr double copper_ohms = 0.1;

bool is_pad(std::string_view terminal) {
    return terminal.size() > 1 && terminal[0] == 'l' &&
           std::isdigit(static_cast<unsigned char>(terminal[1]));
}

} // namespace

Levels::Levels(const job::Job& job, const catalogue::Catalogue& parts, const Closed& closed) {
    std::vector<std::string> cells;
    std::map<std::string, int> rows;
    for (const job::Wire& wire : job.wires)
        if (wire.from != wire.to) join(wire.from, wire.to, Kind::wire, wire.ref);
    for (const job::Part& part : job.parts) {
        const auto& figures = parts.find(part.type)->figures;
        const std::string& ref = part.ref;
        if (const auto* cell = std::get_if<catalogue::Cell>(&figures)) {
            cells.push_back(ref);
            rows[ref] = cell->series;
            join(ref + ".minus", ref + ".plus", Kind::cell, ref, cell->series);
        }
        const bool jack = std::holds_alternative<catalogue::Jack>(figures);
        for (const Pass& pass : catalogue::passes(figures)) {
            if (pass.carries == Pass::Carries::data) continue;
            const std::string a = ref + "." + std::string(pass.a),
                              b = ref + "." + std::string(pass.b);
            if (pass.how == Pass::How::converts) {
                join(a, b, Kind::converts, ref);
            } else if (pass.how == Pass::How::limits) {
                const auto* r = std::get_if<catalogue::Resistor>(&figures);
                const bool as_copper = r && job::resistance_of(part, *r).value() < copper_ohms;
                join(a, b, as_copper ? Kind::contact : Kind::limits, ref);
            } else {
                const bool shut = pass.how == Pass::How::conducts ? closed.fuses
                                  : jack                          ? closed.jacks
                                                                  : closed.kills;
                if (shut && ref != closed.but) join(a, b, Kind::contact, ref);
            }
        }
        if (std::holds_alternative<catalogue::Button>(figures) &&
            (closed.buttons.contains(ref) || job::switches_power(job, part)))
            join(ref + ".a", ref + ".b", Kind::contact, ref);
        if (std::holds_alternative<catalogue::Board>(figures))
            for (const std::string& terminal : parts.find(part.type)->terminals)
                if (is_pad(terminal))
                    join(ref + "." + terminal, ref + ".gnd",
                         closed.pads ? Kind::contact : Kind::pad, ref);
    }
    for (const job::Blade& blade : job.blades) {
        const job::Part* part = job::find_ref(job.parts, blade.connector);
        if (!part || !parts.find_as<catalogue::Connector>(part->type)) continue;
        for (const char* pole : {".plus", ".minus"})
            join(part->ref + pole, blade.ref + pole, Kind::joint, part->ref);
        const auto* c = parts.find_as<catalogue::Connector>(part->type);
        for (int i = 1; i <= c->segments; ++i)
            join(fmt::format("{}.seg{}", part->ref, i), fmt::format("{}.seg{}", blade.ref, i),
                 Kind::joint, part->ref);
        if (c->flash_pin && c->segments > 0)
            join(part->ref + ".flash", blade.ref + ".flash", Kind::joint, part->ref);
    }
    levels_.resize(names_.size());
    find_shorts(cells, rows);
    set_levels(cells);
    spread(true, plus_);
    spread(false, minus_);
    spread_middle();
}

Levels::Id Levels::id(std::string_view terminal) {
    const auto it = ids_.find(terminal);
    if (it != ids_.end()) return it->second;
    const Id made = names_.size();
    ids_.emplace(terminal, made);
    names_.emplace_back(terminal);
    edges_.emplace_back();
    return made;
}

const Levels::Id* Levels::find(std::string_view terminal) const {
    const auto it = ids_.find(terminal);
    return it == ids_.end() ? nullptr : &it->second;
}

void Levels::join(const std::string& a, const std::string& b, Kind kind, const std::string& ref,
                  int volts) {
    const Id from = id(a), to = id(b);
    edges_[from].push_back({to, kind, volts, false, ref});
    edges_[to].push_back({from, kind, -volts, true, ref});
}

std::map<Levels::Id, Levels::Step> Levels::reach(Id from, std::string_view but_cell,
                                                 bool through_cells) const {
    std::map<Id, Step> steps;
    std::deque<Id> near{from};
    std::vector<std::pair<Id, const Edge*>> beyond; // through one more cell
    steps[from] = {};
    while (!near.empty()) {
        while (!near.empty()) {
            const Id at = near.front();
            near.pop_front();
            for (const Edge& edge : edges_[at]) {
                if (edge.kind == Kind::cell) {
                    if (through_cells && edge.ref != but_cell) beyond.emplace_back(at, &edge);
                } else if (copper(edge.kind) && !steps.contains(edge.to)) {
                    steps[edge.to] = {at, &edge, steps[at].level};
                    near.push_back(edge.to);
                }
            }
        }
        for (const auto& [at, edge] : beyond) {
            if (steps.contains(edge->to)) continue;
            steps[edge->to] = {at, edge, steps[at].level + edge->volts};
            near.push_back(edge->to);
        }
        beyond.clear();
    }
    return steps;
}

void Levels::find_shorts(const std::vector<std::string>& cells,
                         const std::map<std::string, int>& rows) {
    std::set<std::string> told;
    for (const std::string& ref : cells) {
        if (told.contains(ref)) continue;
        const Id plus = *find(ref + ".plus"), minus = *find(ref + ".minus");
        // Without this cell: the way back from its plus to its minus, fewest cells first.
        const auto steps = reach(plus, ref, true);
        const auto end = steps.find(minus);
        if (end == steps.end() || end->second.level == -rows.at(ref)) continue;
        Short found;
        std::set<std::string> in{ref};
        for (Id at = minus; at != plus; at = steps.at(at).from) {
            const Edge& edge = *steps.at(at).by;
            if (edge.kind == Kind::wire)
                found.wires.push_back(edge.ref);
            else if (edge.kind == Kind::contact)
                found.contacts.push_back(edge.ref);
            else if (edge.kind == Kind::cell)
                in.insert(edge.ref);
        }
        std::reverse(found.wires.begin(), found.wires.end());
        std::reverse(found.contacts.begin(), found.contacts.end());
        for (const std::string& cell : cells)
            if (in.contains(cell)) found.cells.push_back(cell), told.insert(cell);
        found.row = std::abs(end->second.level + rows.at(ref));
        shorts_.push_back(std::move(found));
    }
}

void Levels::set_levels(const std::vector<std::string>& cells) {
    for (const std::string& ref : cells) {
        const Id minus = *find(ref + ".minus");
        if (levels_[minus]) continue;
        ++islands_;
        const auto steps = reach(minus, {}, true);
        int low = 0;
        for (const auto& [at, step] : steps)
            low = std::min(low, step.level);
        for (const auto& [at, step] : steps) {
            levels_[at] = step.level - low;
            top_ = std::max(top_, step.level - low);
        }
    }
}

void Levels::spread(bool plus, std::vector<bool>& mark) const {
    mark.assign(names_.size(), false);
    std::vector<Id> queue;
    const auto go = [&](Id at) {
        if (mark[at]) return;
        mark[at] = true;
        queue.push_back(at);
    };
    for (Id at = 0; at < names_.size(); ++at)
        if (levels_[at] && *levels_[at] == (plus ? top_ : 0) && top_ > 0) go(at);
    for (std::size_t i = 0; i < queue.size(); ++i) {
        const Id at = queue[i]; // the queue grows
        for (const Edge& edge : edges_[at]) {
            const bool follow = copper(edge.kind) || edge.kind == Kind::limits ||
                                (plus && edge.kind == Kind::converts && !edge.back) ||
                                (!plus && edge.kind == Kind::pad && edge.back);
            // What limits ends where the other pole or the middle of a row begins.
            const bool other = levels_[edge.to] && *levels_[edge.to] != (plus ? top_ : 0);
            if (follow && !(other && !copper(edge.kind))) go(edge.to);
        }
    }
}

/// From the middle of a row through what limits, as far as neither pole reaches.
void Levels::spread_middle() {
    middle_.assign(names_.size(), 0);
    std::vector<Id> queue;
    for (Id at = 0; at < names_.size(); ++at)
        if (levels_[at] && *levels_[at] > 0 && *levels_[at] < top_)
            middle_[at] = *levels_[at], queue.push_back(at);
    for (std::size_t i = 0; i < queue.size(); ++i) {
        const Id at = queue[i]; // the queue grows
        for (const Edge& edge : edges_[at]) {
            if (!copper(edge.kind) && edge.kind != Kind::limits) continue;
            if (middle_[edge.to] || levels_[edge.to] || plus_[edge.to] || minus_[edge.to]) continue;
            middle_[edge.to] = middle_[at];
            queue.push_back(edge.to);
        }
    }
}

std::optional<int> Levels::level(std::string_view terminal) const {
    const Id* at = find(terminal);
    return at ? levels_[*at] : std::nullopt;
}

bool Levels::on_plus(std::string_view terminal) const {
    const Id* at = find(terminal);
    return at && plus_[*at];
}

bool Levels::on_minus(std::string_view terminal) const {
    const Id* at = find(terminal);
    return at && minus_[*at];
}

std::optional<double> Levels::stands_at(std::string_view terminal) const {
    if (const auto exact = level(terminal)) return *exact;
    if (on_plus(terminal)) return top_;
    if (on_minus(terminal)) return 0;
    const Id* at = find(terminal);
    if (at && middle_[*at] > 0) return middle_[*at];
    return std::nullopt;
}

bool Levels::joined(std::string_view a, std::string_view b) const {
    const Id *from = find(a), *to = find(b);
    return from && to && reach(*from, {}, false).contains(*to);
}

std::vector<std::string> Levels::way(std::string_view a, std::string_view b) const {
    const Id *from = find(a), *to = find(b);
    if (!from || !to) return {};
    const auto steps = reach(*from, {}, false);
    if (!steps.contains(*to)) return {};
    std::vector<std::string> wires;
    for (Id at = *to; at != *from; at = steps.at(at).from)
        if (steps.at(at).by->kind == Kind::wire) wires.push_back(steps.at(at).by->ref);
    std::reverse(wires.begin(), wires.end());
    return wires;
}

std::vector<std::string> Levels::island(std::string_view terminal) const {
    const Id* from = find(terminal);
    if (!from) return {std::string(terminal)};
    std::vector<std::string> all;
    for (const auto& [at, step] : reach(*from, {}, false))
        all.push_back(names_[at]);
    return all;
}

} // namespace conductus::harness
