// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/peaks.h"

#include <algorithm>
#include <fmt/format.h>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/power/bands.h"

namespace conductus::power {
namespace {

/// What a network's lights are asked for: duties of strips, junctions that are on.
struct Asked {
    std::vector<std::vector<lights::Span>> spans;
    std::vector<std::string> dies;
};

Asked asked_of(const circuit::Network& n) {
    Asked a;
    for (const auto& s : n.strips)
        a.spans.push_back(s.spans);
    for (const auto& d : n.diodes)
        a.dies.push_back(d.name);
    return a;
}

/// Whether `more` asks at least as much as `less` of every pixel and die. More asked anywhere never
/// makes the cells give less, since every other load only sees lower volts.
bool covers(const Asked& more, const Asked& less) {
    for (std::size_t i = 0; i < less.spans.size(); ++i) {
        auto a = more.spans[i].begin();
        for (const lights::Span& b : less.spans[i]) {
            while (a != more.spans[i].end() && a->last <= b.first)
                ++a;
            for (auto at = a; at != more.spans[i].end() && at->first < b.last; ++at)
                for (std::size_t c = 0; c < 4; ++c)
                    if (at->duty[c] < b.duty[c]) return false;
        }
    }
    return std::all_of(less.dies.begin(), less.dies.end(), [&](const std::string& die) {
        return std::find(more.dies.begin(), more.dies.end(), die) != more.dies.end();
    });
}

/// A state with its network.
struct Candidate {
    State state;
    circuit::Network network;
    Asked asked;
};

Result<Candidate> candidate(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    auto network = network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    Asked asked = asked_of(*network);
    return Candidate{std::move(state), std::move(*network), std::move(asked)};
}

/// Keeps those that none of the others covers.
void add(std::vector<Candidate>& kept, Candidate one) {
    for (const Candidate& c : kept)
        if (covers(c.asked, one.asked)) return;
    std::erase_if(kept, [&](const Candidate& c) { return covers(one.asked, c.asked); });
    kept.push_back(std::move(one));
}

/// Of looks, and all effects over each, what draws most. A look that asks for less than another of
/// every light does so under every effect.
Result<State> most_of(const job::Job& job, const catalogue::Catalogue& parts,
                      std::vector<State> looks) {
    std::vector<Candidate> plain, all;
    for (State& state : looks) {
        state.brightness = Brightness::brightest;
        state.loudness = Loudness::peak;
        state.effect.reset();
        if (has_bands(state) && !state.bands_at) {
            const auto at = brightest_bands(job, parts, state);
            if (!at) return tl::unexpected(at.error());
            state.bands_at = *at;
        }
        auto one = candidate(job, parts, std::move(state));
        if (!one) return tl::unexpected(one.error());
        add(plain, std::move(*one));
    }
    for (const Candidate& look : plain)
        for (const job::Effect& effect : job.effects) {
            State state = look.state;
            state.effect = effect;
            auto one = candidate(job, parts, std::move(state));
            if (!one) return tl::unexpected(one.error());
            add(all, std::move(*one));
        }
    for (Candidate& look : plain)
        add(all, std::move(look));
    const State* worst = nullptr;
    double most = -1;
    circuit::Guess guess;
    for (const Candidate& c : all) {
        const auto point = circuit::solve(c.network, &guess);
        if (!point) return tl::unexpected(point.error());
        const double amps = circuit::pack_amps(c.network, *point);
        if (amps > most) most = amps, worst = &c.state;
    }
    return *worst;
}

} // namespace

Result<State> most_of_look(const job::Job& job, const catalogue::Catalogue& parts, State state) {
    return most_of(job, parts, {looked_up(job, parts, std::move(state))});
}

Result<State> most_of_all(const job::Job& job, const catalogue::Catalogue& parts, double charge,
                          const State& known) {
    if (job.looks.empty()) return tl::unexpected(look_named(job, {}).error());
    const State base = looked_up(job, parts, known);
    std::vector<State> looks;
    for (const job::Look& look : job.looks)
        looks.push_back(as_known({look, {}, Brightness::brightest, Loudness::peak, charge}, base));
    return most_of(job, parts, std::move(looks));
}

std::string name_of(const State& state) {
    return state.effect ? fmt::format("{} over {}", state.effect->name, state.look.name)
                        : state.look.name;
}

} // namespace conductus::power
