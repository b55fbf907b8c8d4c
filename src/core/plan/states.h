// SPDX-License-Identifier: GPL-3.0-or-later
// Every state of a hilt, and every preset: what it draws, which lights show something, how long
// full cells last in it. docs/models.md, "States" and "Presets".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/parallel_for.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/power/heat.h"
#include "core/power/state.h"

namespace conductus::plan {

struct HiltState {
    std::string state;  ///< "killed", "asleep", "idle", "idle without accents", "blade out",
                        ///< "charging", "lit", "effect"
    std::string preset; ///< lit or effect: empty where the job has no presets
    std::string look;   ///< lit or effect
    std::string effect;
    Ampere amps;                     ///< of the cells, full: at rest as solved, else mean over time
    std::optional<Ampere> peak;      ///< lit or effect: its brightest moment
    std::vector<std::string> lights; ///< refs of those that show something
    std::optional<double> days;      ///< until full cells are empty; empty: an effect
    std::optional<power::PartHeat> hottest; ///< what gets warmest, if it lasts for ever
};

/// Those that the hilt can be in, as it is mated: "blade out" where it has a socket, "charging"
/// where it is charged in the hilt; one "lit" a preset, else a look, and one "effect" of each.
/// Errors: as of compiling and solving; no cell.
Result<std::vector<HiltState>> states_of(const job::Job& whole, const catalogue::Catalogue& parts,
                                         const ParallelFor& parallel_for = one_by_one);

/// A job and a state in it that the name stands for; with the blade out nothing is in its sockets.
struct StateOf {
    job::Job job; ///< as it stands
    power::State state;
};
/// `preset`: that the hilt is set to; empty: the use's. Names: as of power::state_named(), and
/// "idle without accents". Errors: the same; there is no such preset.
Result<StateOf> state_of(const job::Job& whole, const catalogue::Catalogue& parts,
                         const std::string& name, const std::string& look,
                         const std::string& preset, double charge);

/// A preset with what follows from it.
struct PresetPlan {
    std::size_t order = 0; ///< from 1
    job::Preset preset;
    job::Look look;
    std::vector<job::Effect> effects; ///< that come in it
    Ampere mean, peak;                ///< of the look; of anything in it
    std::string peak_event;           ///< what that is
    Minute clean, off;                ///< lit with it, with the use's effects
};
/// In the order of the board. Errors: as of compiling and solving.
Result<std::vector<PresetPlan>> presets_of(const job::Job& whole,
                                           const catalogue::Catalogue& parts,
                                           const ParallelFor& parallel_for = one_by_one);

} // namespace conductus::plan
