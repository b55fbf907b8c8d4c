// SPDX-License-Identifier: GPL-3.0-or-later
// What a state of the job asks of its cells at any volts they still give: solved at a row of volts
// once, read off ever after. docs/models.md, "Load curves".
#pragma once

#include <array>
#include <functional>
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
    /// Not of a row: A that each cell gives of an ampere of the curve's where all stand at the same
    /// volts, and, cells by cells, A that each gives more for a volt that one stands above where
    /// they meet: what wires, springs and protection between them let through.
    std::vector<double> shares, between;
};

/// Found out by solving: one cell is weakened, and where all currents stay alike it is a row; else
/// each is lifted in turn. Errors: as of solving.
Result<Pack> pack_of(const circuit::Network& network);

inline constexpr std::size_t part_count = static_cast<std::size_t>(circuit::Part::leak) + 1;

/// Parts that open or switch off by what flows through them or how warm they get are looked at in
/// every curve, so many of them at most: what a fuse carries, A, and what a converter or linear
/// driver burns, W.
inline constexpr std::size_t guard_count = 6;
struct Guarded {
    std::string ref;
    bool watts = false; ///< else amps
};

/// What is read off a solved network for a curve, beside its cells and parts.
struct Watched {
    enum class Light { none, ends, all }; ///< foot and tip alone; all blades together as well
    BladeLights lights;
    std::vector<Guarded> guards; ///< at most guard_count
};

/// Read off a curve at one voltage of the pack: of a row all cells together, else one of them.
struct Drawn {
    double amps = 0;       ///< of a row or side by side: the pack's; mixed: each cell's
    double board = 0;      ///< V at the board; without one, behind the cells
    double tip = 0;        ///< luminance of the last lit pixel of the dimmest strip
    double foot = 0;       ///< what that one would show at the volts of its first
    double light = 0;      ///< of all blades together
    double last_pixel = 0; ///< V across that strip's last pixel; 0: there is no strip
    std::array<double, part_count> share{}; ///< A of `amps` whose watts go into each kind of part
    std::array<double, guard_count> guarded{};
};

class LoadCurve {
public:
    LoadCurve() = default;
    /// Solves `network` with ideal cells from `low` to `high` volts of the pack, closer and closer
    /// where it bends, until what lies between is read off to 0.5 % and 2 mV. Where it does not
    /// settle any more on the way down the curve ends above that, and ends_early() says so. Errors:
    /// as of solving, where it does not even settle near `high`.
    /// `at_volts`: makes the network anew for those volts of the pack, where what is shown follows
    /// them; none: it is the same at all.
    using AtVolts = std::function<Result<void>(double, circuit::Network&)>;
    static Result<LoadCurve> of(circuit::Network network, const Pack& pack, const Watched& watched,
                                Watched::Light seen, double low, double high,
                                const AtVolts& at_volts = {});
    /// Weighted sum of what they draw; volts and light are the first one's.
    static LoadCurve mixed(const std::vector<std::pair<const LoadCurve*, double>>& of);

    /// What is drawn is this much of it at the low end, that much at the high end.
    void scale(double at_low, double at_high);

    [[nodiscard]] Drawn at(double volts) const;
    /// The board's volts alone.
    [[nodiscard]] double board_at(double volts) const;
    /// Amps alone, with their slope; below the curve it goes on straight.
    [[nodiscard]] double amps(double volts, double& slope) const;
    [[nodiscard]] double low() const { return low_; }
    [[nodiscard]] double high() const {
        return low_ + step_ * static_cast<double>(rows_.size() - 1);
    }
    [[nodiscard]] bool empty() const { return rows_.empty(); }
    /// Below low() the network settles no more: something lets go there.
    [[nodiscard]] bool ends_early() const { return ends_early_; }

private:
    /// Amps, board, tip, foot, last pixel, light; shares; what is guarded.
    static constexpr std::size_t first_share = 6, first_guard = first_share + part_count;
    static constexpr std::size_t width = first_guard + guard_count;
    using Row = std::array<double, width>;
    [[nodiscard]] Row read(double volts) const;
    /// Index of the first of the four rows about that voltage, and their weights.
    [[nodiscard]] std::pair<std::size_t, std::array<double, 4>> about(double volts) const;
    void settle();
    double low_ = 0, step_ = 1;
    bool ends_early_ = false;
    std::vector<Row> rows_; ///< evenly spaced
    /// Amps over each step as a cubic of the way through it: what a discharge reads most.
    std::vector<std::array<double, 4>> cubics_;
};

} // namespace conductus::power
