// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/peaks.h"

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"

namespace conductus::power {

Result<State> lowest_board_state(const job::Job& job, const catalogue::Catalogue& parts,
                                 const job::Look& look) {
    std::vector<State> candidates{{look, {}, Brightness::brightest, Loudness::peak, 1}};
    for (const job::Effect& effect : job.effects)
        candidates.push_back({look, effect, Brightness::brightest, Loudness::peak, 1});
    const State* worst = nullptr;
    double most = -1;
    for (const State& state : candidates) {
        auto network = network_of(job, parts, state);
        if (!network) return tl::unexpected(network.error());
        auto point = circuit::solve(*network);
        if (!point) return tl::unexpected(point.error());
        // The same board and cell in every candidate: most amps is lowest volts.
        const double amps = circuit::pack_amps(*network, *point);
        if (amps > most) most = amps, worst = &state;
    }
    return *worst;
}

} // namespace conductus::power
