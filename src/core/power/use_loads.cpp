// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/use_loads.h"

#include <algorithm>
#include <cmath>

#include "core/base/format.h"
#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/power/bands.h"
#include "core/power/cell_model.h"
#include "core/power/film.h"
#include "core/power/peaks.h"

namespace conductus::power {
namespace {

/// Solves the curves of one use.
class Builder {
public:
    Builder(const job::Job& job, const catalogue::Catalogue& parts, UseLoads& loads)
        : job_(job), parts_(parts), loads_(loads), known_(looked_up(job, parts, {})) {
        watched_.lights = blade_lights(job, parts);
        loads_.guards = guards_of(job, parts);
        watched_.guards = guarded_in(loads_.guards);
    }

    Result<void> run(Wanted wanted, const ParallelFor& parallel_for) {
        const auto look = look_named(job_, job_.use.look);
        if (!look) return tl::unexpected(look.error());
        loads_.look.name = look->name;
        loads_.events = job::effects_of_use(job_);
        loads_.sound = sound_of(job_, parts_);
        loads_.cells = cells_of(job_, parts_);
        for (const job::Part& part : job_.parts)
            if (parts_.find_as<catalogue::Cell>(part.type)) loads_.cell_refs.push_back(part.ref);
        if (const auto board = job::first_of<catalogue::Board>(job_, parts_)) {
            loads_.has_board = true;
            loads_.cut_off = board.figures->cut_off;
            loads_.reset = board.figures->reset;
            loads_.capacitor = board.figures->capacitor.value();
            loads_.sleep_after = job::sleep_after(*board.part, *board.figures);
        }
        State brightest{*look, {}, Brightness::brightest, Loudness::hum, 1};
        if (has_bands(brightest)) {
            const auto at = brightest_bands(job_, parts_, as_known(brightest, known_));
            if (!at) return tl::unexpected(at.error());
            bands_at_ = brightest.bands_at = *at;
        }
        auto first = network(brightest);
        if (!first) return tl::unexpected(first.error());
        const auto pack = pack_of(*first);
        if (!pack) return tl::unexpected(pack.error());
        loads_.pack = *pack;
        const auto fresh = circuit::solve(*first);
        if (!fresh) return tl::unexpected(fresh.error());
        loads_.fresh_light = whole_light(watched_.lights, *first, *fresh);
        const bool steady = !moves(brightest, *first);
        range();

        const auto peak = most_of_look(job_, parts_, as_known(brightest, known_), loads_.events);
        if (!peak) return tl::unexpected(peak.error());
        loads_.peak_event = peak->effect ? peak->effect->name : peak->look.name;

        loads_.effects.resize(loads_.events.size());
        std::vector<bool> want(loads_.events.size());
        const auto phases = phases_of(job_.use);
        const auto rates = mean_rates(phases);
        for (std::size_t i = 0; i < want.size(); ++i) {
            const job::Effect& e = loads_.events[i];
            const bool rated = std::any_of(rates.begin(), rates.end(),
                                           [&](const job::Rate& r) { return r.kind == e.kind; });
            const bool comes_along =
                e.kind == job::EffectKind::ignition || e.kind == job::EffectKind::retraction;
            want[i] =
                rated || (wanted == Wanted::day && comes_along) || e.name == loads_.peak_event;
            loads_.effects[i].name = e.name;
            loads_.effects[i].lasts = e.lasts;
        }

        // Each on its own.
        std::vector<std::function<Result<void>()>> tasks;
        tasks.push_back([&] { return mean(loads_.look, *look, steady); });
        auto peaks = [&](LitLoad& load, const std::optional<job::Effect>& effect) {
            if (effect || !steady) // a steady look's mean is its brightest frame
                tasks.push_back([this, &load, &look, effect] {
                    return curve(load.bright,
                                 {*look, effect, Brightness::brightest, Loudness::hum, 1},
                                 effect ? Watched::Light::ends : Watched::Light::all);
                });
            tasks.push_back([this, &load, &look, effect] {
                return curve(load.loud, {*look, effect, Brightness::brightest, Loudness::peak, 1},
                             Watched::Light::none);
            });
        };
        peaks(loads_.look, {});
        for (std::size_t i = 0; i < want.size(); ++i)
            if (want[i]) peaks(loads_.effects[i], loads_.events[i]);
        if (wanted == Wanted::day) {
            tasks.push_back([this] { return rest(loads_.idle, job::Rest::idle); });
            tasks.push_back([this] { return rest(loads_.stored, job::Rest::asleep); });
        }
        std::vector<Result<void>> done(tasks.size());
        parallel_for(tasks.size(), [&](std::size_t i) { done[i] = tasks[i](); });
        for (const auto& ok : done)
            if (!ok) return tl::unexpected(ok.error());
        if (loads_.look.bright.empty()) loads_.look.bright = loads_.look.mean;
        // The mean of an effect is its brightest frame's in proportion.
        std::vector<std::size_t> all;
        for (std::size_t i = 0; i < want.size(); ++i)
            if (want[i]) all.push_back(i);
        done.assign(all.size(), {});
        parallel_for(all.size(), [&](std::size_t k) {
            LitLoad& load = loads_.effects[all[k]];
            load.mean = load.bright;
            done[k] = in_proportion(
                load.mean, *look, loads_.events[all[k]],
                {*look, loads_.events[all[k]], Brightness::brightest, Loudness::hum, 1});
        });
        for (const auto& ok : done)
            if (!ok) return tl::unexpected(ok.error());
        loads_.peak = &loads_.look;
        for (const LitLoad& effect : loads_.effects)
            if (effect.name == loads_.peak_event) loads_.peak = &effect;
        double slope = 0;
        if (!(loads_.look.mean.amps(high_ * 0.9, slope) > 1e-6))
            return problem(loads_.look.name, "draws nothing, so it would run for ever",
                           "Wire the board and the blade to the cell");
        return {};
    }

private:
    /// From a little above full down to below what anything goes on at.
    void range() {
        double row = 0; // cells one behind the other
        for (const CellFigures& f : loads_.cells)
            row += loads_.pack.kind == Pack::Kind::row ? f.series : 0;
        if (loads_.pack.kind != Pack::Kind::row) row = loads_.cells.front().series;
        const bool guarded = loads_.has_board || loads_.cells.front().cut_off > Volt(0);
        low_ = row * (guarded ? 2.0 : 0.4);
        high_ = row * 4.19;
    }
    Result<circuit::Network> network(State state) const {
        state.bands_at = bands_at_;
        return network_of(job_, parts_, as_known(std::move(state), known_));
    }
    /// A board shows the charge that its volts under load tell.
    Result<void> show_charge(State state, double volts, circuit::Network& network_then) const {
        const double row = high_ / 4.19;
        state.shown_charge = charge_at(Volt(volts / row));
        auto then = network(std::move(state));
        if (!then) return tl::unexpected(then.error());
        network_then = std::move(*then);
        return {};
    }
    /// `seen`: what of its light is read off.
    Result<void> curve(LoadCurve& into, const State& state, Watched::Light seen) const {
        auto n = network(state);
        if (!n) return tl::unexpected(n.error());
        LoadCurve::AtVolts follow;
        if (shows_charge(state))
            follow = [&](double volts, circuit::Network& network_then) -> Result<void> {
                return show_charge(state, volts, network_then);
            };
        auto solved = LoadCurve::of(std::move(*n), loads_.pack, watched_, seen, low_, high_, follow);
        if (!solved) return tl::unexpected(solved.error());
        into = std::move(*solved);
        return {};
    }
    Result<void> rest(LoadCurve& into, job::Rest when) const {
        return curve(into, rest_state(job_, when, 1), Watched::Light::none);
    }
    /// Of the look: one frame of even brightness stands for the film.
    Result<void> mean(LitLoad& load, const job::Look& look, bool steady) const {
        const State even = mean_state(look);
        if (auto ok = curve(load.mean, even, Watched::Light::all); !ok) return ok;
        if (steady || lights::mean_share(look.style) == 1) return {};
        return in_proportion(load.mean, look, {}, even);
    }
    /// Makes a curve of one frame the mean of all: what they draw in proportion, full and low.
    Result<void> in_proportion(LoadCurve& curve, const job::Look& look,
                               const std::optional<job::Effect>& effect, const State& frame) const {
        double by[2] = {1, 1};
        for (const int end : {0, 1}) {
            State film = mean_state(look), one = frame;
            film.effect = effect;
            film.chains = known_.chains;
            film.runs = known_.runs;
            film.wiring = known_.wiring;
            film.charge = one.charge = end ? 1 : 0.1;
            const auto all = mean_amps(job_, parts_, film);
            if (!all) return tl::unexpected(all.error());
            const auto n = network(one);
            if (!n) return tl::unexpected(n.error());
            const auto p = circuit::solve(*n);
            if (!p) return tl::unexpected(p.error());
            const double amps = circuit::pack_amps(*n, *p);
            by[end] = amps > 0 ? all->value() / amps : 1;
        }
        // The two were found at about 3.3 and 4.0 V a cell; straight on to the curve's ends.
        const double each = high_ / 4.19, at_low = 3.3 * each, at_full = 4.0 * each;
        const double steep = (by[1] - by[0]) / (at_full - at_low);
        curve.scale(std::max(0.0, by[0] + steep * (low_ - at_low)),
                    std::max(0.0, by[0] + steep * (high_ - at_low)));
        return {};
    }

    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    UseLoads& loads_;
    Watched watched_;
    State known_; ///< what follows from the job alone
    std::optional<double> bands_at_;
    double low_ = 2, high_ = 4.19;
};

} // namespace

LoadCurve UseLoads::mix(const std::vector<job::Rate>& rates) const {
    const std::vector<job::Effect>& of = events;
    std::vector<std::pair<const LoadCurve*, double>> shares{{&look.mean, 1}};
    for (const job::Rate& rate : rates) {
        std::vector<std::size_t> alike;
        for (std::size_t i = 0; i < of.size(); ++i)
            if (of[i].kind == rate.kind) alike.push_back(i);
        for (const std::size_t i : alike) {
            const double share =
                rate.per_minute / static_cast<double>(alike.size()) * of[i].lasts.value() / 60;
            shares.emplace_back(&effects[i].mean, share);
            shares.front().second -= share;
        }
    }
    if (shares.front().second < 0) { // more effects than there is time for: they fill it
        const double all = 1 - shares.front().second;
        shares.front().second = 0;
        for (std::size_t i = 1; i < shares.size(); ++i)
            shares[i].second /= all;
    }
    return shares.size() == 1 ? look.mean : LoadCurve::mixed(shares);
}

double UseLoads::lowest_board(const LitLoad& load, const Bank& bank, const Held& loud) const {
    const double low = load.loud.board_at(loud.volts);
    if (!loud.holds || !(capacitor > 0) || load.bright.empty()) return low;
    // With so little ahead of it, it has no time to bridge anything.
    double open = 0;
    for (std::size_t i = 0; i < bank.cells.size(); ++i) {
        const double emf = bank.cells[i].emf(bank.figures()[i]).value();
        open = pack.kind == Pack::Kind::row ? open + emf : std::max(open, emf);
    }
    const double all_ahead = (open - low) / std::max(loud.amps, 1e-6);
    if (std::exp(-sound_peak_seconds / (all_ahead * capacitor)) < 3e-3) return low;
    const Held hum = bank.hold(load.bright);
    const double dip = load.bright.board_at(hum.volts) - low, amps = loud.amps - hum.amps;
    if (!(dip > 0) || !(amps > 1e-6)) return low;
    const double ohms = dip / amps; // of all that stands between the open cell and the board
    return low + dip * std::exp(-sound_peak_seconds / (ohms * capacitor));
}

int cells_in_a_row(const UseLoads& loads) {
    int n = 0;
    for (const CellFigures& f : loads.cells)
        n = loads.pack.kind == Pack::Kind::row ? n + f.series : std::max(n, f.series);
    return std::max(1, n);
}

UseLoads::ToTrip UseLoads::to_trip(const LitLoad& load, bool effect, const Bank& bank,
                                   const Held& loud) const {
    const LoadCurve& brightest = load.bright.empty() ? load.mean : load.bright;
    if (brightest.empty()) return {};
    const auto least = [&](const Held& held) {
        ToTrip least_of;
        for (std::size_t i = 0; i < bank.cells.size(); ++i) {
            const CellFigures& f = bank.figures()[i];
            if (!f.protects() || (effect && load.lasts < f.trip_after)) continue;
            const double carries = bank.amps(i, held).value();
            const double left = f.trip.value() - carries;
            if (left < least_of.amps) least_of = {left, i, carries};
        }
        return least_of;
    };
    // At a peak of sound it carries more: what that does not trip, nothing does.
    if (loud.holds)
        if (const ToTrip at_most = least(loud); !at_most.trips()) return at_most;
    return least(bank.hold(brightest));
}

Opened UseLoads::told(const ToTrip& trip) const {
    Opened o;
    o.ref = trip.cell < cell_refs.size() ? cell_refs[trip.cell] : std::string();
    o.why = say("the protection of {} trips: {} through it, it trips at {}", o.ref,
                text(Ampere(trip.carries)), text(cells[trip.cell].trip));
    o.back = Second(0); // as soon as nothing draws any more
    return o;
}

Result<std::unique_ptr<UseLoads>> loads_of(const job::Job& job, const catalogue::Catalogue& parts,
                                           const job::Use& use, Wanted wanted,
                                           const ParallelFor& parallel_for) {
    auto loads = std::make_unique<UseLoads>();
    loads->use = use;
    const job::Job* in_use = &job;
    job::Job copy;
    if (!(use == job.use)) {
        copy = job;
        copy.variants.clear();
        copy.use = use;
        in_use = &copy;
    }
    if (auto ok = Builder(*in_use, parts, *loads).run(wanted, parallel_for); !ok)
        return tl::unexpected(ok.error());
    return loads;
}

} // namespace conductus::power
