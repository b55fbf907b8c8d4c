// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/runtime.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/pack.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "core/power/film.h"
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
    circuit::Node cell_end = 0; ///< behind the protection board, where a meter would touch

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
    running.cell_end = network->sources[0].plus;
    for (const auto& r : network->resistors)
        if (r.part == circuit::Part::protection && r.a == network->sources[0].plus)
            running.cell_end = r.b;
    running.network = std::move(*network);
    return running;
}

/// Time at which a margin falls through zero between two samples; margins may be infinite.
Minute crossing(Minute t0, double m0, Minute t1, double m1) {
    if (!(m0 > 0)) return t0;
    return t0 + (t1 - t0) * (m0 / (m0 - m1));
}

/// What is left until something happens; each falls through zero when it does.
struct Margins {
    double crackle = 0, dim = 0, off = 0;
};

/// One discharge in the making.
class RunDown {
public:
    RunDown(const job::Job& job, const catalogue::Catalogue& parts)
        : job_(job), parts_(parts), strips_(strip_lights(job, parts)) {}

    Result<Discharge> run(double step) {
        if (auto ok = get_ready(); !ok) return tl::unexpected(ok.error());
        for (double charge = 1;;) {
            auto margins = sample(charge);
            if (!margins) return tl::unexpected(margins.error());
            mark(*margins);
            if (margins->off <= 0) return std::move(run_);
            before_ = *margins;
            const double taken = std::min(step, charge);
            if (auto ok = take(taken, charge); !ok) return tl::unexpected(ok.error());
            charge = charge - taken < 1e-12 ? 0 : charge - taken;
        }
    }

private:
    Result<void> get_ready() {
        const auto look = look_named(job_, job_.use.look);
        if (!look) return tl::unexpected(look.error());
        look_ = look->name;
        steady_ = lights::mean_factor(look->style) == 1;
        for (const job::Part& part : job_.parts) {
            const auto* cell = parts_.find_as<catalogue::Cell>(part.type);
            if (!cell) continue;
            cells_.push_back(figures_of(part, *cell));
            capacity_As_ += cells_.back().capacity.value() * 3.6;
            if (const auto* board = part.protection
                                        ? parts_.find_as<catalogue::Protection>(*part.protection)
                                        : nullptr)
                cell_cut_off_ = std::max(cell_cut_off_, board->cut_off);
        }
        if (const auto board = job::first_of<catalogue::Board>(job_, parts_))
            board_cut_off_ = board.figures->cut_off;

        const auto peak_state = lowest_board_state(job_, parts_, *look);
        if (!peak_state) return tl::unexpected(peak_state.error());
        run_.need = sound_of(job_, parts_).need;
        run_.peak_event = peak_state->effect ? peak_state->effect->name : peak_state->look.name;
        const std::pair<Running*, State> states[] = {
            {&mean_, mean_state(*look)},
            {&full_, {*look, {}, Brightness::brightest, Loudness::hum, 1}},
            {&peak_, *peak_state}};
        for (const auto& [running, state] : states) {
            auto ready = prepare(job_, parts_, state);
            if (!ready) return tl::unexpected(ready.error());
            *running = std::move(*ready);
        }
        if (steady_) return {};
        // One frame of even brightness stands for the film; what the film draws more or less than
        // it goes in as a ratio.
        const auto film = mean_amps(job_, parts_, mean_state(*look));
        if (!film) return tl::unexpected(film.error());
        const auto even = circuit::solve(mean_.network);
        if (!even) return tl::unexpected(even.error());
        const double amps = circuit::pack_amps(mean_.network, *even);
        if (amps > 0) film_ratio_ = film->value() / amps;
        return {};
    }

