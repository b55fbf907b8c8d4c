// SPDX-License-Identifier: GPL-3.0-or-later
// Maps of commands for tests.
#pragma once

#include <random>

#include "core/job/trigger.h"

namespace conductus::test {

/// One state, "lit", with a command for each trigger, called as it is written.
inline job::Handling map_of(const std::vector<std::string>& written) {
    job::Handling map;
    job::HandState lit;
    lit.name = "lit", lit.kind = job::StateKind::lit;
    map.states = {lit};
    for (const std::string& w : written) {
        job::Command c;
        c.name = w, c.state = "lit", c.trigger = job::read_trigger(w).value();
        map.commands.push_back(c);
    }
    return map;
}

/// A map at random: up to `states` states and `commands` commands on up to three buttons.
inline job::Handling random_map(std::mt19937& random, std::size_t states, std::size_t commands) {
    const auto any = [&](std::size_t n) { return static_cast<std::size_t>(random() % n); };
    job::Handling map;
    const std::size_t n = 1 + any(states);
    for (std::size_t i = 0; i < n; ++i) {
        job::HandState s;
        s.name = "state " + std::to_string(i);
        map.states.push_back(s);
    }
    for (job::HandState& s : map.states)
        if (any(4) == 0) {
            s.then = map.states[any(n)].name;
            if (s.then == s.name)
                s.then.clear();
            else
                s.limit = Second(5);
        }
    constexpr const char* triggers[] = {"S1",
                                        "S2",
                                        "S1 twice",
                                        "S2 twice",
                                        "S1 three times",
                                        "S1 held 1 s",
                                        "S1 held 2 s",
                                        "S2 held 1 s",
                                        "S1 then S2",
                                        "S2 then S1",
                                        "twist",
                                        "twist left",
                                        "twist right",
                                        "S1 with twist",
                                        "S1 with twist left",
                                        "S2 with thrust"};
    const std::size_t many = 1 + any(commands);
    for (std::size_t i = 0; i < many; ++i) {
        job::Command c;
        c.name = "command " + std::to_string(i);
        c.state = map.states[any(n)].name;
        c.trigger = job::read_trigger(triggers[any(std::size(triggers))]).value();
        if (any(3) == 0) c.trigger.attitude = static_cast<job::Attitude>(any(4));
        if (any(6) == 0) c.blade = static_cast<job::BladeThere>(any(3));
        if (any(5) == 0) c.preset = any(2) == 0 ? "Fog horn" : "Low tide";
        if (any(2) == 0) c.leads = map.states[any(n)].name;
        map.commands.push_back(c);
    }
    return map;
}

} // namespace conductus::test
