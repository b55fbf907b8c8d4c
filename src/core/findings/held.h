// SPDX-License-Identifier: GPL-3.0-or-later
// Ratings know time: a flash warms what carries it by its share of that thing's thermal time.
// docs/models.md, "Momentary currents".
#pragma once

#include <algorithm>
#include <cmath>

#include "core/base/format.h"
#include "core/findings/facts.h"
#include "core/job/lookup.h"
#include "core/power/use_day.h"

namespace conductus::findings {

/// Thermal times, s: how long a contact or copper takes to warm through. A spring pin of 0.1 g
/// brass on 90 K/W; a switch contact of twice that; a spring of 1 g steel; the transistor of a pad
/// on its copper.
inline constexpr double pin_time = 4, contact_time = 8, spring_time = 15, pad_time = 2;
/// However short it is, a contact welds or a transistor fails beyond that many times its rating.
inline constexpr double momentary_times = 3;

/// A current as that which carries it feels it.
struct HeldCurrent {
    double amps = 0;      ///< steady current that would warm it as much
    double sustained = 0; ///< the same of looks alone, which are held
    double peak = 0;      ///< what flows at the moment
    double seconds = 0;   ///< how long `state` lasts; 0: it is held
    const Solved* state = nullptr;
    [[nodiscard]] bool over(double rating) const {
        return amps > rating || peak > momentary_times * rating;
    }
    /// Not only for a moment, or far beyond it.
    [[nodiscard]] bool gravely_over(double rating) const {
        return sustained > rating || peak > momentary_times * rating;
    }
    /// Of what is over: stop where it is held or several times the rating, else warn.
    [[nodiscard]] Severity severity(double rating) const {
        return gravely_over(rating) ? Severity::stop : Severity::warn;
    }
    /// The figure that is over, to be said.
    [[nodiscard]] double told(double rating) const {
        return amps > rating && seconds == 0 ? amps : peak;
    }
    /// "held", "for 0.15 s"; "for a moment": at a peak of sound
    [[nodiscard]] Message how_long() const {
        if (state && state->momentary) return say("(for a moment)");
        return seconds > 0 ? say("(for {} s)", three_figures(seconds)) : say("(held)");
    }
};

/// As much as a look warms what it flows through: between its mean and its brightest frame, for
/// what is on for a share d of the time exactly, I·√d.
template <class AmpsOf>
double held_by_look(const Facts& f, const Solved& brightest, const AmpsOf& amps_of) {
    const double peak = amps_of(brightest);
    for (const SolvedPtr& s : f.sustained)
        if (s && s->name == brightest.name) return std::sqrt(peak * std::min(peak, amps_of(*s)));
    return peak;
}

/// The worst of all looks, held, and of all effects, each over its look at the use's rate: after t
/// seconds of I over what is held before, I² is (1 − e^(−t/τ)) of the way. `amps_of`: of a solved
/// state. `use_only`: of the use's look and the effects over it.
template <class AmpsOf>
HeldCurrent held(const Facts& f, double tau, const AmpsOf& amps_of, bool use_only = false) {
    HeldCurrent worst;
    const std::string& used =
        f.job->use.look.empty() && !f.job->looks.empty() ? f.job->looks[0].name : f.job->use.look;
    const auto rates = power::mean_rates(power::phases_of(f.job->use));
    const auto before = [&](const std::string& look) {
        for (const SolvedPtr& s : f.fresh)
            if (s && !s->effect && !s->momentary && s->name == look)
                return held_by_look(f, *s, amps_of);
        return 0.0;
    };
    for (const SolvedPtr& s : f.fresh) {
        if (use_only && s->look != used) continue;
        const double peak = amps_of(*s);
        worst.peak = std::max(worst.peak, peak);
        if (s->momentary) continue; // a peak of sound
        double amps = peak, seconds = 0;
        if (!s->effect) {
            amps = held_by_look(f, *s, amps_of);
            worst.sustained = std::max(worst.sustained, amps);
        } else if (const job::Effect* effect = job::find_name(f.job->effects, s->of_effect)) {
            double often = 0; // share of the time, where the use has it
            for (const job::Rate& r : rates)
                if (r.kind == effect->kind) often = r.per_minute / 60 * effect->lasts.value();
            if (use_only && often == 0) continue;
            const double held_before = before(s->look);
            seconds = effect->lasts.value();
            const double once = 1 - std::exp(-seconds / tau);
            const double share = once + (1 - once) * std::min(often, 1.0);
            if (peak > held_before)
                amps = std::sqrt(held_before * held_before +
                                 (peak * peak - held_before * held_before) * share);
        }
        if (amps > worst.amps) worst.amps = amps, worst.state = s.get(), worst.seconds = seconds;
    }
    // Where only a moment is over, it is what is told.
    if (!worst.state) return worst;
    for (const SolvedPtr& s : f.fresh)
        if (worst.peak > momentary_times * worst.amps && amps_of(*s) == worst.peak) {
            worst.state = s.get();
            const job::Effect* e = job::find_name(f.job->effects, s->of_effect);
            worst.seconds = e ? e->lasts.value() : 0;
        }
    return worst;
}

} // namespace conductus::findings
