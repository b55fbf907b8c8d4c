// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/answers.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/solver.h"
#include "core/plan/view.h"
#include "core/power/film.h"
#include "core/power/state.h"

namespace conductus::plan {

Result<Film> film_of(const Plan& plan, const std::string& name, const std::string& look,
                     std::uint64_t seed) {
    const job::Job& job = *plan.job;
    auto state = power::state_named(job, *plan.parts, name, look, 1);
    if (!state) return tl::unexpected(state.error());
    *state = power::looked_up(job, *plan.parts, std::move(*state));
    state->seed = seed;
    Film film;
    const double lasts = state->effect ? state->effect->lasts.value() : 4;
    // Short ones are filmed faster, so that a flash has frames enough to be seen slowly.
    film.rate = std::clamp(60 / std::max(lasts, 0.05), 15.0, 120.0);
    const auto frames = [&](double seconds) {
        return std::max(1, static_cast<int>(std::floor(seconds * film.rate + 0.5)));
    };
    double white_y = 0, sum = 0;
    {
        // As bright as its brightest frame is what the screen shows as full.
        auto brightest = *state;
        auto network = power::network_of(job, *plan.parts, brightest);
        if (!network) return tl::unexpected(network.error());
        auto point = circuit::solve(*network);
        if (!point) return tl::unexpected(point.error());
        findings::Solved solved;
        solved.network = std::move(*network);
        solved.point = std::move(*point);
        const View view = view_of(job, *plan.parts, solved, 1, white_y);
        // Frames show lights on pads as they are on average; all on at once they draw more.
        const auto& diodes = solved.network.diodes;
        const bool pulsed = std::any_of(diodes.begin(), diodes.end(),
                                        [](const circuit::Diode& d) { return d.of_time < 1; });
        if (pulsed) film.peak = view.amps;
        film.lowest = pulsed ? view.board : Volt(1e9);
    }
    const power::EachFrame keep = [&](double seconds, circuit::Network network,
                                      circuit::OperatingPoint point) {
        findings::Solved solved;
        solved.network = std::move(network);
        solved.point = std::move(point);
        Frame frame;
        frame.seconds = seconds;
        frame.amps = Ampere(solved.cell_amps());
        const View view = view_of(job, *plan.parts, solved, 1, white_y);
        frame.board = view.board;
        for (const BladeView& blade : view.blades)
            frame.blades.push_back(blade.paint);
        film.peak = std::max(film.peak, frame.amps);
        film.lowest = std::min(film.lowest, frame.board);
        film.frames.push_back(std::move(frame));
    };
    const int during = frames(lasts);
    if (auto ok = power::roll(job, *plan.parts, *state, 0, during, film.rate, keep); !ok)
        return tl::unexpected(ok.error());
    for (const Frame& frame : film.frames)
        sum += frame.amps.value();
    if (state->effect) {
        // A little of what comes after it: the look, or a dark blade.
        power::State after = *state;
        after.effect.reset(), after.loudness = power::Loudness::hum;
        if (state->effect->kind == job::EffectKind::retraction)
            after = power::rest_state(job, job::Rest::idle, 1);
        if (auto ok = power::roll(job, *plan.parts, after, during / film.rate,
                                  frames(std::min(0.5, lasts * 0.4)), film.rate, keep);
            !ok)
            return tl::unexpected(ok.error());
    }
    if (during > 0) film.mean = Ampere(sum / during);
    return film;
}

} // namespace conductus::plan