    /// Solves the three states at this charge and keeps what came out.
    Result<Margins> sample(double charge) {
        const Volt lost = lag_.u1 + lag_.u2;
        const Celsius t = job_.use.temperature;
        const auto mean = mean_.at(lost, cells_, charge, t);
        if (!mean) return tl::unexpected(mean.error());
        const auto full = steady_ ? mean : full_.at(lost, cells_, charge, t);
        if (!full) return tl::unexpected(full.error());
        const auto peak = peak_.at(lost, cells_, charge, t);
        if (!peak) return tl::unexpected(peak.error());

        const Ends ends = dimmest_ends(strips_, full_.network, *full);
        if (run_.samples.empty()) {
            fresh_foot_ = ends.foot;
            run_.peak = Ampere(peak->source_amps[0]);
        }
        Sample s;
        s.at = now_;
        s.charge = charge;
        s.amps = Ampere(circuit::pack_amps(mean_.network, *mean) * film_ratio_);
        before_amps_ = all_amps_;
        all_amps_ = 0;
        for (const double a : mean->source_amps)
            all_amps_ += a * film_ratio_;
        s.cell = Volt(mean->volts[mean_.cell_end]);
        s.board = mean_.board(*mean);
        s.board_peak = peak_.board(*peak);
        s.tip = fresh_foot_ > 0 ? ends.tip / fresh_foot_ : 1;
        run_.samples.push_back(s);

        const double cell_left =
            (Volt(mean->volts[mean_.network.sources[0].plus]) - cell_cut_off_).value();
        const double board_left = (s.board - board_cut_off_).value();
        run_.off_because = charge <= 0              ? "the cell is empty"
                           : cell_left < board_left ? "the protection cuts off"
                                                    : "the board cuts off";
        return Margins{(s.board_peak - run_.need).value(), s.tip - dim_share,
                       charge > 0 ? std::min(cell_left, board_left) : 0};
    }

    /// Dates what has happened since the last sample.
    void mark(const Margins& m) {
        const auto n = run_.samples.size();
        auto crossed = [&](double m0, double m1) {
            return n > 1 ? crossing(run_.samples[n - 2].at, m0, now_, m1) : now_;
        };
        if (!run_.crackle && m.crackle < 0) run_.crackle = crossed(before_.crackle, m.crackle);
        if (!run_.dim && m.dim < 0) run_.dim = crossed(before_.dim, m.dim);
        if (m.off > 0) return;
        const double charge = run_.samples.back().charge;
        run_.off = charge > 0 ? crossed(before_.off, m.off) : now_;
        run_.drawn = MilliAmpereHour((1 - charge) * capacity_As_ / 3.6);
    }

    /// Lets that share of the charge flow, at the current half way through the step.
    Result<void> take(double taken, double charge) {
        const auto n = run_.samples.size();
        const double amps = all_amps_;
        if (!(amps > 1e-6))
            return problem(look_, "draws nothing, so it would run for ever",
                           "Wire the board and the blade to the cell");
        const double trend = n > 1 ? amps - before_amps_ : 0;
        const double middle = std::max(amps + trend / 2, amps / 2);
        const Second dt(taken * capacity_As_ / middle);
        const Ohm r0 = cells_[0].resistance * resistance_by_temperature(job_.use.temperature) *
                       resistance_by_charge(charge - taken / 2);
        lag_.advance(Ampere(middle / static_cast<double>(cells_.size())), r0, dt);
        now_ += Minute(dt.value() / 60);
        return {};
    }

    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    std::vector<StripLight> strips_;
    std::string look_;
    bool steady_ = true;
    double film_ratio_ = 1;
    double all_amps_ = 0, before_amps_ = 0; ///< of every cell added up, now and a sample ago
    std::vector<CellFigures> cells_;
    double capacity_As_ = 0; ///< all cells together; they have lost the same share
    Volt cell_cut_off_, board_cut_off_;
    Running mean_, full_, peak_;
    Polarisation lag_;
    double fresh_foot_ = 0;
    Minute now_;
    Margins before_;
    Discharge run_;
};

} // namespace

Result<Discharge> run_down(const job::Job& job, const catalogue::Catalogue& parts, double step) {
    return RunDown(job, parts).run(step);
}

} // namespace conductus::power
