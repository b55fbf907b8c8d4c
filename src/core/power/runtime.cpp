// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/runtime.h"

#include <algorithm>
#include <cmath>

namespace conductus::power {

double Left::volts() const { return std::min(cell, board); }

const char* Left::because() const {
    if (empty) return "the cell is empty";
    if (collapsed) return "the cell can not give what is asked";
    return cell < board ? "the protection cuts off" : "the board cuts off";
}

Left left_of(const UseLoads& loads, const Bank& bank, const LoadCurve& load, const Held& held) {
    Left left{1e3, 1e3, false, !held.holds};
    for (std::size_t i = 0; i < bank.cells.size(); ++i) {
        const CellFigures& f = bank.figures()[i];
        left.empty = left.empty || bank.cells[i].charge <= 1e-9;
        if (f.cut_off > Volt(0))
            left.cell = std::min(left.cell, (bank.terminal(i, held) - f.cut_off).value());
    }
    if (loads.has_board) left.board = load.at(held.volts).board - loads.cut_off.value();
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

constexpr std::size_t at_start = 1;

Volt weakest(const Bank& bank, const Held& held) {
    Volt least(1e9);
    for (std::size_t i = 0; i < bank.cells.size(); ++i)
        least = std::min(least, bank.terminal(i, held));
    return least;
}

Celsius warmest(const Bank& bank) {
    Celsius most(-273);
    for (const CellNow& cell : bank.cells)
        most = std::max(most, cell.temperature);
    return most;
}

} // namespace

Discharge run_down(const UseLoads& loads, const job::Job& job, double step) {
    Discharge run;
    run.need = loads.sound.need;
    run.peak_event = loads.peak_event;
    const Celsius air = loads.use.temperature;
    const LoadCurve load = loads.mix(mean_rates(phases_of(loads.use)), job.effects);
    Bank bank(loads.cells, loads.pack, air, loads.extra_series_ohms);
    run.peak = Ampere(bank.hold(loads.peak->loud).amps);
    // What a pack of one kind counts as its charge.
    double capacity = 0;
    for (const CellFigures& f : loads.cells) {
        if (loads.pack.kind == Pack::Kind::beside)
            capacity += f.capacity.value();
        else
            capacity = capacity > 0 ? std::min(capacity, f.capacity.value()) : f.capacity.value();
    }

    struct Margins {
        double crackle = 0, dim = 0, off = 0;
    } before;
    Steps steps{.charge = step, .amps = 2 * step};
    Held held = bank.hold(load);
    double now = 0;
    auto sample = [&](Margins& m, Left& left) {
        const Held bright = bank.hold(loads.look.bright);
        Sample s;
        s.at = Minute(now / 60);
        s.charge = std::max(0.0, bank.charge());
        s.amps = Ampere(held.amps);
        s.cell = weakest(bank, held);
        s.board = Volt(load.at(held.volts).board);
        s.board_peak = Volt(loads.lowest_board(*loads.peak, bank));
        s.tip =
            loads.fresh_foot > 0 ? loads.look.bright.at(bright.volts).tip / loads.fresh_foot : 1;
        s.warmth = warmest(bank);
        run.samples.push_back(s);
        left = left_of(loads, bank, load, held);
        m = {(s.board_peak - run.need).value(), s.tip - dim_share, left.volts()};
    };
    Left left;
    sample(before, left);
    if (before.crackle < 0) run.crackle = Minute(0), run.clean_charge = 1;
    if (before.dim < 0) run.dim = Minute(0);
    while (!left.off()) {
        const Bank was = bank;
        const Held held_was = held;
        const double dt = steps.take(bank, load, held, 1e9, air);
        now += dt;
        Margins m;
        sample(m, left);
        double end = 1; // share of the step that is still lived through
        if (left.off()) {
            if (!left.empty && !left.collapsed) end = crossing(before.off, m.off);
            // The last step again, as far as it goes.
            bank = was;
            held = held_was;
            if (end > 0) held = bank.advance(load, held, end * dt, air);
            run.samples.pop_back();
            now += (end - 1) * dt;
            Margins last;
            const Left why = left;
            sample(last, left);
            left = why;
        }
        const double from = now - end * dt;
        auto date = [&](std::optional<Minute>& mark, double m0, double m1) {
            if (mark || !(m1 < 0)) return false;
            const double share = crossing(m0, m1);
            if (share > end) return false;
            mark = Minute((from + share * dt) / 60);
            return true;
        };
        if (date(run.crackle, before.crackle, m.crackle)) {
            const auto n = run.samples.size();
            const double share = crossing(before.crackle, m.crackle);
            run.clean_charge = run.samples[n - 1 - at_start].charge * (1 - share) +
                               run.samples[n - 1].charge * share;
        }
        date(run.dim, before.dim, m.dim);
        before = m;
    }
    run.off = Minute(now / 60);
    run.off_because = left.because();
    if (!run.crackle) run.clean_charge = std::max(0.0, bank.charge());
    run.drawn = MilliAmpereHour((1 - std::max(0.0, bank.charge())) * capacity);
    run.tally = bank.tally;
    return run;
}

Result<Discharge> run_down(const job::Job& job, const catalogue::Catalogue& parts, double step) {
    const auto loads = loads_of(job, parts, job.use, Wanted::worst);
    if (!loads) return tl::unexpected(loads.error());
    return run_down(**loads, job, step);
}

} // namespace conductus::power
