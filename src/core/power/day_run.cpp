// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/day_run.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/format.h"

namespace conductus::power {

std::string_view word(DayMark::Kind kind) {
    switch (kind) {
    case DayMark::Kind::crackle:
        return "first crackle";
    case DayMark::Kind::clipping:
        return "clipping";
    case DayMark::Kind::dim:
        return "dim";
    case DayMark::Kind::reset:
        return "board resets";
    case DayMark::Kind::tripped:
        return "tripped";
    case DayMark::Kind::back:
        return "comes back";
    case DayMark::Kind::off:
        return "off";
    case DayMark::Kind::swap:
        return "cells changed";
    }
    return {};
}

Result<DayLoads> day_loads(const job::Job& job, const catalogue::Catalogue& parts,
                           const job::Use& use, const ParallelFor& parallel_for) {
    DayLoads loads;
    loads.phases = phases_of(use);
    // What is lit is as loud and as warm as its phase; in the dark neither makes a difference that
    // is worth a set of curves.
    std::map<std::pair<double, double>, std::size_t> alike;
    for (const job::Phase& p : loads.phases) {
        const bool lit = p.kind == job::PhaseKind::ignited;
        const double volume = lit ? p.volume.value_or(use.volume) : use.volume;
        const Celsius air = lit ? p.temperature.value_or(use.temperature) : use.temperature;
        const auto [it, fresh] = alike.try_emplace({volume, air.value()}, loads.sets.size());
        if (fresh) {
            job::Use louder = use;
            louder.volume = volume;
            louder.temperature = air;
            auto set = loads_of(job, parts, louder, Wanted::day, parallel_for);
            if (!set) return tl::unexpected(set.error());
            loads.sets.push_back(std::move(*set));
        }
        loads.of_phase.push_back(it->second);
        loads.air.push_back(p.temperature.value_or(use.temperature));
    }
    if (!loads.sets.empty()) loads.effects = loads.sets.front()->events;
    return loads;
}

namespace {

/// What polarisation may add to a dip, and what a share of charge may take from it at most: twice
/// the curve at its steepest, for what resistance adds.
constexpr double polarisation_swing = 0.12, steepest = 12; // V

/// Shorter than this a board does not switch itself off.
constexpr double debounce = 0.5; // s

class DaySimulation {
public:
    DaySimulation(const DayLoads& loads, const DayPlan& plan)
        : loads_(loads), plan_(plan), bank_(loads.sets.front()->cells, loads.sets.front()->pack,
                                            loads.air.empty() ? Celsius(20) : loads.air.front()),
          safe_down_to_(loads.effects.size() + 1, 2.0),
          warming_(loads.sets.front()->guards, loads.air.empty() ? Celsius(20) : loads.air.front()),
          guarded_(!loads.sets.front()->guards.empty()) {
        bank_.tallies = plan.tallies;
    }

    Day run() {
        std::vector<Stretch> stretches;
        const Second sleep_after = loads_.sets.front()->sleep_after;
        for (int day = 0; day < std::clamp(plan_.days, 1, 400) && !over_; ++day) {
            if (day == 0 || plan_.seed) {
                std::optional<std::uint64_t> seed = plan_.seed;
                if (seed) *seed = *seed * 1000003u + static_cast<std::uint64_t>(day);
                stretches = day_of(loads_.phases, loads_.effects, seed, sleep_after);
            }
            for (std::size_t i = 0; i < stretches.size() && !over_; ++i)
                through(stretches[i]);
        }
        day_.charge = std::max(0.0, bank_.charge());
        day_.lasted = Second(now_);
        day_.ignited = Minute(lit_ / 60);
        day_.tally = bank_.tally;
        return std::move(day_);
    }

private:
    const UseLoads& loads() const { return loads_.in(stretch_->phase); }
    Celsius air() const { return loads_.air[stretch_->phase]; }
    bool ignited() const {
        return !dark_ && (stretch_->shows == Stretch::Shows::look ||
                          stretch_->shows == Stretch::Shows::effect);
    }
    const LitLoad& lit_load() const {
        return stretch_->effect < 0 ? loads().look
                                    : loads().effects[static_cast<std::size_t>(stretch_->effect)];
    }
    const LoadCurve& curve() const {
        if (dark_) return loads().stored; // what opened lets nothing through
        switch (stretch_->shows) {
        case Stretch::Shows::stored:
        case Stretch::Shows::dozing:
            return loads().stored;
        case Stretch::Shows::idle:
            return loads().idle;
        default:
            return lit_load().mean;
        }
    }
    std::string_view shows() const {
        if (dark_) return "tripped";
        switch (stretch_->shows) {
        case Stretch::Shows::stored:
            return "stored";
        case Stretch::Shows::dozing:
            return "asleep";
        case Stretch::Shows::idle:
            return "idle";
        default:
            return lit_load().name;
        }
    }

