// SPDX-License-Identifier: GPL-3.0-or-later
// Rules of how the hilt is handled: what one input can mean, what answers late, what is out of
// reach, what one slip does.
#include <algorithm>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/findings/rule_tools.h"
#include "core/handling/buttons.h"
#include "core/handling/prove.h"
#include "core/job/lookup.h"
#include "core/job/trigger.h"

namespace conductus::findings {
namespace {

using handling::HandButton;
using job::Command;

constexpr std::size_t most_places = 3;

/// Commands that give effects, which are asked for in the middle of a movement.
bool is_urgent(const Command& c) { return c.does == job::Does::effect; }

std::string both(const Command& a, const Command& b) {
    return fmt::format("{} and {}", a.name, b.name);
}

/// Another trigger for a command: one that means nothing else there, answers at once, and is not a
/// slip away from another. Empty: the buttons that are fitted have none left.
std::optional<job::Trigger> free_trigger(const Facts& f, std::size_t which,
                                         const std::vector<HandButton>& buttons) {
    std::vector<std::string> tries;
    for (const char* how : {"", " held 1 s", " twice", " with twist", " with thrust"})
        for (const HandButton& b : buttons)
            tries.push_back(b.ref + how);
    for (const HandButton& a : buttons)
        for (const HandButton& b : buttons)
            if (a.ref != b.ref) tries.push_back(fmt::format("{} then {}", a.ref, b.ref));
    const auto slips_of = [&](const job::Handling& map) {
        const auto all = handling::slips(map);
        return std::count_if(all.begin(), all.end(), [&](const handling::Neighbours& n) {
            return n.one == which || n.other == which;
        });
    };
    const auto late_now = handling::late(f.job->handling).size();
    for (const bool prompt : {true, false})
        for (const std::string& written : tries) {
            const auto trigger = job::read_trigger(written);
            if (!trigger) continue;
            job::Handling map = f.job->handling;
            map.commands[which].trigger = *trigger;
            const auto again = handling::conflicts(map);
            if (std::any_of(again.begin(), again.end(),
                            [&](auto& c) { return c.one == which || c.other == which; }))
                continue;
            if (slips_of(map) > 0 ||
                handling::masked(map).size() > handling::masked(f.job->handling).size())
                continue;
            if (!prompt || handling::late(map).size() <= late_now) return *trigger;
        }
    return std::nullopt;
}

void propose_trigger(const Facts& f, Finding& finding, std::size_t which,
                     const std::vector<HandButton>& buttons) {
    const auto trigger = free_trigger(f, which, buttons);
    if (!trigger) return;
    const Command& c = f.job->handling.commands[which];
    finding.proposed.push_back(
        {say("{} by {}", c.name, job::trigger_text(*trigger)),
         [state = c.state, name = c.name, trigger = *trigger](job::Job& job) {
             for (Command& other : job.handling.commands)
                 if (other.state == state && other.name == name) other.trigger = trigger;
         }});
}

void two_meanings(const Facts& f, const std::vector<HandButton>& buttons,
                  std::vector<Finding>& out) {
    const auto& commands = f.job->handling.commands;
    for (const handling::Conflict& c : handling::conflicts(f.job->handling)) {
        const Command &a = commands[c.one], &b = commands[c.other];
        const std::string made = job::trigger_text(a.trigger);
        Finding finding =
            raise("handling.means-two", Severity::stop, Station::handling, {a.name, b.name},
                  say("{} means two things: {}", made, both(a, b)),
                  say("In {}. The board takes one of them, and nobody knows which.", a.state),
                  {{"meanings", 2, ""}});
        propose_trigger(f, finding, c.other, buttons);
        propose_trigger(f, finding, c.one, buttons);
        out.push_back(std::move(finding));
    }
    for (const std::size_t i : handling::masked(f.job->handling)) {
        Finding finding = raise("handling.masked", Severity::warn, Station::handling,
                                {commands[i].name}, say("{} is never understood", commands[i].name),
                                say("Wherever {} would mean it, another command goes before.",
                                    job::trigger_text(commands[i].trigger)),
                                {{"meanings", 0, ""}});
        propose_trigger(f, finding, i, buttons);
        out.push_back(std::move(finding));
    }
}

void answers_late(const Facts& f, std::vector<Finding>& out) {
    const auto& commands = f.job->handling.commands;
    for (const handling::Late& late : handling::late(f.job->handling)) {
        const Command& c = commands[late.command];
        if (late.seconds < handling::noticed_s || !is_urgent(c)) continue;
        out.push_back(raise("handling.late", Severity::note, Station::handling, {c.name},
                            say("{} answers {} s late", c.name, decimals(late.seconds, 2)),
                            say("{} may still become another command, and the board waits for "
                                "that.",
                                job::trigger_text(c.trigger)),
                            {{"answers late", late.seconds, "s"}}));
    }
}

void not_fitted(const Facts& f, const std::vector<HandButton>& buttons, std::vector<Finding>& out) {
    std::map<std::string, std::vector<std::string>> missing;
    for (const Command& c : f.job->handling.commands)
        for (const job::TriggerButton& b : c.trigger.buttons)
            if (!job::find_ref(buttons, b.button)) missing[b.button].push_back(c.name);
    for (const auto& [button, commands] : missing) {
        std::vector<std::string> where{button};
        where.insert(where.end(), commands.begin(), commands.end());
        Finding finding =
            raise("handling.no-button", Severity::stop, Station::handling, std::move(where),
                  say("{} commands want {}, and no such button is fitted", commands.size(), button),
                  "Fit it at Hilt, or give these commands a button that is there.",
                  {{"commands", static_cast<double>(commands.size()), ""}});
        if (buttons.size() == 1)
            finding.proposed.push_back({say("take {} instead", buttons[0].ref),
                                        [was = button, now = buttons[0].ref](job::Job& job) {
                                            for (Command& c : job.handling.commands)
                                                for (job::TriggerButton& b : c.trigger.buttons)
                                                    if (b.button == was) b.button = now;
                                        }});
        out.push_back(std::move(finding));
    }
}

void ways(const Facts& f, std::vector<Finding>& out) {
    const job::Handling& map = f.job->handling;
    for (const std::string& state : handling::without_way_out(map))
        out.push_back(raise("handling.no-way-out", Severity::warn, Station::handling, {state},
                            say("No command leads out of {}", state),
                            "Whoever gets there has to open the kill. Add a command that leads "
                            "out, or a limit after which it is left.",
                            {{"ways out", 0, ""}}));
    const auto there = handling::reached(map);
    for (const job::HandState& s : map.states)
        if (!there.contains(s.name))
            out.push_back(raise("handling.state-unreached", Severity::warn, Station::handling,
                                {s.name}, say("Nothing leads to {}", s.name),
                                "Its commands can never be given. Add a command that leads there, "
                                "or take it out.",
                                {{"ways in", 0, ""}}));
}

void out_of_reach(const Facts& f, std::vector<Finding>& out) {
    using Kind = handling::Unreached::Kind;
    std::vector<std::string> presets;
    for (const handling::Unreached& u : handling::unreached(*f.job)) {
        if (u.kind == Kind::preset) {
            presets.push_back(u.name);
            continue;
        }
        const bool wish = u.kind == Kind::wish;
        out.push_back(raise("handling.unreached", wish ? Severity::note : Severity::warn,
                            Station::handling, {u.name},
                            wish ? say("No preset shows what was wished: {}", u.name)
                                 : say("No command gives {}", u.name),
                            wish ? "Add a preset with that look."
                                 : "Add a command for it, or take the effect out.",
                            {{"commands", 0, ""}}));
    }
    if (presets.empty()) return;
    const auto many = presets.size();
    out.push_back(raise("handling.presets-unreached", Severity::warn, Station::handling,
                        std::move(presets), say("{} presets can not be chosen", many),
                        "Add a command for the next preset.",
                        {{"presets out of reach", static_cast<double>(many), ""}}));
}

void one_slip(const Facts& f, const std::vector<HandButton>& buttons, std::vector<Finding>& out) {
    const auto& commands = f.job->handling.commands;
    for (const handling::Neighbours& n : handling::slips(f.job->handling)) {
        const Command &a = commands[n.one], &b = commands[n.other];
        const bool mirrored = n.slip == handling::Slip::mirrored;
        Finding finding =
            raise("handling.one-slip", Severity::warn, Station::handling, {a.name, b.name},
                  mirrored ? say("{}, {}: mirror images", job::trigger_text(a.trigger),
                                 job::trigger_text(b.trigger))
                           : say("{} and {} are a moment apart", job::trigger_text(a.trigger),
                                 job::trigger_text(b.trigger)),
                  say("{} are one slip apart, in {}.", both(a, b), a.state), {{"slips", 1, ""}});
        propose_trigger(f, finding, n.other, buttons);
        out.push_back(std::move(finding));
    }
}

void one_button(const Facts& f, const std::vector<HandButton>& buttons, std::vector<Finding>& out) {
    if (buttons.size() != 1) return;
    const auto& commands = f.job->handling.commands;
    std::vector<std::string> where{buttons[0].ref};
    double most = 0;
    for (const handling::Late& late : handling::late(f.job->handling)) {
        const Command& c = commands[late.command];
        if (late.seconds < handling::noticed_s || !is_urgent(c)) continue;
        where.push_back(c.name);
        most = std::max(most, late.seconds);
    }
    if (where.size() < 2 + most_places) return;
    const auto many = where.size() - 1;
    out.push_back(raise("handling.one-button", Severity::note, Station::handling, std::move(where),
                        say("{} effects answer late on one button", many),
                        "A second button would give each of them a press of its own. Put it to "
                        "the owner before the hole is drilled.",
                        {{"answers late", most, "s"}}));
}

} // namespace

void judge_handling(const Facts& f, std::vector<Finding>& out) {
    if (f.job->handling.commands.empty()) return;
    const auto buttons = handling::hand_buttons(*f.job, *f.parts);
    two_meanings(f, buttons, out);
    answers_late(f, out);
    not_fitted(f, buttons, out);
    ways(f, out);
    out_of_reach(f, out);
    one_slip(f, buttons, out);
    one_button(f, buttons, out);
}

} // namespace conductus::findings
