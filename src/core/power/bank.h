// SPDX-License-Identifier: GPL-3.0-or-later
// The cells of a job in use: charge, polarisation and warmth, taken down through load curves.
// docs/models.md, "Discharge".
#pragma once

#include <array>
#include <vector>

#include "core/power/cell_model.h"
#include "core/power/load_curve.h"

namespace conductus::power {

/// Where charge and energy went since the cells were full.
struct Tally {
    double charge = 0;                       ///< As, of every cell added up
    double drawn = 0;                        ///< J of the open-circuit curves
    double resistance = 0, polarisation = 0; ///< J lost inside the cells
    std::array<double, part_count> parts{};  ///< J into each kind of part
    [[nodiscard]] double loads() const;
};

/// What the cells give a load at one moment.
struct Held {
    double volts = 0;  ///< of the pack, as load curves count it, behind what stands ahead
    double amps = 0;   ///< the same
    bool holds = true; ///< false: no volts above the curve's low end satisfy both
};

class Bank {
public:
    /// Full, rested cells at that temperature. At least one. `extra_series_ohms`: ohms that all of
    /// the pack's current passes before it comes to what the curves tell of; its loss counts as the
    /// kill's.
    Bank(std::vector<CellFigures> figures, const Pack& pack, Celsius temperature,
         double extra_series_ohms = 0);

    /// From the open end down: of two answers the one with more volts is the stable one.
    [[nodiscard]] Held hold(const LoadCurve& load) const;
    /// Terminal volts of each cell at what it gives.
    [[nodiscard]] Volt terminal(std::size_t cell, const Held& held) const;
    [[nodiscard]] Ampere amps(std::size_t cell, const Held& held) const;
    /// Of the cell that has least left.
    [[nodiscard]] double charge() const;

    /// Lets the load draw for `seconds` in air of that temperature: charge by the trapezoid of the
    /// currents at both ends, which are made to agree with the state they lead to; polarisation and
    /// warmth by their exponentials. Returns what is held at the end, given what was at the start.
    Held advance(const LoadCurve& load, const Held& from, double seconds, Celsius air);
    /// Undoes the last advance.
    void back();

    /// New cells, full and as warm as the air.
    void swap(Celsius air);

    std::vector<CellNow> cells;
    Tally tally;
    bool tallies = true; ///< false: where it all went is not asked, and `tally` stays as it is
    [[nodiscard]] const std::vector<CellFigures>& figures() const { return figures_; }
    [[nodiscard]] const Pack& pack() const { return pack_; }

private:
    /// What one advance is for a cell whatever current flows: decays, and how warmth has changed
    /// its resistance before it.
    struct Fading {
        double lag1 = 0, lag2 = 0, warmth = 0, by_temperature = 1, a_kelvin = 0;
    };
    struct Source {
        double emf = 0, ohms = 0;
    };
    [[nodiscard]] Source source() const;
    [[nodiscard]] Held hold_near(const LoadCurve& load, double volts, bool& found) const;
    /// Terminal volts of cells in that state, not of a row: with nothing drawn, and what each loses
    /// for an ampere of the curve's.
    struct Terminals {
        std::vector<double> open, lost;
    };
    [[nodiscard]] Terminals terminals(const std::vector<CellNow>& of) const;
    /// What each gives.
    [[nodiscard]] std::vector<double> own_amps(const std::vector<CellNow>& of,
                                               const Held& held) const;
    void step(const Held& a, const Held& b, double seconds, Celsius air);
    void count(const LoadCurve& load, const Held& a, const Held& b, double seconds);
    std::vector<CellNow> before_; ///< the last advance
    std::vector<Fading> fading_;  ///< of it
    Tally tally_before_;
    std::vector<CellFigures> figures_;
    Pack pack_;
    double extra_series_ohms_ = 0;
};

} // namespace conductus::power
