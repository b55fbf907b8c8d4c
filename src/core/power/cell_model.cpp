// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/cell_model.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace conductus::power {
namespace {

struct Point {
    double charge, volts;
};
constexpr std::array<Point, 12> curve{{{0.00, 3.00},
                                       {0.05, 3.30},
                                       {0.10, 3.42},
                                       {0.20, 3.54},
                                       {0.30, 3.60},
                                       {0.40, 3.64},
                                       {0.50, 3.70},
                                       {0.60, 3.79},
                                       {0.70, 3.89},
                                       {0.80, 3.99},
                                       {0.90, 4.08},
                                       {1.00, 4.18}}};

} // namespace

Volt open_circuit(double charge) {
    charge = std::clamp(charge, 0.0, 1.0);
    const auto above = std::find_if(curve.begin() + 1, curve.end() - 1,
                                    [&](const Point& p) { return charge <= p.charge; });
    const auto below = above - 1;
    const double share = (charge - below->charge) / (above->charge - below->charge);
    return Volt(below->volts + share * (above->volts - below->volts));
}

double charge_at(Volt open) {
    const double v = open.value();
    for (std::size_t i = 1; i < curve.size(); ++i)
        if (v < curve[i].volts)
            return std::max(0.0, curve[i - 1].charge + (v - curve[i - 1].volts) /
                                                           (curve[i].volts - curve[i - 1].volts) *
                                                           (curve[i].charge - curve[i - 1].charge));
    return 1;
}

std::vector<std::pair<double, double>> open_circuit_points() {
    std::vector<std::pair<double, double>> points;
    for (const Point& p : curve)
        points.emplace_back(p.charge, p.volts);
    return points;
}

double resistance_by_charge(double charge) {
    charge = std::clamp(charge, 0.0, 1.0);
    if (charge >= 0.3) return 1;
    if (charge >= 0.1) return 1 + 0.6 * (0.3 - charge) / 0.2;
    return 1.6 + 0.9 * (0.1 - charge) / 0.1;
}

namespace {
constexpr double activation = 22e3 / 8.314462618; // K
} // namespace

double resistance_by_temperature(Celsius t) {
    return std::exp(activation * (1 / (t.value() + 273.15) - 1 / 298.15));
}

double resistance_lost_a_kelvin(Celsius t) {
    const double kelvin = t.value() + 273.15;
    return activation / (kelvin * kelvin);
}

void Polarisation::advance(Ampere current, Ohm r0, Second dt, const catalogue::Lag& lag) {
    fade(current, r0, std::exp(-dt.value() / lag.quick.value()),
         std::exp(-dt.value() / lag.slow.value()), lag);
}

void Polarisation::fade(Ampere current, Ohm r0, double keep1, double keep2,
                        const catalogue::Lag& lag) {
    const Volt settled1 = current * (r0 * lag.quick_share),
               settled2 = current * (r0 * lag.slow_share);
    u1 = settled1 + (u1 - settled1) * keep1;
    u2 = settled2 + (u2 - settled2) * keep2;
}

double CellFigures::by(double charge) const {
    if (by_charge.empty()) return resistance_by_charge(charge);
    // Straight between the points that were measured, and level beyond them.
    const auto above =
        std::find_if(by_charge.begin(), by_charge.end(),
                     [&](const catalogue::ByCharge& b) { return charge <= b.charge; });
    if (above == by_charge.begin()) return above->times;
    if (above == by_charge.end()) return by_charge.back().times;
    const auto below = above - 1;
    const double share = (charge - below->charge) / (above->charge - below->charge);
    return below->times + share * (above->times - below->times);
}

CellFigures figures_of(const job::Part& part, const catalogue::Cell& cell) {
    CellFigures f;
    f.capacity = part.measured.capacity.value_or(cell.capacity);
    f.resistance = part.measured.resistance.value_or(cell.resistance);
    f.measured_capacity = part.measured.capacity.has_value();
    f.measured_resistance = part.measured.resistance.has_value();
    f.series = cell.series;
    f.by_charge = cell.by_charge;
    f.lag = cell.lag;
    return f;
}

std::vector<CellFigures> cells_of(const job::Job& job, const catalogue::Catalogue& parts) {
    std::vector<CellFigures> all;
    for (const job::Part& part : job.parts) {
        const auto* cell = parts.find_as<catalogue::Cell>(part.type);
        if (!cell) continue;
        CellFigures f = figures_of(part, *cell);
        const catalogue::PartType* type = parts.find(part.type);
        f.to_air = type->thermal;
        f.heat_capacity = std::max(type->mass.value(), 1.0); // g times 1 J/gK
        if (const auto* board = part.protection
                                    ? parts.find_as<catalogue::Protection>(*part.protection)
                                    : nullptr) {
            f.cut_off = board->cut_off * cell->series;
            f.trip = board->trip;
            f.trip_after = board->trip_after;
        }
        all.push_back(f);
    }
    return all;
}

Volt CellNow::emf(const CellFigures& f) const {
    return open_circuit(charge) * f.series - lag.u1 - lag.u2;
}

Ohm CellNow::resistance(const CellFigures& f) const {
    return f.resistance * f.by(charge) * resistance_by_temperature(temperature);
}

double open_circuit_energy(const CellFigures& figures, double charge) {
    charge = std::clamp(charge, 0.0, 1.0);
    double area = 0; // of the curve from that charge up: trapezoids of its straight pieces
    for (std::size_t i = 1; i < curve.size(); ++i) {
        if (curve[i].charge <= charge) continue;
        const double from = std::max(curve[i - 1].charge, charge);
        area += (open_circuit(from).value() + curve[i].volts) / 2 * (curve[i].charge - from);
    }
    return area * figures.series * figures.capacity.value() * 3.6;
}

double self_discharge_a_day(Celsius t) { return 0.02 / 30 * std::exp2((t.value() - 25) / 10); }

circuit::CellState rested(const CellFigures& figures, double charge, Celsius t) {
    return {open_circuit(charge) * figures.series,
            figures.resistance * figures.by(charge) * resistance_by_temperature(t)};
}

} // namespace conductus::power