    void mark(DayMark::Kind kind, Message why) {
        day_.marks.push_back({kind, Second(now_), Minute(lit_ / 60), std::string(shows()),
                              std::move(why), static_cast<std::size_t>(day_.cells - 1)});
    }

    /// What is noticed at this moment of something lit. Margins fall through zero when it is.
    struct Noticed {
        double crackle = 1, clip = 1, dim = 1, trip = 1;
    };
    Noticed notice() {
        Noticed n;
        const LitLoad& load = lit_load();
        const UseLoads& l = loads();
        const bool effect = stretch_->effect >= 0;
        // With much in hand it is not looked at again until charge has fallen that could use it up.
        const auto which = static_cast<std::size_t>(stretch_->effect + 1);
        double& safe_down_to = safe_down_to_[which];
        if (!plan_.full_record && bank_.charge() > safe_down_to) return n;
        const Held loud = bank_.hold(load.loud);
        audio_ = l.has_board ? l.lowest_board(load, bank_, loud) : 0;
        if (l.has_board) {
            n.crackle = loud.holds ? audio_ - l.sound.need.value() : -1;
            n.clip = audio_ - l.sound.clips.value();
            // What is only heard to clip is told once.
            const double in_hand =
                (clips_ ? n.crackle : std::min(n.crackle, n.clip)) - polarisation_swing;
            safe_down_to = in_hand > 0 ? bank_.charge() - in_hand / steepest : 2;
            if (!reset_ && audio_ < l.reset.value()) {
                reset_ = true;
                mark(DayMark::Kind::reset, say("board at {}, it starts anew below {}",
                                               text(Volt(audio_)), text(l.reset)));
                failed_ = true;
            }
        }
        const auto trip = l.to_trip(load, effect, bank_, loud);
        n.trip = trip.amps;
        if (trip.trips()) trips_ = l.told(trip);
        if (trip.amps < 0.3 * trip.carries) safe_down_to = 2; // not far off: it is watched
        if (!dim_) safe_down_to = effect ? safe_down_to : 2;  // the light of a look is watched
        if (!effect && l.fresh_light > 0 && (!dim_ || plan_.full_record)) {
            const Drawn seen = l.look.bright.at(bank_.hold(l.look.bright).volts);
            tip_ = seen.foot > 0 ? seen.tip / seen.foot : 1;
            light_ = seen.light / l.fresh_light;
            n.dim = std::min(tip_ - dim_share, light_ - faded_share);
        }
        return n;
    }

    void crackled() {
        crackle_ = true;
        if (!day_.clean) {
            day_.clean = Minute(lit_ / 60);
            day_.first_crackle = std::string(shows());
        }
        mark(DayMark::Kind::crackle,
             say("board at {}, sound needs {}", text(Volt(audio_)), text(loads().sound.need)));
        failed_ = true;
        if (plan_.to_crackle) over_ = true;
    }
    void clipped() {
        clips_ = true;
        mark(DayMark::Kind::clipping,
             say("board at {}: peaks are cut by {} dB", text(Volt(audio_)),
                 decimals(std::max(loads().sound.compression(Volt(audio_)), heard_clipping), 1)));
    }
    void dimmed() {
        dim_ = true;
        if (!day_.bright) day_.bright = Minute(lit_ / 60);
        mark(DayMark::Kind::dim,
             tip_ < dim_share + 1e-6
                 ? say("the tip shows {} % of the foot", decimals(tip_ * 100, 0))
                 : say("it shines with {} % of what it did", decimals(light_ * 100, 0)));
    }
    /// Something opened: dark for the rest of the spell, until it is back; for good where it never
    /// is.
    void tripped(const Opened& what) {
        // What trips at every spell is told once.
        if (!tripped_) mark(DayMark::Kind::tripped, what.why);
        tripped_ = true;
        if (!day_.clean) day_.clean = Minute(lit_ / 60), day_.first_crackle = std::string(shows());
        if (!day_.bright) day_.bright = Minute(lit_ / 60);
        if (!day_.off) day_.off = Minute(lit_ / 60);
        day_.off_because = what.why;
        unsafe();
        if (plan_.to_crackle) over_ = true;
        if (what.back) {
            dark_ = true, dark_until_ = now_ + what.back->value();
        } else {
            over_ = true;
        }
        // Fresh cells close no fuse, and trip the same protection.
        if (plan_.swaps) day_.hopeless = over_ = true;
    }
    void went_off(const Left& left) {
        if (!day_.off) day_.off = Minute(lit_ / 60);
        day_.off_because = left.because();
        mark(DayMark::Kind::off, left.because());
        if (plan_.swaps)
            failed_ = true;
        else
            over_ = true;
    }

