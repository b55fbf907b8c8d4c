// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/diagnose/band.h"

#include <algorithm>
#include <cmath>

namespace conductus::diagnose {
namespace {

constexpr double in_band = 1.96, beyond = 3.3; // deviations: 19 of 20, and 999 of 1000
/// Ohms between what should not touch: the board itself lets some through.
constexpr double parted = 1000;
constexpr double reads_open = 5e4, open_most = 1e6;

} // namespace

bool Band::open() const { return what == Quantity::ohms && high >= open_most; }

Verdict Band::judge(double read) const {
    if (what == Quantity::seen) return read > 0.5 ? Verdict::fine : Verdict::out;
    if (what == Quantity::pixels)
        return std::abs(read - expected) < 0.5    ? Verdict::fine
               : std::abs(read - expected) <= 1.5 ? Verdict::edge // miscounted
                                                  : Verdict::out;
    if (open()) return read >= low ? Verdict::fine : Verdict::out;
    // Ohms under nothing are the meter's own.
    if (what == Quantity::ohms) read = std::max(read, 0.0);
    if (read >= low && read <= high) return Verdict::fine;
    return sigma > 0 && std::abs(read - expected) <= beyond * sigma ? Verdict::edge : Verdict::out;
}

std::optional<Band> band_of(Finder& finder, const Measure& measure, bool turned) {
    const auto sound = finder.expected(measure, {}, turned);
    if (!sound) return std::nullopt;
    Band b{measure.what, sound->value, sound->value, sound->value, 0};
    if (b.what == Quantity::pixels) return b;
    if (b.what == Quantity::ohms && b.expected >= reads_open) {
        b.low = parted, b.high = open_most;
        return b;
    }
    b.sigma = sound->sigma;
    b.low = b.expected - in_band * b.sigma, b.high = b.expected + in_band * b.sigma;
    if (b.what == Quantity::ohms) b.low = std::max(b.low, 0.0);
    return b;
}

} // namespace conductus::diagnose
