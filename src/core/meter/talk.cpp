// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/meter/talk.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <utility>

namespace conductus::meter {
namespace {

constexpr std::size_t longest_line = 256;
constexpr int lost_after = 5; ///< troubles one after the other
/// Answers that must agree: a spoilt byte makes another number now and then, but not the same one
/// three times; where the cable is bad, five.
constexpr std::size_t agree = 3, agree_wary = 5, steady_more = 2;
constexpr int wary_for = 60; ///< answers

/// What a person can be shown of an answer that makes no sense.
std::string printable(const std::string& line) {
    std::string shown;
    for (const char c : line.substr(0, 40))
        shown +=
            static_cast<unsigned char>(c) < 0x20 || static_cast<unsigned char>(c) > 0x7e ? '.' : c;
    return shown;
}

} // namespace

double apart(job::Reads what, double value) {
    const double least = what == job::Reads::volts  ? 0.012
                         : what == job::Reads::amps ? 0.002
                                                    : 0.08;
    return 0.02 * std::abs(value) + least;
}

std::optional<double> number_of(std::string_view line) {
    if (line.starts_with('+')) line.remove_prefix(1);
    // from_chars takes words like inf as well.
    if (line.empty() || line.find_first_not_of("0123456789.eE+-") != std::string_view::npos)
        return std::nullopt;
    double value = 0;
    const auto [end, error] = std::from_chars(line.data(), line.data() + line.size(), value);
    if (error != std::errc() || end != line.data() + line.size()) return std::nullopt;
    return value;
}

void Talk::event(Event::Kind kind, std::string text, double value, bool steady) {
    events_.push_back({kind, what_.value_or(job::Reads::volts), value, steady, std::move(text)});
}

void Talk::opened(long long now) {
    open_ = true;
    troubles_ = 0;
    start_again(now);
}

void Talk::closed() {
    open_ = false;
    asked_ = Asked::nothing;
    in_.clear(), out_.clear(), good_.clear();
    last_over_.reset();
    chosen_ = checked_ = false;
    identity_.clear();
}

void Talk::start_again(long long now) {
    if (!identity_.empty()) wary_ = wary_for;
    in_.clear();
    last_over_.reset();
    good_.clear();
    last_amps_.reset();
    forget_ = false;
    chosen_ = checked_ = false;
    if (!dialect_.clear.empty()) out_ += dialect_.clear + "\n";
    ask(identity_.empty() ? Asked::identify : Asked::resume, now);
}

void Talk::ask(Asked what, long long now) {
    asked_ = what;
    until_ = now + dialect_.patience_ms;
    switch (what) {
    case Asked::nothing:
        return;
    case Asked::identify:
    case Asked::identify_again:
    case Asked::resume:
        out_ += dialect_.identify + "\n";
        return;
    case Asked::function:
        out_ += dialect_.function + "\n";
        return;
    case Asked::read:
        out_ += dialect_.read + "\n";
        return;
    case Asked::amps:
        out_ += dialect_.amps_beside + "\n";
        return;
    }
}

void Talk::next(long long now) {
    for (const std::string& line : tell_) {
        out_ += line + "\n";
        // What was read before that was read elsewhere.
        last_over_.reset(), good_.clear(), checked_ = false;
    }
    tell_.clear();
    if (!what_) {
        asked_ = Asked::nothing;
        return;
    }
    if (!chosen_) {
        out_ += dialect_.choose(*what_) + "\n";
        chosen_ = true;
    }
    ask(!checked_ && !dialect_.function.empty() ? Asked::function : Asked::read, now);
}

void Talk::measure(job::Reads what, long long now) {
    if (what_ == what && chosen_) return;
    what_ = what;
    chosen_ = checked_ = false;
    forget();
    if (open_ && asked_ == Asked::nothing && !identity_.empty()) next(now);
}

void Talk::tell(std::string line) {
    tell_.push_back(std::move(line));
    forget();
}

void Talk::forget() {
    good_.clear();
    last_amps_.reset();
    last_over_.reset();
    forget_ = asked_ == Asked::read || asked_ == Asked::function || asked_ == Asked::amps;
}

void Talk::received(std::string_view bytes, long long now) {
    if (!open_) return;
    for (const char c : bytes) {
        if (c != '\n' && c != '\r') {
            in_ += c;
            if (in_.size() > longest_line) {
                event(Event::Kind::garbage, printable(in_));
                ++troubles_;
                return start_again(now);
            }
            continue;
        }
        if (in_.empty()) continue;
        const std::string line = std::move(in_);
        in_.clear();
        answer(line, now);
    }
}

void Talk::answer(const std::string& line, long long now) {
    switch (asked_) {
    case Asked::nothing:
        return; // nobody asked
    case Asked::identify:
        first_identity_ = line;
        return ask(Asked::identify_again, now);
    case Asked::identify_again:
        // Twice the same, with a word in it: noise is not.
        if (line == first_identity_ && line.size() > 3 && line.find(',') != std::string::npos) {
            identity_ = line;
            troubles_ = 0;
            event(Event::Kind::identified, printable(line));
            return next(now);
        }
        first_identity_ = line;
        if (++troubles_ % lost_after == 0) event(Event::Kind::lost);
        return ask(Asked::identify_again, now);
    case Asked::resume:
        // Whatever comes before it is an answer to something that was asked before.
        if (line == identity_) next(now);
        return;
    case Asked::function:
        if (std::exchange(forget_, false)) return next(now);
        if (line.find(dialect_.is(*what_)) == std::string::npos) {
            // Another function, said by its own word; else it makes no sense.
            bool known = false;
            for (const job::Reads r : {job::Reads::volts, job::Reads::amps, job::Reads::ohms})
                known = known || line.find(dialect_.is(r)) != std::string::npos;
            event(known ? Event::Kind::wrong_function : Event::Kind::garbage, printable(line));
            ++troubles_;
            return start_again(now);
        }
        checked_ = true;
        return next(now);
    case Asked::read: {
        const auto value = number_of(line);
        if (!value || !std::isfinite(*value)) {
            event(Event::Kind::garbage, printable(line));
            ++troubles_;
            return start_again(now);
        }
        return taken(*value, now);
    }
    case Asked::amps: {
        const auto value = number_of(line);
        if (!value) {
            event(Event::Kind::garbage, printable(line));
            ++troubles_;
            return start_again(now);
        }
        if (!std::exchange(forget_, false)) {
            if (last_amps_ && std::abs(*last_amps_ - *value) <= apart(job::Reads::amps, *value))
                event(Event::Kind::amps, {}, *value);
            last_amps_ = *value;
        }
        return next(now);
    }
    }
}

void Talk::taken(double value, long long now) {
    troubles_ = 0;
    if (std::exchange(forget_, false)) {
        checked_ = false;
        return next(now);
    }
    const bool over = std::abs(value) >= dialect_.overload;
    const std::size_t wanted = wary_ > 0 ? agree_wary : agree;
    if (wary_ > 0) --wary_;
    if (over) {
        if (!last_over_.value_or(false)) good_.clear();
        good_.push_back(value);
        if (good_.size() >= wanted) event(Event::Kind::overload);
    } else {
        if (last_over_.value_or(true) || good_.empty() ||
            std::abs(good_.back() - value) > apart(*what_, value))
            good_.clear();
        good_.push_back(value);
        if (good_.size() >= wanted) {
            // Of answers that agree the middle: one that is spoilt a little has no say.
            std::vector<double> sorted(good_.end() - static_cast<std::ptrdiff_t>(agree),
                                       good_.end());
            std::sort(sorted.begin(), sorted.end());
            const bool steady = good_.size() >= wanted + steady_more &&
                                sorted.back() - sorted.front() <= apart(*what_, value);
            event(Event::Kind::reading, {}, sorted[agree / 2], steady);
        }
    }
    if (good_.size() > 16) good_.erase(good_.begin());
    last_over_ = over;
    checked_ = false; // somebody may turn the switch between two readings
    if (what_ == job::Reads::volts && !dialect_.amps_beside.empty() && !over)
        return ask(Asked::amps, now);
    next(now);
}

void Talk::tick(long long now) {
    if (!open_) return;
    if (asked_ == Asked::nothing) {
        if (what_ && !identity_.empty()) next(now);
        return;
    }
    if (now < until_) return;
    event(Event::Kind::silent);
    if (++troubles_ % lost_after == 0) event(Event::Kind::lost);
    start_again(now);
}

std::string Talk::take_out() { return std::exchange(out_, {}); }
std::vector<Event> Talk::take_events() { return std::exchange(events_, {}); }

} // namespace conductus::meter
