// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/film.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"

namespace conductus::power {
std::vector<Share> shares_of(const State& state) {
    std::vector<Share> shares;
    auto add = [&](double of_time) -> State& {
        shares.push_back({state, of_time});
        return shares.back().state;
    };
    if (state.effect) {
        constexpr int instants = 12;
        for (int i = 0; i < instants; ++i) {
            State& s = add(1.0 / instants);
            s.brightness = Brightness::instant;
            s.seconds = state.effect->lasts.value() * (i + 0.5) / instants;
        }
        return shares;
    }
    auto even = [&](double share, double of_time) {
        State& s = add(of_time);
        s.brightness = Brightness::even;
        s.share = share;
    };
    switch (state.look.style) {
    case job::Style::steady:
    case job::Style::two:
    case job::Style::charge:
        even(1, 1);
        break;
    case job::Style::cycle: // arcsine between one colour and the other: Gauss–Chebyshev
        for (const int k : {1, 3, 5, 7, 9})
            even(0.5 + 0.5 * std::cos(k * std::numbers::pi / 10), 1.0 / 5);
        break;
    case job::Style::pulse: // arcsine between 0.3 and 1: Gauss–Chebyshev
        for (const double x : {-std::sqrt(0.75), 0.0, std::sqrt(0.75)})
            even(0.65 + 0.35 * x, 1.0 / 3);
        break;
    case job::Style::flicker: // uniform between 0.7 and 1: Gauss–Legendre
        even(0.85 - 0.15 * std::sqrt(0.6), 5.0 / 18);
        even(0.85, 8.0 / 18);
        even(0.85 + 0.15 * std::sqrt(0.6), 5.0 / 18);
        break;
    case job::Style::fire:
    case job::Style::flame:
    case job::Style::bands:
        for (int frame_of_it = 0; frame_of_it < lights::spread_turns; ++frame_of_it) {
            State& s = add(1.0 / lights::spread_turns);
            s.brightness = Brightness::spread;
            s.spread_frame = frame_of_it;
        }
        break;
    }
    return shares;
}

bool moves(const State& state, const circuit::Network& brightest) {
    const auto of_style = [](const auto& l) { return lights::mean_share(l.style) != 1; };
    return state.effect || of_style(state.look) ||
           std::any_of(state.look.lights.begin(), state.look.lights.end(), of_style) ||
           std::any_of(brightest.diodes.begin(), brightest.diodes.end(),
                       [](const circuit::Diode& d) { return d.of_time < 1; });
}

Result<Ampere> mean_amps(const job::Job& job, const catalogue::Catalogue& parts,
                         const State& state) {
    const auto both = shares_amps(job, parts, state);
    if (!both) return tl::unexpected(both.error());
    return both->mean;
}

Result<MeanAndPeak> shares_amps(const job::Job& job, const catalogue::Catalogue& parts,
                                const State& state) {
    MeanAndPeak all;
    circuit::Guess guess;
    for (const Share& share : shares_of(looked_up(job, parts, state))) {
        const auto network = network_of(job, parts, share.state);
        if (!network) return tl::unexpected(network.error());
        const auto point = circuit::solve(*network, &guess);
        if (!point) return tl::unexpected(point.error());
        const Ampere amps(circuit::pack_amps(*network, *point));
        all.mean += amps * share.of_time;
        all.peak = std::max(all.peak, amps);
        // What a moment lights does not change what is wired.
        all.resistor_mean.resize(network->resistors.size());
        all.resistor_peak.resize(network->resistors.size());
        for (std::size_t i = 0; i < network->resistors.size(); ++i) {
            const double through = std::abs(point->resistor_amps[i]);
            all.resistor_mean[i] += share.of_time * through;
            all.resistor_peak[i] = std::max(all.resistor_peak[i], through);
        }
    }
    return all;
}

Result<void> roll(const job::Job& job, const catalogue::Catalogue& parts, State state, double start,
                  int frames, double rate, const EachFrame& each) {
    state = looked_up(job, parts, std::move(state));
    state.brightness = Brightness::instant;
    circuit::Guess guess;
    for (int i = 0; i < frames; ++i) {
        state.seconds = start + (i + 0.5) / rate;
        auto network = network_of(job, parts, state);
        if (!network) return tl::unexpected(network.error());
        auto point = circuit::solve(*network, &guess);
        if (!point) return tl::unexpected(point.error());
        each(state.seconds, std::move(*network), std::move(*point));
    }
    return {};
}

} // namespace conductus::power
