// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/film.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/plan/view.h"
#include "core/power/state.h"

namespace conductus::plan {

Result<Film> film_of(const Plan& plan, const std::string& name, const std::string& look,
                     std::uint64_t seed) {
    const job::Job& job = *plan.job;
    auto state = power::state_named(job, *plan.parts, name, look, 1);
    if (!state) return tl::unexpected(state.error());
    state->chains = std::make_shared<const lights::Chains>(plan.lights.chains);
    state->seed = seed;
    Film film;
    const double lasts = state->effect ? state->effect->lasts.value() : 4;
    // Short ones are filmed faster, so that a flash has frames enough to be seen slowly.
    film.rate = std::clamp(60 / std::max(lasts, 0.05), 15.0, 120.0);
    const double after = state->effect ? std::min(0.5, lasts * 0.4) : 0;
    const auto frames = static_cast<int>(std::ceil((lasts + after) * film.rate));
    const bool leaves_dark = state->effect && state->effect->kind == job::EffectKind::retraction;
    double white_y = 0, lowest = 1e9, sum = 0;
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
        (void)view_of(job, *plan.parts, solved, 1, white_y);
    }
    const auto effect = state->effect;
    int during = 0;
    circuit::Guess guess;
    for (int i = 0; i < frames; ++i) {
        Frame frame;
        frame.seconds = (i + 0.5) / film.rate;
        power::State now = *state;
        now.brightness = power::Brightness::instant;
        now.seconds = frame.seconds;
        const bool over = frame.seconds > lasts;
        if (over) now.effect.reset(), now.loudness = power::Loudness::hum;
        if (over && leaves_dark) now = power::dark_state(circuit::BoardMode::idle, false, 1);
        auto network = power::network_of(job, *plan.parts, now);
        if (!network) return tl::unexpected(network.error());
        auto point = circuit::solve(*network, &guess);
        if (!point) return tl::unexpected(point.error());
        findings::Solved solved;
        solved.network = std::move(*network);
        solved.point = std::move(*point);
        frame.amps = Ampere(solved.cell_amps());
        const View view = view_of(job, *plan.parts, solved, 1, white_y);
        frame.board = view.board;
        for (const BladeView& blade : view.blades)
            frame.blades.push_back(blade.paint);
        if (!over) sum += frame.amps.value(), ++during;
        film.peak = std::max(film.peak, frame.amps);
        if (frame.board.value() < lowest) film.lowest = frame.board, lowest = frame.board.value();
        film.frames.push_back(std::move(frame));
    }
    if (during > 0) film.mean = Ampere(sum / during);
    return film;
}

} // namespace conductus::plan
