// SPDX-License-Identifier: GPL-3.0-or-later
// What a sound build reads at a point, and how a reading lies to that: the one place that judges
// one.
#pragma once

#include "core/diagnose/finder.h"

namespace conductus::diagnose {

/// How a reading lies to its band: in it; at its edge (further out than one of twenty sound builds,
/// nearer than one of a thousand: it is read again); out.
enum class Verdict { untried, fine, edge, out };

struct Band {
    Quantity what = Quantity::seen;
    double expected = 1, low = 1, high = 1; ///< 95 of 100 sound builds; of what is seen 1
    double sigma = 0; ///< one standard deviation of a sound build's reading; 0: its ends are sharp
    /// What should be open: only `low` says anything.
    [[nodiscard]] bool open() const;
    [[nodiscard]] Verdict judge(double read) const;
};

/// Of a reading as the finder knows it. Empty: nothing can be read there.
std::optional<Band> band_of(Finder& finder, const Measure& measure, bool turned);

} // namespace conductus::diagnose
