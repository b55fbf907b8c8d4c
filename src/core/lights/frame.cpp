// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lights/frame.h"

#include <algorithm>

namespace conductus::lights {

double mean_factor(job::Style style) {
    switch (style) {
    case job::Style::steady:
        return 1;
    case job::Style::pulse:
        return 0.65; // raised cosine between 30 % and 100 %
    case job::Style::flicker:
        return 0.85; // uniform between 70 % and 100 %
    case job::Style::fire:
        return 0.55; // uniform between 10 % and 100 %
    case job::Style::bands:
        return 0.5; // lit and dark bands of equal length
    }
    return 1;
}

Duties duties(const job::Colour& c, double brightness, int channels) {
    const double folded = channels < 4 ? c.white : 0;
    auto share = [&](double own) { return std::min(1.0, own + folded) * brightness; };
    return {share(c.red), share(c.green), share(c.blue), channels < 4 ? 0 : c.white * brightness};
}

Frame frame_of(const job::Look& look, int channels, double factor) {
    return {{0, 1, duties(look.colour, look.cap * factor, channels)}};
}

Frame frame_of(const job::Look& under, const job::Effect& effect, int channels) {
    const Duties base = duties(under.colour, under.cap, channels);
    Frame frame;
    if (effect.from > 0) frame.push_back({0, effect.from, base});
    frame.push_back({effect.from, effect.to, duties(effect.colour, effect.cap, channels)});
    if (effect.to < 1) frame.push_back({effect.to, 1, base});
    return frame;
}

} // namespace conductus::lights
