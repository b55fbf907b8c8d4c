// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/wiring.h"

#include <algorithm>

#include "core/catalogue/catalogue.h"
#include "core/job/lookup.h"

namespace conductus::job {

using catalogue::Pass;

bool switches_power(const Job& job, const Part& button) {
    const auto soldered = [&](const std::string& terminal) {
        return std::any_of(job.wires.begin(), job.wires.end(), [&](const Wire& w) {
            return power_roles.holds(w.role) && (w.from == terminal || w.to == terminal);
        });
    };
    return soldered(button.ref + ".a") && soldered(button.ref + ".b");
}

Wiring::Wiring(const Job& job, const catalogue::Catalogue& parts) : parts_(parts) {
    for (const Wire& wire : job.wires)
        add(wire);
    for (const Part& part : job.parts) {
        const auto* type = parts.find(part.type);
        if (!type) continue;
        if (std::holds_alternative<catalogue::Button>(type->figures) && switches_power(job, part)) {
            const Id a = intern(part.ref + ".a"), b = intern(part.ref + ".b");
            ways_[a].push_back({b, Pass::Carries::supply, Pass::How::switched, true});
            ways_[b].push_back({a, Pass::Carries::supply, Pass::How::switched, false});
        }
        for (const Pass& pass : catalogue::passes(type->figures)) {
            const Id a = intern(part.ref + "." + std::string(pass.a));
            const Id b = intern(part.ref + "." + std::string(pass.b));
            ways_[a].push_back({b, pass.carries, pass.how, true});
            ways_[b].push_back({a, pass.carries, pass.how, false});
        }
    }
}

Wiring::Id Wiring::intern(std::string_view terminal) {
    const auto found = ids_.find(terminal);
    if (found != ids_.end()) return found->second;
    const Id id = static_cast<Id>(names_.size());
    const auto it = ids_.emplace(terminal, id).first;
    names_.push_back(&it->first);
    links_.emplace_back();
    ways_.emplace_back();
    return id;
}

const Wiring::Id* Wiring::find(std::string_view terminal) const {
    const auto found = ids_.find(terminal);
    return found == ids_.end() ? nullptr : &found->second;
}

void Wiring::add(const Wire& wire) {
    const Id from = intern(wire.from), to = intern(wire.to);
    links_[from].push_back({to, wire.role});
    links_[to].push_back({from, wire.role});
}

bool Wiring::is_wired(std::string_view terminal) const {
    const Id* id = find(terminal);
    return id && !links_[*id].empty();
}

bool Wiring::is_wired(std::string_view terminal, Roles roles) const {
    const Id* id = find(terminal);
    return id && std::any_of(links_[*id].begin(), links_[*id].end(),
                             [&](const Link& l) { return roles.holds(l.role); });
}

bool Wiring::is_loose(const Part& part) const {
    const auto& terminals = parts_.find(part.type)->terminals;
    return std::none_of(terminals.begin(), terminals.end(),
                        [&](const std::string& t) { return is_wired(part.ref + "." + t); });
}

void Wiring::each_wire_at(std::string_view terminal,
                          const std::function<void(Joint)>& visit) const {
    if (const Id* id = find(terminal))
        for (const Link& link : links_[*id])
            visit({*names_[link.to], link.role});
}

void Wiring::each_across(std::string_view terminal,
                         const std::function<void(Inside)>& visit) const {
    if (const Id* id = find(terminal))
        for (const Way& way : ways_[*id])
            if (way.forward || way.how != Pass::How::converts)
                visit({*names_[way.to], way.carries, way.how});
}

template <class Visit, class Beyond>
void Wiring::walk(std::vector<Id> queue, Roles roles, Through through, Visit visit,
                  Beyond beyond) const {
    std::vector<bool> seen(names_.size());
    for (const Id id : queue)
        seen[id] = true;
    for (std::size_t i = 0; i < queue.size(); ++i) {
        const Id at = queue[i]; // the queue grows
        if (!visit(at)) return;
        if (!beyond(at)) continue;
        const auto go = [&](Id to) {
            if (seen[to]) return;
            seen[to] = true;
            queue.push_back(to);
        };
        for (const Link& link : links_[at])
            if (roles.holds(link.role)) go(link.to);
        if (through == Through::nothing) continue;
        for (const Way& way : ways_[at]) {
            const bool power = roles.holds(Role::supply) || roles.holds(Role::return_path);
            if ((way.carries == Pass::Carries::data && !roles.holds(Role::data)) ||
                (way.carries == Pass::Carries::supply && !power))
                continue;
            if (way.how == Pass::How::limits && through == Through::contacts) continue;
            if (way.how == Pass::How::converts &&
                (!way.forward || through != Through::conductors_and_converters))
                continue;
            go(way.to);
        }
    }
}

Terminals Wiring::reached(const std::vector<std::string>& from, Roles roles,
                          Through through) const {
    Terminals all(from.begin(), from.end());
    std::vector<Id> queue;
    for (const std::string& terminal : from)
        if (const Id* id = find(terminal)) queue.push_back(*id);
    walk(
        std::move(queue), roles, through,
        [&](Id at) {
            all.insert(*names_[at]);
            return true;
        },
        [](Id) { return true; });
    return all;
}

std::string Wiring::nearest(const std::string& from, Roles roles, Through through,
                            const std::function<bool(std::string_view)>& wanted,
                            const std::function<bool(std::string_view)>& stop) const {
    const Id* id = find(from);
    if (!id) return wanted(from) ? from : std::string();
    std::string found;
    walk(
        {*id}, roles, through,
        [&](Id at) {
            if (!wanted(*names_[at])) return true;
            found = *names_[at];
            return false;
        },
        [&](Id at) { return !stop(*names_[at]); });
    return found;
}

} // namespace conductus::job
