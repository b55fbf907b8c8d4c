// SPDX-License-Identifier: GPL-3.0-or-later
// Everything a use can ask of the cells, as load curves.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/parallel_for.h"
#include "core/power/bank.h"
#include "core/power/guards.h"
#include "core/power/load_curve.h"
#include "core/power/sound.h"
#include "core/power/use_day.h"

namespace conductus::power {

/// Length of a sound peak that a capacitor would have to bridge: half a wave at 500 Hz, about the
/// lowest note a speaker of this size gives loudly.
inline constexpr double sound_peak_seconds = 1e-3;

/// A look or an effect over it.
struct LitLoad {
    std::string name;
    Second lasts;   ///< of an effect
    LoadCurve mean; ///< over its time, with the sound's mean
    LoadCurve
        bright;     ///< its brightest frame, with the sound's mean; empty: a capacitor is not asked
    LoadCurve loud; ///< its brightest frame at a sound peak
};

/// Which effects are wanted.
enum class Wanted {
    worst, ///< the look, the effect that pulls the board lowest, and those that have a rate
    day,   ///< those as well that come with being lit and put out
};

struct UseLoads {
    Pack pack;
    std::vector<CellFigures> cells;
    std::vector<std::string> cell_refs;
    std::vector<Guard> guards;    ///< in the order of the curves
    double extra_series_ohms = 0; ///< ohms that stand between cells and curves; as of Bank
    Sound sound;
    bool has_board = false;
    Volt cut_off, reset;  ///< of the board
    double capacitor = 0; ///< F
    LitLoad look;
    std::vector<job::Effect> events; ///< the effects that come in the use
    std::vector<LitLoad> effects;    ///< of each of them; those not wanted have empty curves
    std::string peak_event;        ///< effect or look that pulls the board lowest when full
    const LitLoad* peak = nullptr; ///< that one, in here
    LoadCurve idle, stored;        ///< Wanted::day
    double fresh_light = 0;        ///< of all blades, full cell, brightest frame
    Second sleep_after;            ///< of the board; 0: never
    job::Use use;

    UseLoads() = default;
    UseLoads(UseLoads&&) = delete; ///< `peak` points into it
    UseLoads& operator=(UseLoads&&) = delete;

    /// Look and effects in their shares of the time, at these rates.
    [[nodiscard]] LoadCurve mix(const std::vector<job::Rate>& rates) const;
    /// Lowest volts at the board in `load`, as the capacitor lets it dip. `loud`: what the bank
    /// holds in it at a sound peak.
    [[nodiscard]] double lowest_board(const LitLoad& load, const Bank& bank,
                                      const Held& loud) const;
    /// How much the pack may still give before a protection trips in that load's brightest frame,
    /// A: the least of all cells. What is over before a protection acts trips none.
    struct ToTrip {
        double amps = 1e9;
        std::size_t cell = 0;
        double carries = 0; ///< that cell
        [[nodiscard]] bool trips() const { return amps < 0; }
    };
    [[nodiscard]] ToTrip to_trip(const LitLoad& load, bool effect, const Bank& bank,
                                 const Held& loud) const;
    [[nodiscard]] Opened told(const ToTrip& trip) const;
};

/// Cells, one behind the other, that the board of these loads stands on.
int cells_in_a_row(const UseLoads& loads);

/// Of the job in that use. `parallel_for` solves the curves side by side. Errors: as of compiling
/// and solving; what draws nothing at all.
Result<std::unique_ptr<UseLoads>> loads_of(const job::Job& job, const catalogue::Catalogue& parts,
                                           const job::Use& use, Wanted wanted,
                                           const ParallelFor& parallel_for = one_by_one);

} // namespace conductus::power
