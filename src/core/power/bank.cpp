// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/bank.h"

#include <Eigen/Dense>
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

/// Those that are joined: v + R·G·v = E − R·share·I, G what flows between them.
Bank::Terminals Bank::terminals(const std::vector<CellNow>& of) const {
    const std::size_t n = of.size();
    Eigen::MatrixXd joined = Eigen::MatrixXd::Identity(Eigen::Index(n), Eigen::Index(n));
    Eigen::MatrixX2d sides(Eigen::Index(n), 2);
    for (std::size_t k = 0; k < n; ++k) {
        const double r = std::max(of[k].resistance(figures_[k]).value(), 1e-9);
        for (std::size_t j = 0; j < n; ++j)
            joined(Eigen::Index(k), Eigen::Index(j)) += r * pack_.between[k * n + j];
        sides(Eigen::Index(k), 0) = of[k].emf(figures_[k]).value();
        sides(Eigen::Index(k), 1) = r * pack_.shares[k];
    }
    const Eigen::MatrixX2d volts = joined.partialPivLu().solve(sides);
    Terminals t;
    for (std::size_t k = 0; k < n; ++k) {
        t.open.push_back(volts(Eigen::Index(k), 0));
        t.lost.push_back(volts(Eigen::Index(k), 1));
    }
    return t;
}

/// The cells as one.
Bank::Source Bank::source() const {
    Source s;
    if (pack_.kind == Pack::Kind::row) {
        for (std::size_t i = 0; i < cells.size(); ++i) {
            s.emf += cells[i].emf(figures_[i]).value();
            s.ohms += std::max(cells[i].resistance(figures_[i]).value(), 1e-9);
        }
        return s;
    }
    // Where they meet, each counts by how well it is joined: as it shares a current.
    const Terminals t = terminals(cells);
    const double all = std::accumulate(pack_.shares.begin(), pack_.shares.end(), 0.0);
    for (std::size_t k = 0; k < cells.size(); ++k) {
        s.emf += pack_.shares[k] / all * t.open[k];
        s.ohms += pack_.shares[k] / all * t.lost[k];
    }
    return s;
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

std::vector<double> Bank::own_amps(const std::vector<CellNow>& of, const Held& held) const {
    if (pack_.kind == Pack::Kind::row) return std::vector<double>(of.size(), held.amps);
    const Terminals t = terminals(of);
    std::vector<double> amps;
    for (std::size_t k = 0; k < of.size(); ++k) {
        const double r = std::max(of[k].resistance(figures_[k]).value(), 1e-9);
        const double volts = t.open[k] - t.lost[k] * held.amps;
        amps.push_back((of[k].emf(figures_[k]).value() - volts) / r);
    }
    return amps;
}

Ampere Bank::amps(std::size_t cell, const Held& held) const {
    return pack_.kind == Pack::Kind::row ? Ampere(held.amps) : Ampere(own_amps(cells, held)[cell]);
}

Volt Bank::terminal(std::size_t cell, const Held& held) const {
    if (pack_.kind == Pack::Kind::row)
        return cells[cell].emf(figures_[cell]) -
               Ampere(held.amps) * cells[cell].resistance(figures_[cell]);
    const Terminals t = terminals(cells);
    return Volt(t.open[cell] - t.lost[cell] * held.amps);
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
    const bool row = pack_.kind == Pack::Kind::row;
    std::vector<double> first, last;
    if (!row) first = own_amps(before_, a), last = own_amps(cells, b);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const CellFigures& f = figures_[i];
        CellNow now = before_[i];
        const double mean = row ? (a.amps + b.amps) / 2 : (first[i] + last[i]) / 2;
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
    const auto amps_before = own_amps(before_, a), amps_after = own_amps(cells, b);
    double given = 0; // W at the terminals of all cells
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const CellFigures& f = figures_[i];
        auto lost = [&](const CellNow& c, double amps) {
            const double ohms = std::max(c.resistance(f).value(), 1e-9);
            given += amps * (c.emf(f).value() - amps * ohms) / 2;
            return std::array{amps * amps * ohms, amps * (c.lag.u1 + c.lag.u2).value()};
        };
        const auto first = lost(before_[i], amps_before[i]), last = lost(cells[i], amps_after[i]);
        tally.resistance += seconds / 2 * (first[0] + last[0]);
        tally.polarisation += seconds / 2 * (first[1] + last[1]);
        tally.charge += (before_[i].charge - cells[i].charge) * f.capacity.value() * 3.6;
        tally.drawn +=
            open_circuit_energy(f, cells[i].charge) - open_circuit_energy(f, before_[i].charge);
    }
    if (pack_.kind == Pack::Kind::row) return;
    // What flows between cells that stand at different volts is lost in what joins them.
    const double told = cells_each *
                        ((a.volts + extra_series_ohms_ * a.amps) * a.amps +
                         (b.volts + extra_series_ohms_ * b.amps) * b.amps) /
                        2;
    tally.parts[static_cast<std::size_t>(circuit::Part::wire)] += seconds * (given - told);
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