    void sample(const LoadCurve& load, const Held& held) {
        if (!plan_.full_record) return;
        DaySample s;
        s.at = Second(now_);
        s.shows = shows();
        s.effect = dark_ ? -1 : stretch_->effect;
        s.lit = ignited();
        s.ignited = Minute(lit_ / 60);
        s.cells = bank_.cells;
        s.charge = std::max(0.0, bank_.charge());
        double open = 0;
        Volt cell(1e9);
        Celsius warmth(-273);
        for (std::size_t i = 0; i < bank_.cells.size(); ++i) {
            const double v =
                open_circuit(bank_.cells[i].charge).value() * bank_.figures()[i].series;
            open = bank_.pack().kind == Pack::Kind::row ? open + v : std::max(open, v);
            cell = std::min(cell, bank_.terminal(i, held));
            warmth = std::max(warmth, bank_.cells[i].temperature);
        }
        s.open = Volt(open);
        s.cell = cell;
        s.warmth = warmth;
        s.board = Volt(load.board_at(held.volts));
        s.audio = ignited() && loads().has_board ? Volt(audio_) : s.board;
        if (ignited()) {
            const LoadCurve& bright =
                stretch_->effect < 0 ? loads().look.bright : lit_load().bright;
            const Drawn d = bright.at(bank_.hold(bright).volts);
            s.pixel = Volt(d.last_pixel);
            s.tip = d.foot > 0 ? d.tip / d.foot : 0;
        }
        s.amps = Ampere(held.amps);
        s.tally = bank_.tally;
        day_.samples.push_back(s);
    }

    /// A board rides out what is short, but not an empty cell.
    bool ends(const Left& left) const {
        return left.empty || (left.off() && !dark_ && stretch_->lasts.value() >= debounce);
    }

    /// What opens in that time, and when, as a share of it.
    std::optional<Warming::Opening> lets_flow(const Held& from, const Held& to, double seconds) {
        if (!guarded_) return std::nullopt;
        const auto a = curve().at(from.volts).guarded, b = curve().at(to.volts).guarded;
        for (std::size_t k = 0; k < guard_count; ++k)
            flows_[k] = dark_ ? 0 : (a[k] + b[k]) / 2;
        return warming_.pass(flows_, seconds, air());
    }

    void through(const Stretch& stretch) {
        // Another temperature or loudness: all is looked at anew.
        if (phase_ != stretch.phase) unsafe();
        phase_ = stretch.phase;
        stretch_ = &stretch;
        const bool pressed = stretch.shows < Stretch::Shows::look; // it was put out in between
        if (dark_ && pressed && now_ >= dark_until_) comes_back();
        double left = stretch.lasts.value();
        Held held = bank_.hold(curve());
        Noticed before = ignited() ? notice() : Noticed{};
        sample(curve(), held);
        Left off_before = left_of(loads(), bank_, curve(), held);
        if (!clips_ && before.clip < 0) clipped();
        if (!crackle_ && before.crackle < 0) crackled();
        if (!dim_ && before.dim < 0) dimmed();
        if (ends(off_before)) went_off(off_before);
        if (!over_ && before.trip < 0) tripped(trips_);
        if (attend() || dark_) held = bank_.hold(curve());
        while (left > 1e-9 && !over_) {
            steps_.next = std::max(steps_.next, 0.5);
            const Held from = held;
            double most = left;
            if (dark_ && dark_until_ > now_) most = std::min(most, dark_until_ - now_);
            const double dt = steps_.take(bank_, curve(), held, most, air());
            const auto opening = lets_flow(from, held, dt);
            now_ += dt, left -= dt;
            if (ignited()) lit_ += dt;
            Noticed after = ignited() ? notice() : Noticed{};
            sample(curve(), held);
            const Left off = left_of(loads(), bank_, curve(), held);
            auto back_to = [&](double share) { // the moment within the step
                const double back = (1 - share) * dt;
                now_ -= back;
                if (ignited()) lit_ -= back;
                return back;
            };
            auto forth = [&](double back) {
                now_ += back;
                if (ignited()) lit_ += back;
            };
            const auto within = [&](double m0, double m1, const auto& noticed) {
                const double back = back_to(crossing(m0, m1));
                noticed();
                forth(back);
            };
            if (!dim_ && after.dim < 0) within(before.dim, after.dim, [&] { dimmed(); });
            if (!clips_ && after.clip < 0) within(before.clip, after.clip, [&] { clipped(); });
            if (!crackle_ && after.crackle < 0)
                within(before.crackle, after.crackle, [&] { crackled(); });
            if (ends(off))
                within(off.empty || off.collapsed ? 1 : off_before.volts(),
                       off.empty || off.collapsed ? 0 : off.volts(), [&] { went_off(off); });
            if (!over_ && opening) {
                const Opened what = warming_.told(opening->guard, flows_, air());
                const double back = back_to(opening->share);
                tripped(what);
                now_ += back;
            } else if (!over_ && after.trip < 0) {
                tripped(trips_);
            }
            before = after;
            off_before = off;
            const bool was_dark = dark_;
            if (dark_ && now_ >= dark_until_ && pressed) comes_back();
            if (attend() || dark_ != was_dark || dark_) {
                held = bank_.hold(curve());
                before = ignited() ? notice() : Noticed{};
                off_before = left_of(loads(), bank_, curve(), held);
            }
        }
        steps_.next = 6;
    }

