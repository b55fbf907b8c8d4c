// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/bank.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace conductus::power {

double Tally::loads() const { return std::accumulate(parts.begin(), parts.end(), 0.0); }

Bank::Bank(std::vector<CellFigures> figures, const Pack& pack, Celsius temperature,
           double extra_series_ohms)
    : cells(figures.size()), fading_(figures.size()), figures_(std::move(figures)), pack_(pack),
      extra_series_ohms_(extra_series_ohms) {
    for (CellNow& cell : cells)
        cell.temperature = temperature;
}

/// The cells as one.
Bank::Source Bank::source() const {
    double emf = 0, ohms = 0, through = 0;
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const double e = cells[i].emf(figures_[i]).value();
        const double r = std::max(cells[i].resistance(figures_[i]).value(), 1e-9);
        emf += pack_.kind == Pack::Kind::beside ? e / r : e;
        ohms += r;
        through += 1 / r;
    }
    if (pack_.kind == Pack::Kind::row) return {emf, ohms};
    if (pack_.kind == Pack::Kind::beside) return {emf / through, 1 / through};
    const double n = static_cast<double>(cells.size());
    return {emf / n, ohms / n};
}

/// Newton from there on. Not found: it left the curve, or the load asks for more the lower it gets.
Held Bank::hold_near(const LoadCurve& load, double volts, bool& found) const {
    double slope = 0;
    const auto [emf, own] = source();
    const double ohms = own + extra_series_ohms_;
    found = false;
    for (int i = 0; i < 40; ++i) {
        const double amps = load.amps(volts, slope);
        const double steep = 1 + ohms * slope;
        if (!(steep > 1e-3)) break;
        const double by = (volts + ohms * amps - emf) / steep;
        volts -= by;
        if (volts < 0) break;
        if (std::abs(by) < 1e-7 * emf) { // the next step would be the square of that
            found = volts >= load.low();
            break;
        }
    }
    return {volts, (emf - volts) / ohms, true};
}

Held Bank::hold(const LoadCurve& load) const {
    double slope = 0;
    bool found = false;
    const Held held = hold_near(load, source().emf, found);
    if (found) return held;
    return {load.low(), load.amps(load.low(), slope), false};
}

double Bank::own_amps(const CellNow& cell, const CellFigures& f, const Held& held) const {
    if (pack_.kind != Pack::Kind::beside) return held.amps;
    const double r = std::max(cell.resistance(f).value(), 1e-9);
    return (cell.emf(f).value() - held.volts - extra_series_ohms_ * held.amps) / r;
}

Ampere Bank::amps(std::size_t cell, const Held& held) const {
    return Ampere(own_amps(cells[cell], figures_[cell], held));
}

Volt Bank::terminal(std::size_t cell, const Held& held) const {
    if (pack_.kind == Pack::Kind::beside) return Volt(held.volts + extra_series_ohms_ * held.amps);
    return cells[cell].emf(figures_[cell]) -
           Ampere(held.amps) * cells[cell].resistance(figures_[cell]);
}

double Bank::charge() const {
    double least = 1;
    for (const CellNow& cell : cells)
        least = std::min(least, cell.charge);
    return least;
}

namespace {
/// W in a part of the lag; a cell without it loses nothing there.
double lost_in(double volts, double ohms) { return ohms > 0 ? volts * volts / ohms : 0; }
} // namespace

/// From `before_` on for `seconds`, the current going from what `a` to what `b` holds.
void Bank::step(const Held& a, const Held& b, double seconds, Celsius air) {
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const CellFigures& f = figures_[i];
        CellNow now = before_[i];
        const double mean = (own_amps(now, f, a) + own_amps(cells[i], f, b)) / 2;
        const double taken = mean * seconds / (f.capacity.value() * 3.6);
        const Fading& fades = fading_[i];
        // As warm, and as polarised, as half way.
        const double by_warmth =
            fades.a_kelvin * (cells[i].temperature - now.temperature).value() / 2;
        const double r0 = f.resistance.value() * f.by(now.charge - taken / 2) *
                          fades.by_temperature * (1 - by_warmth + by_warmth * by_warmth / 2);
        const double u1 = (now.lag.u1 + cells[i].lag.u1).value() / 2,
                     u2 = (now.lag.u2 + cells[i].lag.u2).value() / 2;
        const double heat = mean * mean * r0 + lost_in(u1, f.lag.quick_share * r0) +
                            lost_in(u2, f.lag.slow_share * r0);
        now.charge -= taken;
        now.lag.fade(Ampere(mean), Ohm(r0), fades.lag1, fades.lag2, f.lag);
        const double settled = air.value() + heat * f.to_air.value();
        now.temperature = Celsius(settled + (now.temperature.value() - settled) * fades.warmth);
        cells[i] = now;
    }
}

/// Where charge and energy went in that time.
void Bank::count(const LoadCurve& load, const Held& a, const Held& b, double seconds) {
    const Drawn at_start = load.at(a.volts), at_end = load.at(b.volts);
    const double cells_each = pack_.kind == Pack::Kind::mixed
                                  ? static_cast<double>(cells.size())
                                  : 1.0; // a mixed curve tells one cell's current
    for (std::size_t k = 0; k < part_count; ++k)
        tally.parts[k] +=
            cells_each * seconds / 2 * (at_start.share[k] * a.volts + at_end.share[k] * b.volts);
    tally.parts[static_cast<std::size_t>(circuit::Part::kill)] +=
        cells_each * seconds / 2 * extra_series_ohms_ * (a.amps * a.amps + b.amps * b.amps);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const CellFigures& f = figures_[i];
        auto lost = [&](const CellNow& c, const Held& h) {
            const double amps = own_amps(c, f, h);
            return std::array{amps * amps * std::max(c.resistance(f).value(), 1e-9),
                              amps * (c.lag.u1 + c.lag.u2).value()};
        };
        const auto first = lost(before_[i], a), last = lost(cells[i], b);
        tally.resistance += seconds / 2 * (first[0] + last[0]);
        tally.polarisation += seconds / 2 * (first[1] + last[1]);
        tally.charge += (before_[i].charge - cells[i].charge) * f.capacity.value() * 3.6;
        tally.drawn +=
            open_circuit_energy(f, cells[i].charge) - open_circuit_energy(f, before_[i].charge);
    }
}

Held Bank::advance(const LoadCurve& load, const Held& from, double seconds, Celsius air) {
    before_ = cells;
    for (std::size_t i = 0; i < cells.size(); ++i)
        fading_[i] = {std::exp(-seconds / figures_[i].lag.quick.value()),
                      std::exp(-seconds / figures_[i].lag.slow.value()),
                      std::exp(-seconds / (figures_[i].heat_capacity * figures_[i].to_air.value())),
                      resistance_by_temperature(before_[i].temperature),
                      resistance_lost_a_kelvin(before_[i].temperature)};
    Held end = from;
    for (int pass = 0; pass < 8; ++pass) {
        step(from, end, seconds, air);
        bool found = false;
        Held next = end.holds ? hold_near(load, end.volts, found) : end;
        if (!found) next = hold(load);
        const bool settled = std::abs(next.amps - end.amps) <= 1e-9 * std::abs(next.amps);
        end = next;
        if (settled || !end.holds) break;
    }
    if (tallies) {
        tally_before_ = tally;
        count(load, from, end, seconds);
    }
    return end;
}

void Bank::back() {
    cells = before_;
    if (tallies) tally = tally_before_;
}

void Bank::swap(Celsius air) {
    for (CellNow& cell : cells) {
        cell = {};
        cell.temperature = air;
    }
}

} // namespace conductus::power
