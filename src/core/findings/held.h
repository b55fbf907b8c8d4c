// SPDX-License-Identifier: GPL-3.0-or-later
// Ratings know time: a flash warms what carries it by its share of that thing's thermal time.
// docs/models.md, "Momentary currents".
#pragma once

#include <algorithm>
#include <cmath>

#include "core/findings/facts.h"
#include "core/job/lookup.h"

namespace conductus::findings {

/// Thermal times, s: how long a contact or copper takes to warm through. A spring pin of 0.1 g
/// brass on 90 K/W; a switch contact of twice that; the transistor of a pad on its copper.
inline constexpr double pin_time = 4, contact_time = 8, pad_time = 2;
/// However short it is, a contact welds or a transistor fails beyond that many times its rating.
inline constexpr double momentary_times = 3;

/// A current as that which carries it feels it.
struct HeldCurrent {
    double amps = 0; ///< steady current that would warm it as much
    double peak = 0; ///< what flows at the moment
    const Solved* state = nullptr;
    [[nodiscard]] bool over(double rating) const {
        return amps > rating || peak > momentary_times * rating;
    }
    /// The figure that is over, to be said.
    [[nodiscard]] double told(double rating) const { return amps > rating ? amps : peak; }
};

/// The worst of all looks, held, and of all effects, each once over the use's look: after t seconds
/// of I over what is held before, I² is (1 − e^(−t/τ)) of the way. `amps_of`: of a solved state.
template <class AmpsOf>
HeldCurrent held(const Facts& f, double tau, const AmpsOf& amps_of) {
    HeldCurrent worst;
    const std::string& used =
        f.job->use.look.empty() && !f.job->looks.empty() ? f.job->looks[0].name : f.job->use.look;
    double before = 0;
    for (const SolvedPtr& s : f.sustained)
        if (s && s->name == used) before = amps_of(*s);
    for (const SolvedPtr& s : f.fresh) {
        const double peak = amps_of(*s);
        double amps = peak;
        const job::Effect* effect = s->effect ? job::find_name(f.job->effects, s->name) : nullptr;
        if (effect && peak > before) {
            const double share = 1 - std::exp(-effect->lasts.value() / tau);
            amps = std::sqrt(before * before + (peak * peak - before * before) * share);
        }
        if (amps > worst.amps) worst.amps = amps, worst.state = s.get();
        worst.peak = std::max(worst.peak, peak);
    }
    return worst;
}

} // namespace conductus::findings
