// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/handling/player.h"

#include <algorithm>

#include "core/job/lookup.h"

namespace conductus::handling {

using job::Does;

Player::Player(const job::Job& job) : job_(job) {
    if (!job.handling.states.empty()) state_ = job.handling.states.front().name;
    listen();
}

std::string Player::preset() const {
    return preset_ < job_.presets.size() ? job_.presets[preset_].name : std::string();
}

void Player::begin_in(const std::string& state, const std::string& preset, double at) {
    for (std::size_t i = 0; i < job_.presets.size(); ++i)
        if (job_.presets[i].name == preset) preset_ = i;
    answered_ = false;
    enter(state, at);
}

void Player::listen() {
    now_.preset = preset();
    listener_ = std::make_unique<Listener>(job_.handling, state_, now_);
}

void Player::hold(job::Attitude attitude, bool blade_in) {
    if (attitude == now_.attitude && blade_in == now_.blade_in) return;
    now_.attitude = attitude, now_.blade_in = blade_in;
    // What is down stays so for the trigger that it began; the next goes by the new attitude.
    if (listener_->at_rest()) listen();
}

void Player::enter(const std::string& state, double at) {
    state_ = state, since_ = at;
    listen();
}

std::optional<double> Player::limit() const {
    const job::HandState* s = job::find_name(job_.handling.states, state_);
    if (!s || s->then.empty() || !(s->limit > Second(0))) return std::nullopt;
    return since_ + s->limit.value();
}

std::optional<double> Player::due() const {
    const auto a = listener_->due(), b = limit();
    return a && b ? std::min(*a, *b) : a ? a : b;
}

void Player::take(const std::vector<Understood>& all, std::vector<Said>& said) {
    for (const Understood& u : all) {
        answered_ = true;
        Said s;
        s.commands = u.commands, s.late = u.late;
        if (u.commands.size() > 1) {
            s.kind = Said::Kind::several, s.state = state_;
            said.push_back(std::move(s));
            continue;
        }
        const job::Command& c = job_.handling.commands[u.commands.front()];
        const std::size_t many = job_.presets.size();
        if (many > 0 && c.does == Does::next_preset) preset_ = (preset_ + 1) % many;
        if (many > 0 && c.does == Does::previous_preset) preset_ = (preset_ + many - 1) % many;
        if (c.does == Does::preset)
            if (const auto* named = job::find_name(job_.presets, c.what))
                preset_ = static_cast<std::size_t>(named - job_.presets.data());
        since_ = u.at;
        if (!c.leads.empty() && c.leads != state_)
            enter(c.leads, u.at);
        else if (now_.preset != preset() && listener_->at_rest())
            listen();
        s.kind = Said::Kind::understood, s.state = state_;
        said.push_back(std::move(s));
    }
}

std::vector<Said> Player::wait_until(double at) {
    std::vector<Said> said;
    for (;;) {
        const auto when = due();
        if (!when || *when > at) return said;
        const auto heard = listener_->wait_until(*when);
        take(heard, said);
        if (!heard.empty()) continue;
        const auto end = limit();
        if (!end || *end > at) {
            // What was waited for means nothing.
            if (listener_->due()) listen();
            continue;
        }
        enter(job::find_name(job_.handling.states, state_)->then, *end);
        said.push_back({Said::Kind::left, {}, 0, state_});
    }
}

std::vector<Said> Player::hear(const Event& event) {
    std::vector<Said> said = wait_until(event.at);
    const bool began = !listener_->at_rest();
    const auto heard = listener_->hear(event);
    take(heard, said);
    // Something was done and is over, and no command came of it.
    const bool over =
        event.kind == EventKind::motion ? !began : began && event.kind == EventKind::up;
    const bool rests = listener_->at_rest();
    if (heard.empty() && over && rests && !answered_)
        said.push_back({Said::Kind::nothing, {}, 0, state_});
    if (rests) answered_ = false;
    if (rests && heard.empty()) listen();
    return said;
}

} // namespace conductus::handling
