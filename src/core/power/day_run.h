// SPDX-License-Identifier: GPL-3.0-or-later
// A day of use lived through event by event. docs/models.md, "A day".
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/power/runtime.h"

namespace conductus::power {

/// Something that is noticed.
struct DayMark {
    enum class Kind { crackle, clipping, dim, reset, tripped, back, off, swap };
    Kind kind = Kind::crackle;
    Second at;            ///< of the clock
    Minute ignited;       ///< lit until then
    std::string event;    ///< what was shown
    Message why;          ///< "board at 3.18 V, sound needs 3.1 V"
    std::size_t cell = 0; ///< how many had been used up before
};
std::string_view word(DayMark::Kind kind);

/// One moment of a recorded day.
struct DaySample {
    Second at;
    std::string_view shows; ///< "stored", "asleep", "idle", "tripped", look or effect; lives as
                            ///< long as the loads do
    int effect = -1;        ///< index among the job's
    bool lit = false;
    Minute ignited; ///< lit until then
    std::vector<CellNow> cells;
    double charge = 1; ///< of the weakest cell
    Volt open;         ///< of the pack, by its charge
    Volt cell;         ///< terminal of the weakest cell
    Volt board;
    Volt audio;     ///< at the board in a sound peak; where nothing sounds, the board's
    Volt pixel;     ///< across the last pixel; 0: dark
    double tip = 0; ///< luminance against the foot's of the same moment
    Ampere amps;    ///< of the pack
    Celsius warmth; ///< of the warmest cell
    Tally tally;    ///< since the day began
};

struct DayPlan {
    std::optional<std::uint64_t> seed; ///< empty: the day as it is set
    bool swaps = false;       ///< cells are changed at the first crackle or reset, and when off
    bool to_crackle = false;  ///< ends at the first crackle or trip, or when off
    int days = 1;             ///< one after another, at most 400; ends when off
    bool full_record = false; ///< samples are kept
    bool tallies = true;      ///< where charge and energy went is asked for
    double step = 0.005;      ///< as of run_down
};

struct Day {
    std::vector<DayMark> marks; ///< as they came; of each kind the first on each set of cells
    std::optional<Minute> clean, bright, off; ///< minutes ignited until then; empty: not
    Minute ignited;                           ///< lit at all
    Second lasted;
    int cells = 1; ///< sets of cells used
    bool hopeless =
        false;         ///< a fresh set crackled, tripped or went off at once: swapping was given up
    double charge = 1; ///< left at the end
    Message off_because;
    std::string first_crackle; ///< what was shown
    Tally tally;
    std::vector<DaySample> samples;
};

/// `sets` holds the loads of each loudness the phases ask for, in the phases' order (one for each
/// phase; they may be the same). All must be of Wanted::day.
struct DayLoads {
    std::vector<std::unique_ptr<UseLoads>> sets;
    std::vector<std::size_t> of_phase; ///< index into sets
    std::vector<Celsius> air;          ///< of each phase
    std::vector<job::Phase> phases;
    std::vector<job::Effect> effects;
    [[nodiscard]] const UseLoads& in(std::size_t phase) const { return *sets[of_phase[phase]]; }
};

/// Everything the days of a use take. Errors: as of loads_of().
Result<DayLoads> day_loads(const job::Job& job, const catalogue::Catalogue& parts,
                           const job::Use& use, const ParallelFor& parallel_for = one_by_one);

Day live(const DayLoads& loads, const DayPlan& plan);

/// What comes of many days, each with a seed of its own from `seed` on: the same whatever
/// `parallel_for` does. Each is lived from full cells, day after day, until the first crackle or
/// off.
struct Percentiles {
    std::size_t days = 0;
    Minute p10, p50, p90;      ///< minutes ignited until the first crackle
    std::vector<double> clean; ///< minutes, ascending
    /// How often which event was the one, most often first.
    std::vector<std::pair<std::string, std::size_t>> events;
};
/// `stop` may say that no more is wanted: then `days` is less than asked. `told` is given how many
/// are done, from any thread.
Percentiles many_days(const DayLoads& loads, std::size_t days, std::uint64_t seed,
                      const ParallelFor& parallel_for = one_by_one,
                      const std::function<bool()>& stop = {},
                      const std::function<void(std::size_t)>& told = {});

} // namespace conductus::power
