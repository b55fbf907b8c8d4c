// SPDX-License-Identifier: GPL-3.0-or-later
// Looks and effects over time, solved: means and peaks out of frames. docs/models.md, "Looks".
#pragma once

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

struct MeanAndPeak {
    Ampere mean, peak; ///< cell; the peak of these states alone
};

/// Cell current of a look or effect over time. Errors: as of compiling and solving.
Result<MeanAndPeak> shares_amps(const job::Job& job, const catalogue::Catalogue& parts,
                                const State& state);
Result<Ampere> mean_amps(const job::Job& job, const catalogue::Catalogue& parts,
                         const State& state);

/// Cell current frame by frame.
struct Film {
    double rate = 20;          ///< frames a second
    std::vector<double> amps;  ///< cell
    std::vector<double> board; ///< V at the board; at the cell where there is none
    double mean = 0, peak = 0;
};

/// `state` from its start for so many seconds, with its seed. Errors as above.
Result<Film> film_of(const job::Job& job, const catalogue::Catalogue& parts, State state,
                     double seconds, double rate = 20);

} // namespace conductus::power