    void comes_back() {
        if (!back_) mark(DayMark::Kind::back, say("it lets current through again"));
        back_ = true, dark_ = false;
    }

    void unsafe() { std::fill(safe_down_to_.begin(), safe_down_to_.end(), 2.0); }

    /// Changes the cells where something called for it. True: they are new.
    bool attend() {
        if (!failed_) return false;
        failed_ = false;
        if (!plan_.swaps || over_) return false;
        if (lit_ - fresh_since_ < 1) { // s
            day_.hopeless = over_ = true;
            return false;
        }
        ++day_.cells;
        fresh_since_ = lit_;
        bank_.swap(air());
        unsafe();
        crackle_ = clips_ = dim_ = reset_ = tripped_ = back_ = false;
        mark(DayMark::Kind::swap, say("full and rested"));
        return true;
    }

    const DayLoads& loads_;
    const DayPlan& plan_;
    Bank bank_;
    Steps steps_{.charge = plan_.step, .amps = 2 * plan_.step};
    Day day_;
    std::vector<double> safe_down_to_; ///< charge, of the look and each effect; 2: look at it
    Warming warming_;
    bool guarded_;
    std::array<double, guard_count> flows_{};
    const Stretch* stretch_ = nullptr; ///< what is lived through; of the day at hand alone
    std::size_t phase_ = 0;
    double now_ = 0, lit_ = 0, fresh_since_ = -1e9; ///< s
    double audio_ = 0, tip_ = 1, light_ = 1;
    Opened trips_;          ///< what the latest look at it would open
    bool dark_ = false;     ///< something has opened
    double dark_until_ = 0; ///< s
    bool crackle_ = false, clips_ = false, dim_ = false, reset_ = false, tripped_ = false,
         back_ = false;   ///< told of this set of cells
    bool failed_ = false; ///< somebody would change the cells now
    bool over_ = false;
};

} // namespace

Day live(const DayLoads& loads, const DayPlan& plan) { return DaySimulation(loads, plan).run(); }

Percentiles many_days(const DayLoads& loads, std::size_t days, std::uint64_t seed,
                      const ParallelFor& parallel_for, const std::function<bool()>& stop,
                      const std::function<void(std::size_t)>& told) {
    struct Outcome {
        bool lived = false;
        double clean = 0;
        std::string event;
    };
    std::vector<Outcome> outcomes(days);
    // In handfuls, so that a thread has something to do.
    constexpr std::size_t handful = 16;
    parallel_for((days + handful - 1) / handful, [&](std::size_t task) {
        for (std::size_t i = task * handful; i < std::min(days, (task + 1) * handful); ++i) {
            if (stop && stop()) return;
            DayPlan plan;
            plan.seed = seed + i;
            plan.to_crackle = true;
            plan.tallies = false;
            plan.step = 0.01;
            plan.days = 60;
            const Day day = live(loads, plan);
            outcomes[i] = {true, day.clean.value_or(day.off.value_or(day.ignited)).value(),
                           day.clean ? day.first_crackle : day.off_because.english()};
        }
        if (told) told(std::min(days, (task + 1) * handful) - task * handful);
    });
    Percentiles p;
    std::map<std::string, std::size_t> events;
    for (const Outcome& o : outcomes) {
        if (!o.lived) continue;
        p.clean.push_back(o.clean);
        ++events[o.event];
    }
    p.days = p.clean.size();
    if (p.days == 0) return p;
    std::sort(p.clean.begin(), p.clean.end());
    auto at = [&](double share) { // between the two nearest ranks
        const double x = share * static_cast<double>(p.days - 1);
        const auto i = static_cast<std::size_t>(x);
        const double next = p.clean[std::min(i + 1, p.days - 1)];
        return Minute(p.clean[i] + (x - static_cast<double>(i)) * (next - p.clean[i]));
    };
    p.p10 = at(0.1), p.p50 = at(0.5), p.p90 = at(0.9);
    p.events.assign(events.begin(), events.end());
    std::stable_sort(p.events.begin(), p.events.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    return p;
}

} // namespace conductus::power
