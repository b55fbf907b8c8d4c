// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/bank.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace conductus::power {

double Tally::loads() const { return std::accumulate(parts.begin(), parts.end(), 0.0); }

Bank::Bank(std::vector<CellFigures> figures, const Pack& pack, Celsius temperature, double ahead)
    : cells(figures.size()), figures_(std::move(figures)), pack_(pack), ahead_(ahead) {
    for (CellNow& cell : cells)
        cell.temperature = temperature;
}

/// The cells as one source: its resistance, and `emf`.
double Bank::ohms_and_emf(double& emf) const {
    emf = 0;
    double ohms = 0, through = 0;
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const double e = cells[i].emf(figures_[i]).value();
        const double r = std::max(cells[i].resistance(figures_[i]).value(), 1e-9);
        emf += pack_.kind == Pack::Kind::beside ? e / r : e;
        ohms += r;
        through += 1 / r;
    }
    if (pack_.kind == Pack::Kind::row) return ohms;
    if (pack_.kind == Pack::Kind::beside) {
        emf /= through;
        return 1 / through;
    }
    const double n = static_cast<double>(cells.size());
    emf /= n;
    return ohms / n;
}

Held Bank::hold(const LoadCurve& load) const {
    double emf = 0;
    const double ohms = ohms_and_emf(emf) + ahead_;
    // From the open end down: where there are two answers, the one with more volts is the stable
    // one, and the first that a search from above meets.
    double volts = emf, slope = 0;
    for (int i = 0; i < 40; ++i) {
        const double amps = load.amps(volts, slope);
        const double off = volts + ohms * amps - emf;
        const double steep = 1 + ohms * slope;
        if (!(steep > 1e-3)) break; // the load asks for more the lower it gets: it collapses
        const double by = off / steep;
        volts -= by;
        if (volts < 0) break;
        if (std::abs(by) < 1e-9 * emf) { // the next step would be the square of that
            if (volts < load.low()) break;
            return {volts, (emf - volts) / ohms, true};
        }
    }
    return {load.low(), load.amps(load.low(), slope), false};
}

Ampere Bank::amps(std::size_t cell, const Held& held) const {
    if (pack_.kind != Pack::Kind::beside) return Ampere(held.amps);
    const double r = std::max(cells[cell].resistance(figures_[cell]).value(), 1e-9);
    return Ampere((cells[cell].emf(figures_[cell]).value() - held.volts - ahead_ * held.amps) / r);
}

Volt Bank::terminal(std::size_t cell, const Held& held) const {
    if (pack_.kind == Pack::Kind::beside) return Volt(held.volts + ahead_ * held.amps);
    return cells[cell].emf(figures_[cell]) -
           Ampere(held.amps) * cells[cell].resistance(figures_[cell]);
}

double Bank::charge() const {
    double least = 1;
    for (const CellNow& cell : cells)
        least = std::min(least, cell.charge);
    return least;
}

/// From `from` on for `seconds`, the current going from what `a` to what `b` holds.
void Bank::step(const std::vector<CellNow>& from, const Held& a, const Held& b, double seconds,
                Celsius air) {
    for (std::size_t i = 0; i < cells.size(); ++i) {
        CellNow now = from[i];
        const CellFigures& f = figures_[i];
        double begin = a.amps, end = b.amps;
        if (pack_.kind == Pack::Kind::beside) {
            const double r = std::max(now.resistance(f).value(), 1e-9);
            begin = (now.emf(f).value() - a.volts - ahead_ * a.amps) / r;
            const double re = std::max(cells[i].resistance(f).value(), 1e-9);
            end = (cells[i].emf(f).value() - b.volts - ahead_ * b.amps) / re;
        }
        const double mean = (begin + end) / 2;
        const double taken = mean * seconds / (f.capacity.value() * 3.6);
        const Ohm r0 = f.resistance * resistance_by_charge(now.charge - taken / 2) *
                       resistance_by_temperature(now.temperature);
        const double heat = mean * mean * r0.value() +
                            now.lag.u1.value() * now.lag.u1.value() / (r1_share * r0.value()) +
                            now.lag.u2.value() * now.lag.u2.value() / (r2_share * r0.value());
        now.charge -= taken;
        now.lag.advance(Ampere(mean), r0, Second(seconds));
        const double settled = air.value() + heat * f.to_air.value();
        const double lag = f.heat_capacity * f.to_air.value();
        now.temperature =
            Celsius(settled + (now.temperature.value() - settled) * std::exp(-seconds / lag));
        cells[i] = now;
    }
}

Held Bank::advance(const LoadCurve& load, const Held& from, double seconds, Celsius air) {
    const std::vector<CellNow> start = cells;
    Held end = from;
    for (int pass = 0; pass < 6; ++pass) {
        step(start, from, end, seconds, air);
        const Held next = hold(load);
        const bool settled = std::abs(next.amps - end.amps) <= 1e-10 * std::abs(next.amps);
        end = next;
        if (settled || !end.holds) break;
    }
    const Drawn at_start = load.at(from.volts), at_end = load.at(end.volts);
    const double cells_each = pack_.kind == Pack::Kind::mixed
                                  ? static_cast<double>(cells.size())
                                  : 1.0; // a mixed curve tells one cell's current
    for (std::size_t k = 0; k < part_count; ++k)
        tally.parts[k] += cells_each * seconds / 2 *
                          (at_start.share[k] * from.volts + at_end.share[k] * end.volts);
    tally.parts[static_cast<std::size_t>(circuit::Part::kill)] +=
        cells_each * seconds / 2 * ahead_ * (from.amps * from.amps + end.amps * end.amps);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const CellFigures& f = figures_[i];
        auto at = [&](const CellNow& c, const Held& h) {
            const double r = std::max(c.resistance(f).value(), 1e-9);
            const double amps = pack_.kind == Pack::Kind::beside
                                    ? (c.emf(f).value() - h.volts - ahead_ * h.amps) / r
                                    : h.amps;
            return std::array{amps * amps * r, amps * (c.lag.u1 + c.lag.u2).value()};
        };
        const auto a = at(start[i], from), b = at(cells[i], end);
        tally.resistance += seconds / 2 * (a[0] + b[0]);
        tally.polarisation += seconds / 2 * (a[1] + b[1]);
        tally.charge += (start[i].charge - cells[i].charge) * f.capacity.value() * 3.6;
        tally.drawn +=
            open_circuit_energy(f, cells[i].charge) - open_circuit_energy(f, start[i].charge);
    }
    return end;
}

void Bank::swap(Celsius air) {
    for (CellNow& cell : cells) {
        cell = {};
        cell.temperature = air;
    }
}

} // namespace conductus::power
