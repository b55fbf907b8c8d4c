// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/runtime.h"

#include <algorithm>
#include <cmath>

#include "core/base/format.h"

namespace conductus::power {

double Left::volts() const { return std::min(cell, board); }

Message Left::because() const {
    if (empty) return "the cell is empty";
    if (collapsed && below > 0)
        return say("off below {}: a converter lets go there", text(Volt(below)));
    if (collapsed) return "the cell can not give what is asked";
    return cell < board ? "the protection cuts off" : "the board cuts off";
}

Left left_of(const UseLoads& loads, const Bank& bank, const LoadCurve& load, const Held& held) {
    Left left{1e3, 1e3, false, !held.holds, load.ends_early() ? load.low() : 0};
    for (std::size_t i = 0; i < bank.cells.size(); ++i) {
        const CellFigures& f = bank.figures()[i];
        left.empty = left.empty || bank.cells[i].charge <= 1e-9;
        if (f.cut_off > Volt(0))
            left.cell = std::min(left.cell, (bank.terminal(i, held) - f.cut_off).value());
    }
    if (loads.has_board) left.board = load.board_at(held.volts) - loads.cut_off.value();
    return left;
}

double crossing(double before, double after) {
    if (!(before > 0)) return 0;
    return std::clamp(before / (before - after), 0.0, 1.0);
}

double Steps::take(Bank& bank, const LoadCurve& load, Held& held, double left, Celsius air) {
    // No cell may be taken below empty, nor far at once.
    double most = left;
    for (std::size_t i = 0; i < bank.cells.size(); ++i) {
        const double rate =
            std::abs(bank.amps(i, held).value()) / (bank.figures()[i].capacity.value() * 3.6);
        if (rate > 0) most = std::min(most, std::min(charge, bank.cells[i].charge) / rate);
    }
    for (double dt = std::min(most, next);;) {
        const Held to = bank.advance(load, held, dt, air);
        const double change = std::abs(to.amps - held.amps) / std::max(held.amps, 1e-9);
        if (change > amps && dt > 0.05 && held.amps > 1e-3) {
            bank.back();
            dt = next = std::max(dt / 2, 0.05);
            continue;
        }
        if (dt >= next) next *= std::clamp(0.5 * amps / std::max(change, 1e-9), 1.0, 2.0);
        held = to;
        return dt;
    }
}

namespace {

/// Margins that something is dated by when they fall through zero.
struct Margins {
    double crackle = 1, clip = 1, tip = 1, light = 1, trip = 1, off = 1;
};

/// From so near to a trip on, as a share of what flows, every effect is looked at.
constexpr double close_to_trip = 0.3;

/// Cells taken down through one load, and what is noticed on the way.
class RunDown {
public:
    RunDown(const UseLoads& loads, double step)
        : loads_(loads), air_(loads.use.temperature),
          load_(loads.mix(mean_rates(phases_of(loads.use)))),
          bank_(loads.cells, loads.pack, air_, loads.extra_series_ohms), steps_{.charge = step,
                                                                                .amps = 2 * step},
          warming_(loads.guards, air_) {}

    Discharge run() {
        run_.need = loads_.sound.need;
        run_.peak_event = loads_.peak_event;
        run_.peak = Ampere(bank_.hold(loads_.peak->loud).amps);
        run_.hottest.assign(bank_.cells.size(), air_);
        held_ = bank_.hold(load_);
        Left left;
        Margins before = sample(left);
        if (before.crackle < 0) crackles_at(Minute(0), 1, run_.samples.front().board);
        if (before.clip < 0) run_.clips = Minute(0);
        if (before.tip < 0) run_.uneven = Minute(0);
        if (before.light < 0) run_.faded = Minute(0);
        if (before.trip < 0) return ended(tripped_);
        while (!left.off()) {
            const Bank was = bank_;
            const Held held_was = held_;
            const Warming warm_was = warming_;
            const std::vector<Celsius> hottest_was = run_.hottest;
            const double dt = steps_.take(bank_, load_, held_, 1e9, air_);
            const auto opening = lets_flow(held_was, held_, dt);
            now_ += dt;
            const Margins m = sample(left);
            double end = 1; // share of the step that is still lived through
            std::optional<Opened> opened;
            if (left.off() && !left.empty && !left.collapsed) end = crossing(before.off, m.off);
            if (opening && opening->share < end)
                end = opening->share, opened = warming_.told(opening->guard, flows_, air_);
            if (m.trip < 0 && crossing(before.trip, m.trip) < end)
                end = crossing(before.trip, m.trip), opened = tripped_;
            const bool over = left.off() || opened;
            if (over) {
                // The last step again, as far as it goes.
                bank_ = was, held_ = held_was, warming_ = warm_was;
                run_.hottest = hottest_was;
                if (end > 0) {
                    held_ = bank_.advance(load_, held_, end * dt, air_);
                    (void)lets_flow(held_was, held_, end * dt);
                }
                run_.samples.pop_back();
                now_ += (end - 1) * dt;
                const Left why = left;
                sample(left);
                left = why;
            }
            date(before, m, now_ - end * dt, dt, end);
            if (over) return ended(opened, left);
            before = m;
        }
        return ended({}, left);
    }

private:
    Margins sample(Left& left) {
        const Held bright = bank_.hold(loads_.look.bright);
        const Drawn seen = loads_.look.bright.at(bright.volts);
        Sample s;
        s.at = Minute(now_ / 60);
        s.charge = std::max(0.0, bank_.charge());
        s.amps = Ampere(held_.amps);
        s.cell = Volt(1e9), s.warmth = Celsius(-273);
        for (std::size_t i = 0; i < bank_.cells.size(); ++i) {
            s.cell = std::min(s.cell, bank_.terminal(i, held_));
            s.warmth = std::max(s.warmth, bank_.cells[i].temperature);
            run_.hottest[i] = std::max(run_.hottest[i], bank_.cells[i].temperature);
        }
        s.board = Volt(load_.board_at(held_.volts));
        const Held loud = bank_.hold(loads_.peak->loud);
        s.board_peak = Volt(loads_.lowest_board(*loads_.peak, bank_, loud));
        s.tip = seen.foot > 0 ? seen.tip / seen.foot : 1;
        s.light = loads_.fresh_light > 0 ? seen.light / loads_.fresh_light : 1;
        run_.samples.push_back(s);
        left = left_of(loads_, bank_, load_, held_);
        Margins m{(s.board_peak - run_.need).value(),
                  loads_.has_board ? (s.board_peak - loads_.sound.clips).value() : 1,
                  s.tip - dim_share,
                  s.light - faded_share,
                  1e9,
                  left.volts()};
        const auto to_trip = [&](const LitLoad& load, bool effect, const Held& at_most) {
            if (load.loud.empty()) return;
            const auto trip = loads_.to_trip(load, effect, bank_, at_most);
            if (trip.amps < m.trip) m.trip = trip.amps, tripped_ = loads_.told(trip);
        };
        // What draws most at full charge may not later on, but never by much.
        to_trip(*loads_.peak, loads_.peak != &loads_.look, loud);
        if (m.trip < close_to_trip * held_.amps) {
            to_trip(loads_.look, false, bank_.hold(loads_.look.loud));
            for (const LitLoad& effect : loads_.effects)
                if (!effect.loud.empty()) to_trip(effect, true, bank_.hold(effect.loud));
        }
        for (const LitLoad& effect : loads_.effects) {
            if (loads_.guards.empty()) break;
            if (effect.bright.empty()) continue;
            // What one such effect would open on top of how warm all is.
            const auto flows = effect.bright.at(bank_.hold(effect.bright).volts).guarded;
            if (const auto opens = warming_.would_open(flows, effect.lasts.value(), air_))
                m.trip = -1, tripped_ = warming_.told(*opens, flows, air_);
        }
        if (!(m.trip < 0)) tripped_.reset();
        return m;
    }

