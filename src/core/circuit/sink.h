// SPDX-License-Identifier: GPL-3.0-or-later
// What a board draws at a voltage: its own current, and what its amplifier takes.
// docs/models.md, "Sound".
#pragma once

#include <algorithm>
#include <cmath>

#include "core/circuit/network.h"

namespace conductus::circuit {

/// Largest amplitude across the speaker at that supply, V. A boosted rail is kept up to two and a
/// half times its supply.
inline double amplitude_at(const Amplifier& a, double volts) {
    return std::max(0.0,
                    a.boosted ? std::min(a.rail - a.headroom, 2.5 * volts) : volts - a.headroom);
}

struct SinkCurrent {
    double amps = 0, slope = 0;
};

/// I = amps (1 − e^(−V/1 V)) + siemens · a²/V, a the wanted amplitude or what the rail lets
/// through.
inline SinkCurrent sink_current(const Sink& s, double volts) {
    const double decay = volts > 0 ? std::exp(-volts) : 1 - volts;
    SinkCurrent c{s.amps * (1 - decay), s.amps * (volts > 0 ? decay : 1)};
    const Amplifier& a = s.sound;
    if (!(a.siemens > 0) || !(volts > 0)) return c;
    const double most = amplitude_at(a, volts), peak = std::min(a.peak, most);
    if (!(peak > 0)) return c;
    double by_volts = 0; // slope of the amplitude
    if (most < a.peak) by_volts = !a.boosted ? 1 : 2.5 * volts < a.rail - a.headroom ? 2.5 : 0;
    const double amps = a.siemens * peak * peak / volts;
    c.amps += amps;
    c.slope += a.siemens * 2 * peak * by_volts / volts - amps / volts;
    return c;
}

} // namespace conductus::circuit
