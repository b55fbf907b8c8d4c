// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/peaks.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/presets.h"
#include "core/job/words.h"
#include "core/power/bands.h"

namespace conductus::power {
namespace {

/// What a network's lights are asked for: duties of strips, junctions that are on.
struct Asked {
    std::vector<std::vector<lights::Span>> spans;
    std::vector<std::string> dies;
    std::vector<circuit::Amplifier> sounds;
};

Asked asked_of(const circuit::Network& n) {
    Asked a;
    for (const auto& s : n.strips)
        a.spans.push_back(s.spans);
    for (const auto& d : n.diodes)
        a.dies.push_back(d.name);
    for (const auto& s : n.sinks)
        a.sounds.push_back(s.sound);
    return a;
}

/// Whether `more` asks at least as much as `less` of every pixel, die and amplifier. More asked
/// anywhere never makes the cells give less, since every other load only sees lower volts.
bool covers(const Asked& more, const Asked& less) {
    for (std::size_t i = 0; i < less.sounds.size(); ++i)
        if (more.sounds[i].peak < less.sounds[i].peak ||
            more.sounds[i].siemens < less.sounds[i].siemens)
            return false;
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

/// What is lit without a blade, off the charger.
constexpr std::array every_rest{job::Rest::idle, job::Rest::blade_out, job::Rest::asleep};

/// Whether a look has effects of its own: it is then no other look's poor relation.
bool has_own_effects(const job::Job& job, const std::string& look) {
    return std::any_of(job.presets.begin(), job.presets.end(), [&](const job::Preset& p) {
        return p.look == look && !(p.effects.empty() && p.left_out.empty());
    });
}

/// Of looks, and all effects over each, what draws most. A look that asks for less than another of
/// every light does so under every effect that both have. `effects`: null, those of its presets.
Result<State> most_of(const job::Job& job, const catalogue::Catalogue& parts,
                      std::vector<State> looks, const std::vector<job::Effect>* effects) {
    std::vector<Candidate> plain, apart, all;
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
        if (shows_charge(one->state) || (!effects && has_own_effects(job, one->state.look.name)))
            apart.push_back(std::move(*one));
        else
            add(plain, std::move(*one));
    }
    for (Candidate& one : apart)
        plain.push_back(std::move(one));
    for (const Candidate& look : plain)
        for (const job::Effect& effect :
             effects ? *effects : job::effects_over(job, look.state.look.name)) {
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
    return most_of(job, parts, {looked_up(job, parts, std::move(state))}, nullptr);
}

Result<State> most_of_look(const job::Job& job, const catalogue::Catalogue& parts, State state,
                           const std::vector<job::Effect>& effects) {
    return most_of(job, parts, {looked_up(job, parts, std::move(state))}, &effects);
}

Result<State> most_of_all(const job::Job& job, const catalogue::Catalogue& parts, double charge,
                          const State& known) {
    if (job.looks.empty()) return tl::unexpected(look_named(job, {}).error());
    const State base = looked_up(job, parts, known);
    std::vector<State> looks;
    for (const job::Look& look : job.looks)
        looks.push_back(as_known({look, {}, Brightness::brightest, Loudness::peak, charge}, base)),
            looks.back().loudest_font = true;
    auto most = most_of(job, parts, std::move(looks), nullptr);
    const bool rests = std::any_of(every_rest.begin(), every_rest.end(), [&](auto when) {
        return !rest_state(job, when, charge).look.lights.empty();
    });
    if (!most || !rests) return most;
    // What is lit without a blade may ask for more than any look does.
    const auto amps_of = [&](const State& state) -> Result<double> {
        const auto network = network_of(job, parts, state);
        if (!network) return tl::unexpected(network.error());
        const auto point = circuit::solve(*network);
        if (!point) return tl::unexpected(point.error());
        return circuit::pack_amps(*network, *point);
    };
    auto amps = amps_of(*most);
    if (!amps) return tl::unexpected(amps.error());
    for (const job::Rest when : every_rest) {
        State state = as_known(rest_state(job, when, charge), base);
        if (state.look.lights.empty()) continue;
        state.look.name = std::string(job::word(when));
        const auto now = amps_of(state);
        if (!now) return tl::unexpected(now.error());
        if (*now > *amps) amps = now, most = std::move(state);
    }
    return most;
}

std::string name_of(const State& state) {
    return state.effect ? fmt::format("{} over {}", state.effect->name, state.look.name)
                        : state.look.name;
}

} // namespace conductus::power