    std::optional<Warming::Opening> lets_flow(const Held& from, const Held& to, double seconds) {
        if (loads_.guards.empty()) return std::nullopt;
        const auto a = load_.at(from.volts).guarded, b = load_.at(to.volts).guarded;
        for (std::size_t k = 0; k < guard_count; ++k)
            flows_[k] = (a[k] + b[k]) / 2;
        return warming_.pass(flows_, seconds, air_);
    }

    void crackles_at(Minute at, double charge, Volt board) {
        run_.crackle = at, run_.clean_charge = charge, run_.clean_board = board;
    }

    /// What came within a step, of which a share was lived through.
    void date(const Margins& before, const Margins& m, double from, double dt, double end) {
        const auto mark = [&](std::optional<Minute>& at, double m0, double m1) {
            if (at || !(m1 < 0)) return false;
            const double share = crossing(m0, m1);
            if (share > end) return false;
            at = Minute((from + share * dt) / 60);
            return true;
        };
        std::optional<Minute> crackle = run_.crackle;
        if (mark(crackle, before.crackle, m.crackle)) {
            const Sample &b = run_.samples[run_.samples.size() - 2], &a = run_.samples.back();
            const double share = end > 0 ? crossing(before.crackle, m.crackle) / end : 0;
            crackles_at(*crackle, b.charge + share * (a.charge - b.charge),
                        b.board + (a.board - b.board) * share);
        }
        mark(run_.clips, before.clip, m.clip);
        mark(run_.uneven, before.tip, m.tip);
        mark(run_.faded, before.light, m.light);
    }

    Discharge ended(std::optional<Opened> opened, const Left& left = {}) {
        run_.off = Minute(now_ / 60);
        run_.off_because = opened ? opened->why : left.because();
        run_.tripped = std::move(opened);
        if (!run_.crackle) {
            run_.clean_charge = std::max(0.0, bank_.charge());
            run_.clean_board = run_.samples.back().board;
        }
        run_.gauge = charge_at(run_.clean_board / cells_in_a_row(loads_));
        // What a pack of one kind counts as its charge.
        double capacity = 0;
        for (const CellFigures& f : loads_.cells) {
            const double one = f.capacity.value();
            if (loads_.pack.kind == Pack::Kind::beside)
                capacity += one;
            else
                capacity = capacity > 0 ? std::min(capacity, one) : one;
        }
        double taken = 1 - std::max(0.0, bank_.charge());
        if (loads_.pack.kind == Pack::Kind::beside) { // each has given its own
            taken = 0;
            for (std::size_t i = 0; i < bank_.cells.size(); ++i)
                taken += (1 - std::max(0.0, bank_.cells[i].charge)) *
                         loads_.cells[i].capacity.value() / capacity;
        }
        run_.drawn = MilliAmpereHour(taken * capacity);
        run_.tally = bank_.tally;
        return std::move(run_);
    }

    const UseLoads& loads_;
    Celsius air_;
    LoadCurve load_;
    Bank bank_;
    Steps steps_;
    Warming warming_;
    std::array<double, guard_count> flows_{};
    std::optional<Opened> tripped_; ///< what the latest sample says
    Held held_;
    Discharge run_;
    double now_ = 0; // s
};

} // namespace

Discharge run_down(const UseLoads& loads, double step) {
    return RunDown(loads, step).run();
}

Result<Discharge> run_down(const job::Job& job, const catalogue::Catalogue& parts, double step) {
    const auto loads = loads_of(job, parts, job.use, Wanted::worst);
    if (!loads) return tl::unexpected(loads.error());
    return run_down(**loads, step);
}

} // namespace conductus::power
