// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/handling/gestures.h"

#include <algorithm>
#include <cmath>

namespace conductus::handling {
namespace {

using job::Attitude;
using job::BladeThere;
using job::Command;
using job::Motion;
using job::Press;
using job::Side;
using job::Trigger;

constexpr double same_time = 1e-9; // s
constexpr double a_tap = 0.15;     // s, that a button is down when it is just pressed

bool same_button(const Trigger& t, const std::string& button) {
    return t.buttons.size() == 1 && t.buttons.front().button == button;
}

int count_of(Press press) {
    return press == Press::press         ? 1
           : press == Press::twice       ? 2
           : press == Press::three_times ? 3
                                         : 0;
}

/// Whether a command's trigger is the one that was made, side and attitude left aside.
bool is_made(const Trigger& asked, const Trigger& made) {
    return asked.press == made.press && asked.buttons == made.buttons &&
           asked.motion == made.motion && asked.held == made.held;
}

} // namespace

bool applies(const Command& c, const std::string& state, const Circumstance& now) {
    return c.state == state &&
           (c.trigger.attitude == Attitude::any || c.trigger.attitude == now.attitude) &&
           (c.blade == BladeThere::any || (c.blade == BladeThere::in) == now.blade_in) &&
           (c.preset.empty() || c.preset == now.preset);
}

bool goes_before(const Command& one, const Command& other) {
    bool more = false;
    const auto within = [&](auto a, auto b, auto open) {
        if (a == b) return true;
        more = true;
        return b == open;
    };
    return within(one.trigger.side, other.trigger.side, Side::either) &&
           within(one.trigger.attitude, other.trigger.attitude, Attitude::any) &&
           within(one.blade, other.blade, BladeThere::any) &&
           within(one.preset, other.preset, std::string()) && more;
}

Listener::Listener(const job::Handling& map, std::string state, Circumstance now) : map_(map) {
    for (const Command& c : map.commands)
        if (applies(c, state, now)) active_.push_back(&c);
}

std::vector<const Command*> Listener::of_button(const std::string& button, Press press) const {
    std::vector<const Command*> all;
    for (const Command* c : active_)
        if (same_button(c->trigger, button) && c->trigger.press == press &&
            c->trigger.motion == Motion::none)
            all.push_back(c);
    return all;
}

std::vector<double> Listener::holds(const std::string& button) const {
    std::vector<double> times;
    for (const Command* c : of_button(button, Press::hold))
        times.push_back(c->trigger.held.value());
    std::sort(times.begin(), times.end());
    times.erase(std::unique(times.begin(), times.end()), times.end());
    return times;
}

int Listener::most_presses(const std::string& button) const {
    int most = 0;
    for (const Press press : {Press::press, Press::twice, Press::three_times})
        if (!of_button(button, press).empty()) most = std::max(most, count_of(press));
    return most;
}

/// Whether what is down is how a chord begins, or all of it.
bool Listener::chord_begins() const {
    return std::any_of(active_.begin(), active_.end(), [&](const Command* c) {
        const auto& buttons = c->trigger.buttons;
        if (c->trigger.press != Press::chord || buttons.size() < down_.size()) return false;
        for (std::size_t i = 0; i < down_.size(); ++i)
            if (buttons[i].button != down_[i].button) return false;
        return true;
    });
}

void Listener::conclude(std::vector<Understood>& all, const Trigger& made, double at, double late) {
    std::vector<const Command*> meant;
    for (const Command* c : active_) {
        const bool sided = c->trigger.side == Side::either || c->trigger.side == made.side;
        if (is_made(c->trigger, made) && (made.motion == Motion::none || sided)) meant.push_back(c);
    }
    Understood u;
    for (const Command* c : meant)
        if (std::none_of(meant.begin(), meant.end(),
                         [&](const Command* other) { return goes_before(*other, *c); }))
            u.commands.push_back(static_cast<std::size_t>(c - map_.commands.data()));
    if (u.commands.empty()) return;
    u.at = at, u.late = late;
    all.push_back(std::move(u));
}

void Listener::end_presses(std::vector<Understood>& all, double at) {
    if (presses_ == 0) return;
    Trigger made;
    made.press = presses_ == 1 ? Press::press : presses_ == 2 ? Press::twice : Press::three_times;
    made.buttons = {{pressed_}};
    presses_ = 0;
    conclude(all, made, at, at - since_);
}

std::optional<double> Listener::due() const {
    if (presses_ > 0 && down_.empty()) return since_ + map_.again.value();
    if (down_.size() != 1 || spent_) return std::nullopt;
    const auto times = holds(down_.front().button);
    if (times.empty() || presses_ > 0) return std::nullopt;
    return down_.front().at + times.back();
}

std::vector<Understood> Listener::wait_until(double at) {
    std::vector<Understood> all;
    const auto when = due();
    if (!when || *when > at + same_time) return all;
    if (down_.empty()) {
        end_presses(all, *when);
        return all;
    }
    Trigger made;
    made.press = Press::hold;
    made.buttons = {{down_.front().button}};
    made.held = Second(holds(down_.front().button).back());
    spent_ = true;
    conclude(all, made, *when, 0);
    return all;
}

std::vector<Understood> Listener::hear(const Event& event) {
    std::vector<Understood> all = wait_until(event.at);
    switch (event.kind) {
    case EventKind::motion: {
        Trigger made;
        made.motion = event.motion, made.side = event.side;
        if (down_.empty()) {
            conclude(all, made, event.at, 0);
        } else if (down_.size() == 1 && !spent_ && presses_ == 0) {
            made.press = Press::press;
            made.buttons = {{down_.front().button}};
            const auto before = all.size();
            conclude(all, made, event.at, 0);
            spent_ = all.size() > before;
        }
        break;
    }
    case EventKind::down: {
        if (std::any_of(down_.begin(), down_.end(),
                        [&](const Down& d) { return d.button == event.button; }))
            break;
        // A press of another button ends those that wait.
        if (presses_ > 0 && pressed_ != event.button) end_presses(all, event.at);
        down_.push_back({event.button, event.at});
        if (down_.size() == 1) {
            spent_ = false;
            break;
        }
        presses_ = 0;
        if (spent_) break;
        // A hold that was long enough already is not the beginning of a chord.
        const auto times = holds(down_.front().button);
        const bool held = down_.size() == 2 && !times.empty() &&
                          event.at - down_.front().at >= times.front() - same_time;
        if (held || !chord_begins()) {
            spent_ = true;
            break;
        }
        Trigger made;
        made.press = Press::chord;
        for (const Down& d : down_)
            made.buttons.push_back({d.button});
        // A longer chord that begins so is waited for until a button goes up.
        const bool longer = std::any_of(active_.begin(), active_.end(), [&](const Command* c) {
            const auto& b = c->trigger.buttons;
            return c->trigger.press == Press::chord && b.size() > made.buttons.size() &&
                   std::equal(made.buttons.begin(), made.buttons.end(), b.begin());
        });
        if (longer) break;
        conclude(all, made, event.at, 0);
        spent_ = true;
        break;
    }
    case EventKind::up: {
        const auto which = std::find_if(down_.begin(), down_.end(),
                                        [&](const Down& d) { return d.button == event.button; });
        if (which == down_.end()) break;
        const double lasted = event.at - which->at;
        if (down_.size() > 1 && !spent_) {
            Trigger made;
            made.press = Press::chord;
            for (const Down& d : down_)
                made.buttons.push_back({d.button});
            conclude(all, made, event.at, event.at - down_.back().at);
            spent_ = true;
        }
        const bool alone = down_.size() == 1;
        down_.erase(which);
        if (!alone) break;
        if (spent_) {
            spent_ = false;
            break;
        }
        const auto times = holds(event.button);
        if (presses_ == 0 && !times.empty() && lasted >= times.front() - same_time) {
            Trigger made;
            made.press = Press::hold;
            made.buttons = {{event.button}};
            for (const double t : times)
                if (lasted >= t - same_time) made.held = Second(t);
            conclude(all, made, event.at, lasted - made.held.value());
            break;
        }
        ++presses_;
        pressed_ = event.button;
        since_ = event.at;
        if (presses_ >= most_presses(event.button)) end_presses(all, event.at);
        break;
    }
    }
    return all;
}

double lateness(const job::Handling& map, const Command& command, const Circumstance& now) {
    const Trigger& t = command.trigger;
    if (t.motion != Motion::none && t.press == Press::none) return 0;
    double release = 0, again = 0;
    for (const Command& other : map.commands) {
        if (&other == &command || !applies(other, command.state, now) ||
            other.trigger.buttons.empty())
            continue;
        const Trigger& o = other.trigger;
        const bool begins = !t.buttons.empty() && o.buttons.front() == t.buttons.front();
        switch (t.press) {
        case Press::press:
        case Press::twice:
        case Press::three_times:
            if (!begins || t.motion != Motion::none) break;
            // What the button might still become is known when it goes up.
            if (t.press == Press::press &&
                (o.press == Press::hold || o.press == Press::chord || o.motion != Motion::none))
                release = a_tap;
            if (o.motion == Motion::none && count_of(o.press) > count_of(t.press))
                again = map.again.value();
            break;
        case Press::hold:
            if (begins && o.press == Press::hold && o.held > t.held)
                release = std::max(release, (o.held - t.held).value());
            break;
        case Press::chord:
            if (o.press == Press::chord && o.buttons.size() > t.buttons.size() &&
                std::equal(t.buttons.begin(), t.buttons.end(), o.buttons.begin()))
                release = a_tap;
            break;
        case Press::none:
            break;
        }
    }
    // A press that waits for another one waits from when it went up.
    return again > 0 ? again + a_tap : release;
}

} // namespace conductus::handling
