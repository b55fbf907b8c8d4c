// SPDX-License-Identifier: GPL-3.0-or-later
// A job at one moment: which look or effect, how charged, how loud. The one place where that
// becomes a network.
#pragma once

#include <optional>
#include <string>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/compile.h"
#include "core/job/job.h"

namespace conductus::power {

using Brightness = lights::Pace; ///< of a look's style over time
enum class Loudness { hum, peak, silent };

struct State {
    job::Look look;
    std::optional<job::Effect> effect;
    Brightness brightness = Brightness::brightest;
    Loudness loudness = Loudness::hum;
    double charge = 1;
    double share = 1;               ///< of an even brightness
    int spread_frame = 0;           ///< of a spread
    double seconds = 0;             ///< of an instant: since look or effect began
    std::optional<double> bands_at; ///< where bands are brightest, s; empty: it is looked for
    std::uint64_t seed = 1;         ///< of its film
    circuit::BoardMode board = circuit::BoardMode::active;
    /// Of the presets that show the look the one whose font draws most; else that of the use.
    bool loudest_font = false;
    bool killed = false;
    bool plugged = false; ///< a plug is in the jacks: they are open, kill switches are not
    std::optional<double> shown_charge; ///< by lights that show the charge; empty: `charge`
    std::shared_ptr<const lights::Chains> chains; ///< of the job; null: they are looked up
    std::shared_ptr<const job::Wiring> wiring;    ///< the same
    std::shared_ptr<const hilt::Runs> runs;       ///< of the job; null: they are worked out
};

/// Brightest is a moment: lights on pads are on, in whatever share of the time they are, and bands
/// stand where they draw most. Else lights on pads count as they are on average.

/// A look at its style's mean everywhere: the one state that stands for it where one must.
State mean_state(const job::Look& look, double charge = 1);

/// No blade is lit and nothing is set to show anything: idle or in deep sleep, silent.
State dark_state(circuit::BoardMode board, bool killed, double charge);

/// No blade is lit, silent; what the job sets lights to at rest, in its use's preset, they show.
/// Charging, a plug is in the jacks and the board sleeps, if it has a supply at all.
State rest_state(const job::Job& job, job::Rest rest, double charge);

/// The state of that name: "stored" or "asleep" (deep sleep), "killed" (kill open), "idle",
/// "blade out", "charging", "worst" (of all looks and effects, at a sound peak, what draws most),
/// or a preset's, look's or effect's own name. An effect is over look `look`, or the use's, as the
/// first preset has it which shows that look. Empty: look `look`. Error: none of these.
Result<State> state_named(const job::Job& job, const catalogue::Catalogue& parts,
                          const std::string& name, const std::string& look, double charge);

/// That state with what follows from the job alone filled in: for where many of it are compiled.
State looked_up(const job::Job& job, const catalogue::Catalogue& parts, State state);
/// The same from a state in which it is filled in.
State as_known(State state, const State& known);

/// Compiles the job in that state, its cells rested at the use's temperature.
Result<circuit::Network> network_of(const job::Job& job, const catalogue::Catalogue& parts,
                                    const State& state);

/// Whether a light shows how far the cell is charged.
bool shows_charge(const State& state);

/// The look of that name, or with an empty name the job's first. Error: no such look, no looks.
Result<job::Look> look_named(const job::Job& job, const std::string& name);

} // namespace conductus::power
