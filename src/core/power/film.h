// SPDX-License-Identifier: GPL-3.0-or-later
// Looks and effects over time, solved: means and peaks out of frames. docs/models.md, "Looks".
#pragma once

#include <functional>
#include <vector>

#include "core/base/problem.h"
#include "core/power/state.h"

namespace conductus::power {

/// A state that stands for a share of the time.
struct Share {
    State state;
    double of_time = 1;
};

/// A few states whose weighted currents are a look's mean over time: the brightness of styles that
/// move the whole blade by Gauss' rule on their distribution, fire and bands by frames that have
/// the style's mean exactly. Of an effect: a dozen instants through it.
std::vector<Share> shares_of(const State& state);

/// Whether a state has a mean other than its brightest moment: an effect, a style that moves,
/// lights on pads that are on for a share of the time. `brightest`: its network in that moment.
bool moves(const State& state, const circuit::Network& brightest);

struct MeanAndPeak {
    Ampere mean, peak; ///< cell; the peak of these states alone
    /// A through each resistor of the network, in its order, whichever way.
    std::vector<double> resistor_mean, resistor_peak;
};

/// Currents of a look or effect over time. Errors: as of compiling and solving.
Result<MeanAndPeak> shares_amps(const job::Job& job, const catalogue::Catalogue& parts,
                                const State& state);
Result<Ampere> mean_amps(const job::Job& job, const catalogue::Catalogue& parts,
                         const State& state);

/// Is given each frame: seconds since look or effect began, network, solution.
using EachFrame = std::function<void(double, circuit::Network, circuit::OperatingPoint)>;

/// Solves `frames` frames of a state from `start` seconds on, with its seed. Errors as above.
Result<void> roll(const job::Job& job, const catalogue::Catalogue& parts, State state, double start,
                  int frames, double rate, const EachFrame& each);

} // namespace conductus::power
