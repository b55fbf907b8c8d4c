// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/job/trigger.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <fmt/format.h>
#include <optional>
#include <set>

#include "core/base/date.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/validate_rules.h"
#include "core/job/words.h"

namespace conductus::job {
namespace {

/// "S1" and "s1" are one word here; a comma stands by itself.
std::vector<std::string> words_in(std::string_view typed) {
    std::vector<std::string> all;
    std::string one;
    const auto end = [&] {
        if (!one.empty()) all.push_back(std::move(one));
        one.clear();
    };
    const auto digit = [&](std::size_t at) {
        return at < typed.size() && std::isdigit(static_cast<unsigned char>(typed[at]));
    };
    for (std::size_t i = 0; i < typed.size(); ++i) {
        const char c = typed[i];
        // "1,5 s" is a number, "S1, blade up" are two things.
        const bool decimal = c == ',' && i > 0 && digit(i - 1) && digit(i + 1);
        if (!decimal && (std::isspace(static_cast<unsigned char>(c)) || c == ',' || c == '+')) {
            end();
            continue;
        }
        one += c;
    }
    end();
    return all;
}

std::string lower(std::string word) {
    for (char& c : word)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return word;
}

std::optional<double> seconds_of(std::string word) {
    if (word.ends_with('s')) word.pop_back();
    std::replace(word.begin(), word.end(), ',', '.');
    double value = 0;
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
    if (word.empty() || error != std::errc() || end != word.data() + word.size())
        return std::nullopt;
    return value;
}

Problem unreadable(std::string_view typed, const std::string& what) {
    return Problem{"", say("'{}' is no trigger: {}", typed, what),
                   "Write it like S1, S1 twice, S1 held 1 s, S1 then S2, S1 with twist left, or "
                   "swing, blade down"};
}

} // namespace

std::string trigger_text(const Trigger& trigger) {
    std::string text;
    for (const TriggerButton& b : trigger.buttons)
        text += (text.empty() ? "" : " then ") + b.button;
    if (trigger.press == Press::twice || trigger.press == Press::three_times)
        text += fmt::format(" {}", word(trigger.press));
    if (trigger.press == Press::hold) text += fmt::format(" held {} s", trigger.held.value());
    if (trigger.motion != Motion::none) {
        text += fmt::format("{}{}", text.empty() ? "" : " with ", word(trigger.motion));
        if (trigger.side != Side::either) text += fmt::format(" {}", word(trigger.side));
    }
    if (trigger.attitude != Attitude::any)
        text += fmt::format("{}blade {}", text.empty() ? "" : ", ", word(trigger.attitude));
    return text;
}

Result<Trigger> read_trigger(std::string_view typed) {
    Trigger t;
    bool then = false, of_blade = false, held = false;
    for (const std::string& as_typed : words_in(typed)) {
        const std::string one = lower(as_typed);
        if (of_blade) {
            of_blade = false;
            const auto attitude = from_word<Attitude>(one);
            if (!attitude || *attitude == Attitude::any)
                return tl::unexpected(unreadable(typed, "the blade is up, level or down"));
            t.attitude = *attitude;
        } else if (one == "blade") {
            of_blade = true;
        } else if (one == "then") {
            if (t.buttons.empty() || then)
                return tl::unexpected(unreadable(typed, "then follows a button"));
            then = true;
        } else if (one == "with" || one == "and" || one == "press" || one == "pressed" ||
                   one == "s") {
            continue;
        } else if (one == "twice") {
            t.press = Press::twice;
        } else if (one == "three" || one == "times" || one == "thrice") {
            t.press = Press::three_times;
        } else if (one == "held" || one == "hold") {
            t.press = Press::hold, held = true;
        } else if (const auto s = seconds_of(one); s && held) {
            t.held = Second(*s), held = false;
        } else if (one == "left" || one == "right") {
            t.side = *from_word<Side>(one);
        } else if (const auto motion = from_word<Motion>(one); motion && one != "none") {
            if (t.motion != Motion::none)
                return tl::unexpected(unreadable(typed, "one motion at a time"));
            t.motion = *motion;
        } else {
            if (!t.buttons.empty() && !then)
                return tl::unexpected(
                    unreadable(typed, fmt::format("'{}' is not understood", as_typed)));
            then = false;
            t.buttons.push_back({as_typed});
        }
    }
    if (then) return tl::unexpected(unreadable(typed, "a button is missing after then"));
    if (of_blade) return tl::unexpected(unreadable(typed, "the blade is up, level or down"));
    if (t.buttons.size() > 1) {
        if (t.press != Press::none)
            return tl::unexpected(unreadable(typed, "several buttons go down one after the other"));
        t.press = Press::chord;
    } else if (t.buttons.size() == 1 && t.press == Press::none) {
        t.press = Press::press;
    }
    if (auto ok = check_trigger(t, ""); !ok)
        return tl::unexpected(unreadable(typed, ok.error().what.english()));
    return t;
}

Result<void> check_trigger(const Trigger& t, const std::string& at) {
    const std::size_t buttons = t.buttons.size();
    const bool pressed = t.press != Press::none;
    for (std::size_t i = 0; i < buttons; ++i)
        if (t.buttons[i].button.empty())
            return problem(fmt::format("{}/buttons/{}/button", at, i), "the button has no name",
                           "Name a button that is fitted, like S1");
    if (!pressed && t.motion == Motion::none)
        return problem(at, "nothing is done", "Name a button, or a motion");
    if (pressed != (buttons > 0))
        return problem(at + "/buttons", pressed ? "no button is named" : "nothing is pressed",
                       "Name a button, and say how it is pressed");
    if ((t.press == Press::chord) != (buttons > 1))
        return problem(at + "/buttons", "a chord has several buttons, and nothing else has",
                       "Name the buttons in the order they go down");
    std::set<std::string> names;
    for (const TriggerButton& b : t.buttons)
        if (!names.insert(b.button).second)
            return problem(at + "/buttons", say("{} is there twice", b.button),
                           "Each button goes down once");
    if ((t.press == Press::hold) != (t.held > Second(0)))
        return problem(at + "/held_s",
                       t.press == Press::hold ? "how long it is held is not said"
                                              : "only a hold lasts",
                       "Give the seconds of a hold");
    if (pressed && t.motion != Motion::none && t.press != Press::press)
        return problem(at + "/motion", "a motion goes with one button that is kept down",
                       "Take the motion alone, or one button with it");
    if (t.motion == Motion::none && t.side != Side::either)
        return problem(at + "/side", "only a motion has a side", "Name the motion");
    return {};
}

Result<void> check_handling(const Job& job) {
    const Handling& h = job.handling;
    if (auto ok = names_unique(h.states, "/handling/states"); !ok) return ok;
    const auto state = [&](const std::string& name, const std::string& at,
                           bool may_be_empty) -> Result<void> {
        if ((name.empty() && may_be_empty) || find_name(h.states, name)) return {};
        return problem(at, say("there is no state named '{}'", name),
                       "Name one of the states of the hilt");
    };
    for (std::size_t i = 0; i < h.states.size(); ++i) {
        const HandState& s = h.states[i];
        const std::string at = fmt::format("/handling/states/{}", i);
        if (auto ok = state(s.then, at + "/then", true); !ok) return ok;
        if (s.then == s.name)
            return problem(at + "/then", say("'{}' would be left for itself", s.name),
                           "Name another state");
    }
    std::set<std::pair<std::string, std::string>> names;
    for (std::size_t i = 0; i < h.commands.size(); ++i) {
        const Command& c = h.commands[i];
        const std::string at = fmt::format("/handling/commands/{}", i);
        if (c.name.empty())
            return problem(at + "/name", "the command has no name", "Say what it does");
        if (!names.insert({c.state, c.name}).second)
            return problem(at + "/name", say("'{}' is there twice in '{}'", c.name, c.state),
                           "Give each command of a state a name of its own");
        if (auto ok = state(c.state, at + "/state", false); !ok) return ok;
        if (auto ok = state(c.leads, at + "/leads", true); !ok) return ok;
        if (auto ok = check_trigger(c.trigger, at + "/trigger"); !ok) return ok;
        if (!c.preset.empty() && !find_name(job.presets, c.preset))
            return problem(at + "/preset", say("there is no preset named '{}'", c.preset),
                           "Name one of the job's presets, or leave it out");
        if (!c.tried_on.empty() && !is_date(c.tried_on))
            return problem(at + "/tried_on", say("'{}' is not a date", c.tried_on),
                           "Write it like 2027-03-12");
    }
    if (!(h.again > Second(0)))
        return problem("/handling/again_s", "no time is left for a second press",
                       "Give the longest time between two presses, usually 0.4");
    return {};
}

Edit set_trigger(std::size_t command, std::string typed) {
    return [command, typed = std::move(typed)](Job& job) -> Result<void> {
        if (command >= job.handling.commands.size())
            return problem("", "there is no such command", "It may have been taken out meanwhile");
        auto trigger = read_trigger(typed);
        if (!trigger) return tl::unexpected(trigger.error());
        job.handling.commands[command].trigger = std::move(*trigger);
        return {};
    };
}

std::string way_text(const Command& c) {
    return c.leads.empty() ? c.state : fmt::format("{} > {}", c.state, c.leads);
}

Edit set_way(std::size_t command, std::string typed) {
    return [command, typed = std::move(typed)](Job& job) -> Result<void> {
        if (command >= job.handling.commands.size())
            return problem("", "there is no such command", "It may have been taken out meanwhile");
        const auto trimmed = [](std::string_view text) {
            const auto from = text.find_first_not_of(' '), to = text.find_last_not_of(' ');
            return from == std::string_view::npos ? std::string()
                                                  : std::string(text.substr(from, to - from + 1));
        };
        const auto arrow = typed.find('>');
        const std::string from = trimmed(std::string_view(typed).substr(0, arrow));
        const std::string to = arrow == std::string::npos
                                   ? std::string()
                                   : trimmed(std::string_view(typed).substr(arrow + 1));
        if (from.empty() || (arrow != std::string::npos && to.empty()))
            return problem("", say("'{}' names no states", typed),
                           "Write the state, or from where to where, like lit > idle");
        Command& c = job.handling.commands[command];
        c.state = from, c.leads = to;
        return {};
    };
}

HandlingNames handling_names(const Job& job) {
    HandlingNames names;
    if (job.handling.commands.empty() && job.handling.states.empty()) return names;
    for (const HandState& s : job.handling.states)
        names.states.insert(s.name);
    for (const Preset& p : job.presets)
        names.presets.insert(p.name);
    return names;
}

void forget_lost_states(Job& job, const HandlingNames& before) {
    if (before.states.empty()) return;
    const HandlingNames now = handling_names(job);
    // A name that never was is a slip of the pen, and is told; one that was is gone on purpose.
    const auto lost = [](const auto& was, const auto& is, const std::string& name) {
        return was.contains(name) && !is.contains(name);
    };
    Handling& h = job.handling;
    for (HandState& s : h.states)
        if (lost(before.states, now.states, s.then)) s.then.clear(), s.limit = Second(0);
    std::erase_if(h.commands, [&](const Command& c) {
        return lost(before.states, now.states, c.state) ||
               lost(before.presets, now.presets, c.preset);
    });
    for (Command& c : h.commands)
        if (lost(before.states, now.states, c.leads)) c.leads.clear();
}

} // namespace conductus::job
