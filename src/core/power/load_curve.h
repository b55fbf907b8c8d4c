// SPDX-License-Identifier: GPL-3.0-or-later
// What a state of the job asks of its cells at any volts they still give: solved at a row of volts
// once, read off ever after. docs/models.md, "Load curves".
#pragma once

#include <array>
#include <vector>

#include "core/base/problem.h"
#include "core/circuit/network.h"
#include "core/power/luminance.h"
#include "core/power/state.h"

namespace conductus::power {

/// How the cells of a job stand to each other. Of a row, volts add up; side by side, amps do; else
/// (rows side by side) every cell is taken to be like the others.
struct Pack {
    enum class Kind { row, beside, mixed };
    Kind kind = Kind::row;
    std::size_t cells = 1;
};

/// Found out by solving: one cell is weakened, and where all currents stay alike it is a row.
/// Errors: as of solving.
Result<Pack> pack_of(const circuit::Network& network);

inline constexpr std::size_t part_count = static_cast<std::size_t>(circuit::Part::leak) + 1;

/// Read off a curve at one voltage of the pack: of a row all cells together, else one of them.
struct Drawn {
    double amps = 0;       ///< of a row or side by side: the pack's; mixed: each cell's
    double board = 0;      ///< V at the board; without one, behind the cells
    double tip = 0;        ///< luminance of the last lit pixel of the dimmest strip
    double foot = 0;       ///< of its first
    double last_pixel = 0; ///< V across that strip's last pixel; 0: there is no strip
    std::array<double, part_count> share{}; ///< A of `amps` whose watts go into each kind of part
};

class LoadCurve {
public:
    LoadCurve() = default;
    /// Solves `network` with ideal cells from `low` to `high` volts of the pack, closer and closer
    /// where it bends, until what lies between is read off to 0.4 % and 1.5 mV. Errors: as of
    /// solving.
    static Result<LoadCurve> of(circuit::Network network, const Pack& pack,
                                const std::vector<StripLight>& lights, double low, double high);
    /// Weighted sum of what they draw; volts and light are the first one's.
    static LoadCurve mixed(const std::vector<std::pair<const LoadCurve*, double>>& of);

    /// What is drawn is this much of it at the low end, that much at the high end.
    void scale(double at_low, double at_high);

    [[nodiscard]] Drawn at(double volts) const;
    /// Amps alone, with their slope; below the curve it goes on straight.
    [[nodiscard]] double amps(double volts, double& slope) const;
    [[nodiscard]] double low() const { return low_; }
    [[nodiscard]] double high() const {
        return low_ + step_ * static_cast<double>(rows_.size() - 1);
    }
    [[nodiscard]] bool empty() const { return rows_.empty(); }

private:
    static constexpr std::size_t width = 5 + part_count;
    using Row = std::array<double, width>;
    [[nodiscard]] Row read(double volts) const;
    void settle();
    double low_ = 0, step_ = 1;
    std::vector<Row> rows_; ///< evenly spaced; amps, board, tip, foot, last pixel, shares
    /// Amps over each step as a cubic of the way through it: what a discharge reads most.
    std::vector<std::array<double, 4>> cubics_;
};

} // namespace conductus::power
