// SPDX-License-Identifier: GPL-3.0-or-later
// One lithium cell: docs/models.md, "Cells".
#pragma once

#include <vector>

#include "core/base/quantity.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/compile.h"
#include "core/job/job.h"

namespace conductus::power {

/// Open-circuit voltage for a state of charge 0..1 (clamped), linear between table points.
Volt open_circuit(double charge);

/// The charge at which a cell at rest stands at so many volts, 0..1: what a board's gauge says.
double charge_at(Volt open);

/// The points of that curve, empty to full.
std::vector<std::pair<double, double>> open_circuit_points();

/// Multiplier on R0 with charge: 1 above 30 %, linear to 1.6 at 10 % and 2.5 at 0 %.
double resistance_by_charge(double charge);

/// Multiplier on R0 with temperature, Arrhenius with 22 kJ/mol about 25 °C.
double resistance_by_temperature(Celsius t);
/// Share of it that a kelvin more takes away.
double resistance_lost_a_kelvin(Celsius t);

/// Slow polarisation: of a usual cell R1 = 0.35 R0 with 12 s, R2 = 0.8 R0 with 400 s.
struct Polarisation {
    Volt u1, u2;
    /// After `dt` at constant current, from the exact exponential.
    void advance(Ampere current, Ohm r0, Second dt, const catalogue::Lag& lag = {});
    /// The same where e to the minus dt over each time constant is known.
    void fade(Ampere current, Ohm r0, double keep1, double keep2, const catalogue::Lag& lag = {});
};
/// Of a usual cell, as catalogue::Lag has them.
inline constexpr double r1_share = 0.35, r2_share = 0.8;
inline constexpr double tau1_s = 12, tau2_s = 400;

/// A fitted cell's figures with measured values in place of the catalogue's.
struct CellFigures {
    MilliAmpereHour capacity;
    Ohm resistance;
    bool measured_capacity = false, measured_resistance = false;
    int series = 1; ///< of a pack that is one part
    KelvinPerWatt to_air{40};
    double heat_capacity = 45; ///< J/K: 1000 J/kgK of its mass
    Volt cut_off;              ///< of its protection, whole pack; 0: none
    Ampere trip{1e9};
    Second trip_after{0.01};
    std::vector<catalogue::ByCharge> by_charge; ///< measured; empty: resistance_by_charge()
    catalogue::Lag lag;
    /// Multiplier on R0 with charge.
    [[nodiscard]] double by(double charge) const;
    [[nodiscard]] bool protects() const { return trip < Ampere(1e8); }
};
CellFigures figures_of(const job::Part& part, const catalogue::Cell& cell);

/// Of every cell of a job, in its order, with body and protection.
std::vector<CellFigures> cells_of(const job::Job& job, const catalogue::Catalogue& parts);

/// A cell at one moment of its use.
struct CellNow {
    double charge = 1;
    Polarisation lag;
    Celsius temperature{25};
    [[nodiscard]] Volt emf(const CellFigures& f) const; ///< OCV less polarisation
    [[nodiscard]] Ohm resistance(const CellFigures& f) const;
};

/// J between that charge and full, out of the open-circuit curve: its exact integral.
double open_circuit_energy(const CellFigures& figures, double charge);

/// Self-discharge, share of the capacity a day: 2 % a month about 25 °C, doubling every 10 K.
double self_discharge_a_day(Celsius t);

/// At rest at that charge and temperature: OCV and R0.
circuit::CellState rested(const CellFigures& figures, double charge, Celsius t);

} // namespace conductus::power
