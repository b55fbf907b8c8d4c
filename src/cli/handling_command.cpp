// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/findings/finding.h"
#include "core/job/trigger.h"
#include "core/job/words.h"
#include "core/plan/analyse.h"
#include "core/plan/handled.h"
#include "files/json_text.h"

namespace conductus::cli {
namespace {

using files::Json;
using handling::TourStep;

const char* word(TourStep::Kind kind) {
    constexpr const char* words[] = {"command", "wait", "blade", "start again"};
    return words[static_cast<int>(kind)];
}

const char* word(handling::Unreached::Kind kind) {
    constexpr const char* words[] = {"effect", "preset", "wish"};
    return words[static_cast<int>(kind)];
}

Json command_json(const job::Command& c) {
    Json one{{"name", c.name},
             {"state", c.state},
             {"trigger", job::trigger_text(c.trigger)},
             {"does", job::word(c.does)},
             {"leads", c.leads.empty() ? c.state : c.leads},
             {"tried", !c.tried_on.empty()}};
    if (!c.what.empty()) one["what"] = c.what;
    if (!c.preset.empty()) one["preset"] = c.preset;
    if (c.blade != job::BladeThere::any) one["blade"] = job::word(c.blade);
    return one;
}

Json step_json(const TourStep& s, const job::Handling& map) {
    Json one{{"step", word(s.kind)}, {"from", s.from}, {"to", s.to}};
    if (s.kind == TourStep::Kind::command) {
        const job::Command& c = map.commands[s.command];
        one["command"] = c.name;
        one["trigger"] = job::trigger_text(c.trigger);
        one["first"] = s.first;
    }
    if (!s.preset.empty()) one["preset"] = s.preset;
    return one;
}

Json handled_json(const plan::Handled& h, const job::Handling& map) {
    Json commands = Json::array(), conflicts = Json::array(), late = Json::array(),
         unreached = Json::array(), tour = Json::array();
    for (const job::Command& c : map.commands)
        commands.push_back(command_json(c));
    for (const handling::Conflict& c : h.conflicts) {
        const job::Command& one = map.commands[c.one];
        conflicts.push_back({{"commands", {one.name, map.commands[c.other].name}},
                             {"state", one.state},
                             {"trigger", job::trigger_text(one.trigger)}});
    }
    for (const handling::Late& l : h.late)
        late.push_back({{"command", map.commands[l.command].name}, {"delay_s", l.seconds}});
    for (const handling::Unreached& u : h.unreached)
        unreached.push_back({{"what", word(u.kind)}, {"name", u.name}});
    for (const TourStep& s : h.tour.steps)
        tour.push_back(step_json(s, map));
    return {{"commands", std::move(commands)}, {"conflicts", std::move(conflicts)},
            {"late", std::move(late)},         {"unreached", std::move(unreached)},
            {"tour", std::move(tour)},         {"tour_cost", h.tour.cost},
            {"tour_shortest", h.tour.shortest}};
}

void print_words(const plan::Handled& h, const job::Handling& map) {
    for (const handling::HandButton& b : h.buttons)
        fmt::print("{}  {}, {}\n", b.letter, b.ref, b.place.english());
    if (map.commands.empty()) fmt::print("no commands: nothing was entered yet\n");
    for (const job::HandState& s : map.states) {
        fmt::print("\n{}{}\n", s.name,
                   s.then.empty() ? "" : fmt::format(", after {} s {}", s.limit.value(), s.then));
        for (std::size_t i = 0; i < map.commands.size(); ++i) {
            const job::Command& c = map.commands[i];
            if (c.state != s.name) continue;
            std::string more = c.leads.empty() ? "" : "→ " + c.leads;
            for (const handling::Late& l : h.late)
                if (l.command == i) more += fmt::format("  {} s late", decimals(l.seconds, 2));
            if (!c.preset.empty()) more += "  only in " + c.preset;
            fmt::print("  {:<28} {:<32} {}\n", plan::told_trigger(c.trigger, h.buttons), c.name,
                       more);
        }
    }
    for (const handling::Conflict& c : h.conflicts)
        fmt::print("\n!  in {}, {} means {} and {}", map.commands[c.one].state,
                   plan::told_trigger(map.commands[c.one].trigger, h.buttons),
                   map.commands[c.one].name, map.commands[c.other].name);
    if (!h.tour.steps.empty())
        fmt::print("\nthe {} tour tries all in {} steps\n",
                   h.tour.shortest ? "shortest" : "shortest found", h.tour.steps.size());
}

} // namespace

int handling(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    const plan::Handled h = plan::handled(*plan->whole, *plan->parts);
    const job::Handling& map = plan->whole->handling;
    if (json)
        fmt::print("{}\n", handled_json(h, map).dump(2));
    else
        print_words(h, map);
    for (const findings::Finding& f : plan->findings)
        if (f.station == findings::Station::handling && f.severity == findings::Severity::stop)
            return stop_finding;
    return fine;
}

} // namespace conductus::cli
