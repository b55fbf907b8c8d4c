// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/handling/quiz.h"

#include <algorithm>
#include <map>
#include <tuple>

#include "core/base/random.h"

namespace conductus::handling {
namespace {

constexpr int soon = 2, first_interval = 4;

const job::Rehearsed* before(const job::Handling& map, const job::Command& c,
                             const std::string& who) {
    for (const job::Rehearsed& r : map.rehearsed)
        if (r.command == c.name && r.state == c.state && r.who == who) return &r;
    return nullptr;
}

} // namespace

Quiz::Quiz(const job::Handling& map, std::string who, unsigned seed)
    : map_(map), who_(std::move(who)) {
    Random random(seed);
    for (std::size_t i = 0; i < map.commands.size(); ++i) {
        Card card;
        card.command = i;
        card.order = static_cast<unsigned>(random.next() >> 40U);
        // By what happened before: failed first, then new, then known.
        if (const auto* r = before(map, map.commands[i], who_))
            card.due = r->wrong >= r->right ? 0 : 2000;
        else
            card.due = 1000;
        cards_.push_back(card);
    }
    ask();
}

std::optional<std::size_t> Quiz::asked() const {
    if (!now_) return std::nullopt;
    return cards_[*now_].command;
}

void Quiz::ask() {
    const std::optional<std::size_t> last = now_;
    now_.reset();
    for (std::size_t i = 0; i < cards_.size(); ++i) {
        // The same again only where there is nothing else.
        if (last == i && cards_.size() > 1) continue;
        // What is due of those that were asked in this round, then what was not asked yet, then
        // what would come later.
        const auto rank = [&](const Card& c) {
            const int kind = c.right + c.wrong == 0 ? 1 : c.due <= number_ ? 0 : 2;
            return std::tuple(kind, c.due, c.order);
        };
        if (!now_ || rank(cards_[i]) < rank(cards_[*now_])) now_ = i;
    }
}

void Quiz::answered(bool right, double seconds) {
    if (!now_) return;
    Card& card = cards_[*now_];
    ++number_;
    (right ? right_ : wrong_) += 1;
    (right ? card.right : card.wrong) += 1;
    card.known = right;
    if (right) {
        card.took = seconds;
        card.interval = card.interval == 0 ? first_interval : card.interval * 2;
    } else {
        card.interval = soon;
    }
    card.due = number_ + card.interval;
    ask();
}

std::size_t Quiz::known() const {
    return static_cast<std::size_t>(
        std::count_if(cards_.begin(), cards_.end(), [](const Card& c) { return c.known; }));
}

std::vector<job::Rehearsed> Quiz::results(const std::string& on,
                                          std::vector<job::Rehearsed> all) const {
    for (const Card& card : cards_) {
        if (card.right + card.wrong == 0) continue;
        const job::Command& c = map_.commands[card.command];
        auto it = std::find_if(all.begin(), all.end(), [&](const job::Rehearsed& r) {
            return r.command == c.name && r.state == c.state && r.who == who_;
        });
        if (it == all.end())
            it = all.insert(all.end(), {c.name, c.state, who_, 0, 0, Second(0), {}});
        it->right += card.right;
        it->wrong += card.wrong;
        if (card.took > 0) it->took = Second(card.took);
        it->on = on;
    }
    return all;
}

job::Edit keep_learned(std::vector<job::Rehearsed> results) {
    return [results = std::move(results)](job::Job& job) { job.handling.rehearsed = results; };
}

std::vector<Learned> learned(const job::Handling& map) {
    std::map<std::string, Learned> all;
    for (const job::Rehearsed& r : map.rehearsed) {
        const bool there = std::any_of(map.commands.begin(), map.commands.end(), [&](auto& c) {
            return c.name == r.command && c.state == r.state;
        });
        if (!there) continue;
        Learned& one = all[r.who];
        one.who = r.who, one.of = map.commands.size();
        one.right += r.right > r.wrong;
        one.on = std::max(one.on, r.on);
    }
    std::vector<Learned> list;
    for (auto& [who, one] : all)
        list.push_back(std::move(one));
    return list;
}

} // namespace conductus::handling
