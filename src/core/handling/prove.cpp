// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/handling/prove.h"

#include <algorithm>
#include <map>

#include "core/job/lookup.h"
#include "core/job/presets.h"

namespace conductus::handling {
namespace {

using job::Attitude;
using job::Command;
using job::Does;
using job::Motion;
using job::Press;
using job::Side;

/// Shorter holds are taken for presses by a hand that is in a hurry.
constexpr Second short_hold(0.6);

bool same_made(const Command& a, const Command& b) {
    return a.trigger.press == b.trigger.press && a.trigger.buttons == b.trigger.buttons &&
           a.trigger.motion == b.trigger.motion && a.trigger.held == b.trigger.held;
}

bool sensed(const Command& c, Side side) {
    return c.trigger.side == Side::either || c.trigger.side == side;
}

/// The commands that are understood by the trigger of `of` to that side; none goes before them.
std::vector<std::size_t> meant(const job::Handling& map, const Command& of, const Circumstance& now,
                               Side side) {
    std::vector<std::size_t> all;
    for (std::size_t i = 0; i < map.commands.size(); ++i) {
        const Command& c = map.commands[i];
        if (applies(c, of.state, now) && same_made(c, of) && sensed(c, side)) all.push_back(i);
    }
    std::vector<std::size_t> first;
    for (const std::size_t i : all)
        if (std::none_of(all.begin(), all.end(), [&](std::size_t k) {
                return goes_before(map.commands[k], map.commands[i]);
            }))
            first.push_back(i);
    return first;
}

template <class Visit>
void every_meaning(const job::Handling& map, Visit visit) {
    const auto all = circumstances(map);
    for (std::size_t i = 0; i < map.commands.size(); ++i) {
        const Command& c = map.commands[i];
        for (const Circumstance& now : all) {
            if (!applies(c, c.state, now)) continue;
            for (const Side side : {Side::left, Side::right})
                if (sensed(c, side)) visit(i, now, meant(map, c, now, side));
        }
    }
}

bool disturbs(const Command& c) {
    switch (c.does) {
    case Does::put_out:
    case Does::next_preset:
    case Does::previous_preset:
    case Does::preset:
    case Does::mute:
    case Does::sleep:
    case Does::menu:
        return true;
    default:
        return false;
    }
}

bool steps(const Command& c) {
    return c.does == Does::next_preset || c.does == Does::previous_preset;
}

} // namespace

std::vector<Circumstance> circumstances(const job::Handling& map) {
    std::set<Attitude> attitudes;
    std::set<std::string> presets{""};
    bool blade = false;
    for (const Command& c : map.commands) {
        if (c.trigger.attitude != Attitude::any) attitudes.insert(c.trigger.attitude);
        presets.insert(c.preset);
        blade = blade || c.blade != job::BladeThere::any;
    }
    // One that no command asks for stands for all of those.
    for (const Attitude a : {Attitude::level, Attitude::up, Attitude::down})
        if (!attitudes.contains(a)) {
            attitudes.insert(a);
            break;
        }
    std::vector<Circumstance> all;
    for (const std::string& preset : presets)
        for (const bool in : {true, false})
            for (const Attitude a : attitudes)
                if (in || blade) all.push_back({a, in, preset});
    return all;
}

std::vector<Conflict> conflicts(const job::Handling& map) {
    std::map<std::pair<std::size_t, std::size_t>, Circumstance> found;
    every_meaning(map,
                  [&](std::size_t, const Circumstance& now, const std::vector<std::size_t>& first) {
                      for (std::size_t a = 0; a < first.size(); ++a)
                          for (std::size_t b = a + 1; b < first.size(); ++b)
                              found.try_emplace({first[a], first[b]}, now);
                  });
    std::vector<Conflict> all;
    for (const auto& [pair, now] : found)
        all.push_back({pair.first, pair.second, now});
    return all;
}

std::vector<Late> late(const job::Handling& map) {
    std::vector<Late> all;
    const auto every = circumstances(map);
    for (std::size_t i = 0; i < map.commands.size(); ++i) {
        double most = 0;
        for (const Circumstance& now : every)
            if (applies(map.commands[i], map.commands[i].state, now))
                most = std::max(most, lateness(map, map.commands[i], now));
        if (most > 0) all.push_back({i, most});
    }
    return all;
}

std::vector<std::size_t> masked(const job::Handling& map) {
    std::set<std::size_t> heard;
    every_meaning(map,
                  [&](std::size_t, const Circumstance&, const std::vector<std::size_t>& first) {
                      heard.insert(first.begin(), first.end());
                  });
    std::vector<std::size_t> all;
    for (std::size_t i = 0; i < map.commands.size(); ++i)
        if (!heard.contains(i)) all.push_back(i);
    return all;
}

std::set<std::string> reached(const job::Handling& map) {
    std::set<std::string> there;
    std::vector<std::string> next;
    if (!map.states.empty()) next.push_back(map.states.front().name);
    while (!next.empty()) {
        const std::string state = std::move(next.back());
        next.pop_back();
        if (!there.insert(state).second) continue;
        for (const Command& c : map.commands)
            if (c.state == state && !c.leads.empty()) next.push_back(c.leads);
        const auto* s = job::find_name(map.states, state);
        if (s && !s->then.empty()) next.push_back(s->then);
    }
    return there;
}

std::vector<std::string> without_way_out(const job::Handling& map) {
    std::vector<std::string> all;
    const auto there = reached(map);
    for (const job::HandState& s : map.states) {
        if (!there.contains(s.name) || s.kind == job::StateKind::off || !s.then.empty()) continue;
        if (std::none_of(map.commands.begin(), map.commands.end(), [&](const Command& c) {
                return c.state == s.name && !c.leads.empty() && c.leads != s.name;
            }))
            all.push_back(s.name);
    }
    // One state by itself is no trap.
    if (map.states.size() == 1) all.clear();
    return all;
}

std::vector<Neighbours> slips(const job::Handling& map) {
    std::vector<Neighbours> all;
    const auto every = circumstances(map);
    const auto together = [&](const Command& a, const Command& b) {
        return a.state == b.state && std::any_of(every.begin(), every.end(), [&](auto& now) {
                   return applies(a, a.state, now) && applies(b, b.state, now);
               });
    };
    for (std::size_t i = 0; i < map.commands.size(); ++i)
        for (std::size_t k = i + 1; k < map.commands.size(); ++k) {
            const Command &a = map.commands[i], &b = map.commands[k];
            if (!together(a, b) || (a.does == b.does && a.what == b.what && a.leads == b.leads))
                continue;
            auto in = a.trigger.buttons, other = b.trigger.buttons;
            if (a.trigger.press == Press::chord && b.trigger.press == Press::chord && in != other) {
                const auto by_name = [](auto& x, auto& y) { return x.button < y.button; };
                std::sort(in.begin(), in.end(), by_name);
                std::sort(other.begin(), other.end(), by_name);
                if (in == other) all.push_back({i, k, Slip::mirrored});
            }
            if (a.trigger.buttons != b.trigger.buttons || a.trigger.motion != Motion::none ||
                b.trigger.motion != Motion::none)
                continue;
            const bool press_and_hold =
                (a.trigger.press == Press::press && b.trigger.press == Press::hold) ||
                (a.trigger.press == Press::hold && b.trigger.press == Press::press);
            const Second held = std::max(a.trigger.held, b.trigger.held);
            if (press_and_hold && held < short_hold && (disturbs(a) || disturbs(b)))
                all.push_back({i, k, Slip::held_too_long});
        }
    return all;
}

std::vector<Unreached> unreached(const job::Job& job) {
    std::vector<Unreached> all;
    const auto& commands = job.handling.commands;
    const auto any = [&](auto which) {
        return std::any_of(commands.begin(), commands.end(), which);
    };
    std::set<std::string> told;
    const auto effect = [&](const job::Effect& e) {
        const bool by_itself = e.kind == job::EffectKind::flash ||
                               e.kind == job::EffectKind::ignition ||
                               e.kind == job::EffectKind::retraction;
        if (by_itself ||
            any([&](const Command& c) { return c.does == Does::effect && c.what == e.name; }))
            return;
        if (told.insert(e.name).second) all.push_back({Unreached::Kind::effect, e.name});
    };
    for (const job::Effect& e : job.effects)
        effect(e);
    for (const job::Preset& p : job.presets)
        for (const job::Effect& e : p.effects)
            effect(e);
    const bool stepped = any(steps);
    const auto shown = [&](const job::Preset& p) {
        return stepped || &p == &job.presets.front() ||
               any([&](const Command& c) { return c.does == Does::preset && c.what == p.name; });
    };
    for (const job::Preset& p : job.presets)
        if (!shown(p)) all.push_back({Unreached::Kind::preset, p.name});
    if (job.presets.empty()) return all;
    for (const job::Wish& w : job.brief.wishes) {
        if (w.by != job::Proof::look || w.done || !job::find_name(job.looks, w.target)) continue;
        if (std::none_of(job.presets.begin(), job.presets.end(),
                         [&](const job::Preset& p) { return p.look == w.target && shown(p); }))
            all.push_back({Unreached::Kind::wish, w.text});
    }
    return all;
}

} // namespace conductus::handling
