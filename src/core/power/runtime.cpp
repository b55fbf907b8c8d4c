// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/runtime.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "core/power/luminance.h"
#include "core/power/peaks.h"
#include "core/power/sound.h"
#include "core/power/state.h"

namespace conductus::power {
namespace {

/// A network whose cells' state is renewed each step; its solution starts from the last.
struct Running {
    circuit::Network network;
    circuit::Guess guess;
    circuit::Node board_plus = 0, board_minus = 0;

    Result<circuit::OperatingPoint> at(Volt emf_lost, const std::vector<CellFigures>& cells,
                                       double charge, Celsius t) {
        for (std::size_t i = 0; i < network.sources.size(); ++i) {
            const auto state = rested(cells[i], charge, t);
            network.sources[i].emf = (state.emf - emf_lost).value();
            network.sources[i].ohms = state.resistance.value();
        }
        return circuit::solve(network, &guess);
    }
    [[nodiscard]] Volt board(const circuit::OperatingPoint& p) const {
        return Volt(p.volts[board_plus] - p.volts[board_minus]);
    }
};

Result<Running> prepare(const job::Job& job, const catalogue::Catalogue& parts,
                        const State& state) {
    auto network = network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    Running running;
    if (!network->sinks.empty()) {
        running.board_plus = network->sinks[0].plus;
        running.board_minus = network->sinks[0].minus;
    } else {
        running.board_plus = network->sources[0].plus;
    }
    running.network = std::move(*network);
    return running;
}

/// Time at which a margin falls through zero between two samples; margins may be infinite.
Minute crossing(Minute t0, double m0, Minute t1, double m1) {
    if (!(m0 > 0)) return t0;
    return t0 + (t1 - t0) * (m0 / (m0 - m1));
}

struct Margins {
    double crackle, dim, off;
};

} // namespace

Result<Discharge> run_down(const job::Job& job, const catalogue::Catalogue& parts, double step) {
    const auto look = look_named(job, job.use.look);
    if (!look) return tl::unexpected(look.error());
    std::vector<CellFigures> cells;
    Volt cut_off(0);
    for (const job::Part& part : job.parts)
        if (const auto* cell = parts.find_as<catalogue::Cell>(part.type)) {
            cells.push_back(figures_of(part, *cell));
            if (part.protection)
                if (const auto* board = parts.find_as<catalogue::Protection>(*part.protection))
                    cut_off = std::max(cut_off, board->cut_off);
        }
    const auto board = job::first_of<catalogue::Board>(job, parts);
    const Volt board_cut_off = board ? board.figures->cut_off : Volt(0);

    auto peak_state = lowest_board_state(job, parts, *look);
    if (!peak_state) return tl::unexpected(peak_state.error());
    auto mean = prepare(job, parts, {*look, {}, Brightness::mean, Loudness::hum, 1});
    auto full = prepare(job, parts, {*look, {}, Brightness::brightest, Loudness::hum, 1});
    auto peak = prepare(job, parts, *peak_state);
    for (const auto* r : {&mean, &full, &peak})
        if (!*r) return tl::unexpected(r->error());
    const bool steady = lights::mean_factor(look->style) == 1;

    Discharge run;
    run.need = sound_of(job, parts).need;
    run.peak_event = peak_state->effect ? peak_state->effect->name : peak_state->look.name;
    const Celsius t = job.use.temperature;
    // One string of current: parallel cells share it, and each has lost the same charge in percent.
    double capacity_As = 0;
    for (const auto& c : cells)
        capacity_As += c.capacity.value() * 3.6;
    const Ohm r0 = cells[0].resistance * resistance_by_temperature(t);

    Polarisation lag;
    const std::vector<StripLight> strips = strip_lights(job, parts);
    double fresh_foot = 0;
    Margins before{};
    bool lit = true;
    double charge = 1;
    Minute now(0);
    while (lit) {
        const Volt lost = lag.u1 + lag.u2;
        auto at_mean = mean->at(lost, cells, charge, t);
        if (!at_mean) return tl::unexpected(at_mean.error());
        auto at_full = steady ? at_mean : full->at(lost, cells, charge, t);
        if (!at_full) return tl::unexpected(at_full.error());
        auto at_peak = peak->at(lost, cells, charge, t);
        if (!at_peak) return tl::unexpected(at_peak.error());

        double amps = 0;
        for (const double a : at_mean->source_amps)
            amps += a;
        const auto& network = mean->network;
        const Ends ends = dimmest_ends(strips, full->network, *at_full);
        if (run.samples.empty()) {
            fresh_foot = ends.foot;
            run.peak = Ampere(at_peak->source_amps[0]);
        }
        Sample s;
        s.at = now;
        s.charge = charge;
        s.amps = Ampere(amps);
        // After the protection board, where the owner's meter would touch.
        const auto plus = std::find_if(network.resistors.begin(), network.resistors.end(),
                                       [](auto& r) { return r.part == circuit::Part::protection; });
        s.cell = Volt(
            at_mean->volts[plus != network.resistors.end() ? plus->b : network.sources[0].plus]);
        s.board = mean->board(*at_mean);
        s.board_peak = peak->board(*at_peak);
        s.tip = fresh_foot > 0 ? ends.tip / fresh_foot : 1;
        run.samples.push_back(s);

        const Volt inner(at_mean->volts[network.sources[0].plus]);
        const double off_margin =
            std::min({(inner - cut_off).value(), (s.board - board_cut_off).value(), charge - 1e-9});
        const Margins margins{(s.board_peak - run.need).value(), s.tip - dim_share, off_margin};
        const Minute last = run.samples.size() > 1 ? run.samples[run.samples.size() - 2].at : now;
        auto crossed = [&](double m0, double m1) {
            return run.samples.size() > 1 ? crossing(last, m0, now, m1) : now;
        };
        if (!run.crackle && margins.crackle < 0)
            run.crackle = crossed(before.crackle, margins.crackle);
        if (!run.dim && margins.dim < 0) run.dim = crossed(before.dim, margins.dim);
        if (margins.off <= 0) {
            lit = false;
            run.off = crossed(before.off, margins.off);
            run.off_because = charge <= 1e-9 ? "the cell is empty"
                              : inner - cut_off < s.board - board_cut_off
                                  ? "the protection cuts off"
                                  : "the board cuts off";
            run.drawn = MilliAmpereHour((1 - charge) * capacity_As / 3.6);
            break;
        }
        before = margins;

        const double taken = std::min(step, charge);
        if (!(amps > 1e-6))
            return problem(look->name, "draws nothing, so it would run for ever",
                           "Wire the board and the blade to the cell");
        // The current changes little within a step; its end is close to this one's.
        const double trend =
            run.samples.size() > 1 ? amps - run.samples[run.samples.size() - 2].amps.value() : 0;
        const double mid = std::max(amps + trend / 2, amps * 0.5);
        const Second dt(taken * capacity_As / mid);
        lag.advance(Ampere(mid / static_cast<double>(cells.size())),
                    r0 * resistance_by_charge(charge - taken / 2), dt);
        charge -= taken;
        if (charge < 1e-12) charge = 0;
        now += Minute(dt.value() / 60);
    }
    return run;
}

} // namespace conductus::power
