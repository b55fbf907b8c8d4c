// SPDX-License-Identifier: GPL-3.0-or-later
// One lithium cell: docs/models.md, "Cells".
#pragma once

#include "core/base/quantity.h"
#include "core/catalogue/part_type.h"
#include "core/circuit/compile.h"
#include "core/job/job.h"

namespace conductus::power {

/// Open-circuit voltage for a state of charge 0..1 (clamped), linear between table points.
Volt open_circuit(double charge);

/// Multiplier on R0 with charge: 1 above 30 %, linear to 1.6 at 10 % and 2.5 at 0 %.
double resistance_by_charge(double charge);

/// Multiplier on R0 with temperature, Arrhenius with 22 kJ/mol about 25 °C.
double resistance_by_temperature(Celsius t);

/// Slow polarisation: R1 = 0.35 R0 with 12 s, R2 = 0.8 R0 with 400 s.
struct Polarisation {
    Volt u1, u2;
    /// After `dt` at constant current, from the exact exponential.
    void advance(Ampere current, Ohm r0, Second dt);
};
inline constexpr double r1_share = 0.35, r2_share = 0.8;

/// A fitted cell's figures with measured values in place of the catalogue's.
struct CellFigures {
    MilliAmpereHour capacity;
    Ohm resistance;
    bool measured_capacity = false, measured_resistance = false;
};
CellFigures figures_of(const job::Part& part, const catalogue::Cell& cell);

/// At rest at that charge and temperature: OCV and R0.
circuit::CellState rested(const CellFigures& figures, double charge, Celsius t);

} // namespace conductus::power
