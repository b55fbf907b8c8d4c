// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/storage.h"

#include <algorithm>
#include <cmath>

#include "core/catalogue/kinds.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"

namespace conductus::power {
namespace {

/// Largest current any cell gives in the dark.
Result<double> dark_amps(const job::Job& job, const catalogue::Catalogue& parts,
                         const State& state) {
    const auto network = network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    const auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    double most = 0;
    for (const double a : point->source_amps)
        most = std::max(most, a);
    return most;
}

} // namespace

Result<double> days_in(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    const auto cells = cells_of(job, parts);
    if (cells.empty()) return problem("/parts", "there is no cell", "Fit a cell");
    double capacity = INFINITY; // of the cell that is empty first
    for (const CellFigures& f : cells)
        capacity = std::min(capacity, f.capacity.value() / 1e3); // Ah
    const double self = self_discharge_a_day(job.use.temperature);
    state = looked_up(job, parts, std::move(state));
    // Simpson's rule over the charge: what it draws follows its volts.
    double sum = 0;
    for (const auto& [charge, weight] : {std::pair{1.0, 1.0}, {0.5, 4.0}, {0.02, 1.0}}) {
        state.charge = charge;
        const auto amps = dark_amps(job, parts, state);
        if (!amps) return tl::unexpected(amps.error());
        sum += weight / (*amps * 24 / capacity + self);
    }
    return sum / 6;
}

Result<Storage> storage_of(const job::Job& job, const catalogue::Catalogue& parts) {
    const auto cells = cells_of(job, parts);
    if (cells.empty()) return problem("/parts", "there is no cell", "Fit a cell");
    Storage s;
    for (const job::Part& part : job.parts)
        for (const catalogue::Pass& pass : catalogue::passes(parts.find(part.type)->figures))
            s.has_kill |= pass.how == catalogue::Pass::How::switched;
    s.self_a_day = self_discharge_a_day(job.use.temperature);
    auto days = [&](bool killed, Ampere& at_half) -> Result<double> {
        const State state = killed ? dark_state(circuit::BoardMode::asleep, true, 1)
                                   : rest_state(job, job::Rest::asleep, 1);
        State half = state;
        half.charge = 0.5;
        const auto amps = dark_amps(job, parts, half);
        if (!amps) return tl::unexpected(amps.error());
        at_half = Ampere(*amps);
        return days_in(job, parts, state);
    };
    const auto idle = dark_amps(job, parts, rest_state(job, job::Rest::idle, 0.5));
    if (!idle) return tl::unexpected(idle.error());
    s.idle = Ampere(*idle);
    const auto asleep = days(false, s.asleep);
    if (!asleep) return tl::unexpected(asleep.error());
    s.asleep_days = *asleep;
    const auto killed = days(true, s.killed);
    if (!killed) return tl::unexpected(killed.error());
    s.killed_days = *killed;
    s.pulled_days = 1 / s.self_a_day;
    return s;
}

} // namespace conductus::power
