// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/day_run.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

#include "core/base/format.h"

namespace conductus::power {

std::string_view word(DayMark::Kind kind) {
    switch (kind) {
    case DayMark::Kind::crackle:
        return "first crackle";
    case DayMark::Kind::dim:
        return "dim";
    case DayMark::Kind::reset:
        return "board resets";
    case DayMark::Kind::trip:
        return "protection trips";
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
    loads.effects = job.effects;
    std::map<double, std::size_t> by_volume;
    for (const job::Phase& p : loads.phases) {
        const double volume =
            p.kind == job::PhaseKind::ignited ? p.volume.value_or(use.volume) : use.volume;
        const auto [it, fresh] = by_volume.try_emplace(volume, loads.sets.size());
        if (fresh) {
            job::Use louder = use;
            louder.volume = volume;
            auto set = loads_of(job, parts, louder, Wanted::day, parallel_for);
            if (!set) return tl::unexpected(set.error());
            loads.sets.push_back(std::move(*set));
        }
        loads.of_phase.push_back(it->second);
        loads.air.push_back(p.temperature.value_or(use.temperature));
    }
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
          safe_down_to_(loads.effects.size() + 1, 2.0) {
        bank_.tallies = plan.tallies;
    }

    Day run() {
        std::vector<Stretch> stretches;
        for (int day = 0; day < std::clamp(plan_.days, 1, 400) && !over_; ++day) {
            if (day == 0 || plan_.seed) {
                std::optional<std::uint64_t> seed = plan_.seed;
                if (seed) *seed = *seed * 1000003u + static_cast<std::uint64_t>(day);
                stretches = day_of(loads_.phases, loads_.effects, seed);
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
        return stretch_->shows == Stretch::Shows::look || stretch_->shows == Stretch::Shows::effect;
    }
    const LitLoad& lit_load() const {
        return stretch_->effect < 0 ? loads().look
                                    : loads().effects[static_cast<std::size_t>(stretch_->effect)];
    }
    const LoadCurve& curve() const {
        switch (stretch_->shows) {
        case Stretch::Shows::stored:
            return loads().stored;
        case Stretch::Shows::idle:
            return loads().idle;
        default:
            return lit_load().mean;
        }
    }
    std::string_view shows() const {
        switch (stretch_->shows) {
        case Stretch::Shows::stored:
            return "stored";
        case Stretch::Shows::idle:
            return "idle";
        default:
            return lit_load().name;
        }
    }

    void mark(DayMark::Kind kind, std::string why) {
        day_.marks.push_back({kind, Second(now_), Minute(lit_ / 60), std::string(shows()),
                              std::move(why), static_cast<std::size_t>(day_.cells - 1)});
    }

    /// What is noticed at this moment of something lit. Margins fall through zero when it is.
    struct Noticed {
        double crackle = 1, dim = 1;
    };
    Noticed notice() {
        Noticed n;
        const LitLoad& load = lit_load();
        const UseLoads& l = loads();
        // With much in hand it is not looked at again until charge has fallen that could use it up.
        const auto which = static_cast<std::size_t>(stretch_->effect + 1);
        double& safe_down_to = safe_down_to_[which];
        if (!plan_.full_record && bank_.charge() > safe_down_to) return n;
        const Held loud = bank_.hold(load.loud);
        audio_ = l.has_board ? l.lowest_board(load, bank_) : 0;
        if (l.has_board) {
            n.crackle = loud.holds ? audio_ - l.sound.need.value() : -1;
            const double in_hand = n.crackle - polarisation_swing;
            safe_down_to = in_hand > 0 ? bank_.charge() - in_hand / steepest : 2;
            if (!reset_ && audio_ < l.reset.value()) {
                reset_ = true;
                mark(DayMark::Kind::reset, fmt::format("board at {}, it starts anew below {}",
                                                       text(Volt(audio_)), text(l.reset)));
                failed_ = true;
            }
        }
        for (std::size_t i = 0; i < bank_.cells.size() && !trip_; ++i) {
            const CellFigures& f = bank_.figures()[i];
            if (bank_.amps(i, loud).value() <= f.trip.value()) continue;
            if (stretch_->effect >= 0 && load.lasts < f.trip_after) continue;
            trip_ = true;
            mark(DayMark::Kind::trip, fmt::format("{} through a protection that trips at {}",
                                                  text(bank_.amps(i, loud)), text(f.trip)));
            failed_ = true;
        }
        const LitLoad& look = l.look;
        if (!dim_) safe_down_to = stretch_->effect < 0 ? 2 : safe_down_to; // its tip is watched
        if (stretch_->effect < 0 && l.fresh_foot > 0 && (!dim_ || plan_.full_record)) {
            const Held bright = bank_.hold(look.bright);
            tip_ = look.bright.at(bright.volts).tip / l.fresh_foot;
            n.dim = tip_ - dim_share;
        }
        return n;
    }

    void crackled() {
        crackle_ = true;
        if (!day_.clean) {
            day_.clean = Minute(lit_ / 60);
            day_.first_crackle = std::string(shows());
        }
        mark(DayMark::Kind::crackle, fmt::format("board at {}, sound needs {}", text(Volt(audio_)),
                                                 text(loads().sound.need)));
        failed_ = true;
        if (plan_.to_crackle) over_ = true;
    }
    void dimmed() {
        dim_ = true;
        if (!day_.bright) day_.bright = Minute(lit_ / 60);
        mark(DayMark::Kind::dim,
             fmt::format("the tip shows {:.0f} % of the fresh foot", tip_ * 100));
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
        s.effect = stretch_->effect;
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
        s.board = Volt(load.at(held.volts).board);
        s.audio = ignited() && loads().has_board ? Volt(audio_) : s.board;
        if (ignited()) {
            const LoadCurve& bright =
                stretch_->effect < 0 ? loads().look.bright : lit_load().bright;
            const Drawn d = bright.at(bank_.hold(bright).volts);
            s.pixel = Volt(d.last_pixel);
            s.tip = loads().fresh_foot > 0 ? d.tip / loads().fresh_foot : 0;
        }
        s.amps = Ampere(held.amps);
        s.tally = bank_.tally;
        day_.samples.push_back(s);
    }

    /// A board rides out what is short, but not an empty cell.
    bool ends(const Left& left) const {
        return left.empty || (left.off() && stretch_->lasts.value() >= debounce);
    }

    void through(const Stretch& stretch) {
        // Another temperature or loudness: all is looked at anew.
        if (phase_ != stretch.phase) unsafe();
        phase_ = stretch.phase;
        stretch_ = &stretch;
        double left = stretch.lasts.value();
        Held held = bank_.hold(curve());
        Noticed before = ignited() ? notice() : Noticed{};
        sample(curve(), held);
        Left off_before = left_of(loads(), bank_, curve(), held);
        if (!crackle_ && before.crackle < 0) crackled();
        if (!dim_ && before.dim < 0) dimmed();
        if (ends(off_before)) went_off(off_before);
        if (attend()) held = bank_.hold(curve());
        while (left > 1e-9 && !over_) {
            steps_.next = std::max(steps_.next, 0.5);
            const double dt = steps_.take(bank_, curve(), held, left, air());
            now_ += dt, left -= dt;
            if (ignited()) lit_ += dt;
            Noticed after = ignited() ? notice() : Noticed{};
            sample(curve(), held);
            const Left off = left_of(loads(), bank_, curve(), held);
            auto back_to = [&](double m0, double m1) { // the moment within the step
                const double back = (1 - crossing(m0, m1)) * dt;
                now_ -= back;
                if (ignited()) lit_ -= back;
                return back;
            };
            auto forth = [&](double back) {
                now_ += back;
                if (ignited()) lit_ += back;
            };
            if (!dim_ && after.dim < 0) {
                const double back = back_to(before.dim, after.dim);
                dimmed();
                forth(back);
            }
            if (!crackle_ && after.crackle < 0) {
                const double back = back_to(before.crackle, after.crackle);
                crackled();
                forth(back);
            }
            if (ends(off)) {
                const double back =
                    off.empty || off.collapsed ? 0 : back_to(off_before.volts(), off.volts());
                went_off(off);
                forth(back);
            }
            before = after;
            off_before = off;
            if (attend()) {
                held = bank_.hold(curve());
                before = ignited() ? notice() : Noticed{};
                off_before = left_of(loads(), bank_, curve(), held);
            }
        }
        steps_.next = 6;
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
        crackle_ = dim_ = reset_ = trip_ = false;
        mark(DayMark::Kind::swap, "full and rested");
        return true;
    }

    const DayLoads& loads_;
    const DayPlan& plan_;
    Bank bank_;
    Steps steps_{.charge = plan_.step, .amps = 2 * plan_.step};
    Day day_;
    std::vector<double> safe_down_to_; ///< charge, of the look and each effect; 2: look at it
    const Stretch* stretch_ = nullptr; ///< what is lived through; of the day at hand alone
    std::size_t phase_ = 0;
    double now_ = 0, lit_ = 0, fresh_since_ = -1e9; ///< s
    double audio_ = 0, tip_ = 1;
    bool crackle_ = false, dim_ = false, reset_ = false, trip_ = false;
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
