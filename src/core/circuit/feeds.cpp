// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/circuit/feeds.h"

#include "core/circuit/copper.h"

namespace conductus::circuit {

job::Edit feed_at(std::string ref, std::vector<double> places, int gauge) {
    return [ref = std::move(ref), places = std::move(places), gauge](job::Job& job) {
        for (job::Blade& blade : job.blades)
            for (job::Strip& strip : blade.strips) {
                if (!ref.empty() && strip.ref != ref) continue;
                strip.feeds.clear();
                for (const double at : places)
                    strip.feeds.push_back({at, Ohm(wire_resistance(gauge).value() * 2e-3 *
                                                   strip.length.value() * at)});
            }
    };
}

} // namespace conductus::circuit
