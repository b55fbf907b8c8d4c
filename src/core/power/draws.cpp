// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/draws.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/solver.h"
#include "core/job/lookup.h"

namespace conductus::power {

Result<std::vector<Draw>> draws_in_the_dark(const job::Job& job, const catalogue::Catalogue& parts,
                                            bool killed, const State& known) {
    constexpr double unseen = 1e-6; // A
    State state = killed ? dark_state(circuit::BoardMode::asleep, true, 0.5)
                         : rest_state(job, job::Rest::asleep, 0.5);
    if (known.chains) state = as_known(std::move(state), known);
    const auto network = network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    const auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    std::vector<Draw> all;
    const auto take = [&](const std::string& ref, double amps, bool lit) {
        if (!(amps > unseen)) return;
        if (Draw* same = job::find_ref(all, ref)) {
            same->amps += Ampere(amps), same->lit |= lit;
            return;
        }
        const job::Part* part = job::find_ref(job.parts, ref);
        const bool board = part && parts.find_as<catalogue::Board>(part->type);
        all.push_back({ref, Ampere(amps), lit, board});
    };
    for (std::size_t i = 0; i < network->sinks.size(); ++i)
        take(network->sinks[i].ref, point->sink_amps[i], false);
    for (std::size_t i = 0; i < network->diodes.size(); ++i)
        take(network->diodes[i].ref, point->diode_amps[i], point->diode_amps[i] > 1e-5);
    for (std::size_t i = 0; i < network->converters.size(); ++i) {
        const auto& c = network->converters[i];
        // What goes on to its loads is theirs; the rest is its own.
        const double vin = point->volts[c.in] - point->volts[c.gnd];
        const double vout = point->volts[c.out] - point->volts[c.gnd];
        const double on = c.switching && vin > 0.1 ? point->converter_out[i] * vout / vin
                                                   : point->converter_out[i];
        take(c.ref, point->converter_in[i] - std::max(on, 0.0), false);
    }
    for (std::size_t i = 0; i < network->strips.size(); ++i)
        take(network->strips[i].ref, point->strips[i].amps,
             std::any_of(network->strips[i].spans.begin(), network->strips[i].spans.end(),
                         [](const lights::Span& s) { return s.duty != lights::Duties{}; }));
    std::stable_sort(all.begin(), all.end(),
                     [](const Draw& a, const Draw& b) { return a.amps > b.amps; });
    return all;
}

} // namespace conductus::power
