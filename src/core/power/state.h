// SPDX-License-Identifier: GPL-3.0-or-later
// A job at one moment: which look or effect, how charged, how loud. The one place where that
// becomes a network.
#pragma once

#include <optional>
#include <string>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/circuit/network.h"
#include "core/job/job.h"

namespace conductus::power {

enum class Brightness { brightest, mean }; ///< of a look's style over time
enum class Loudness { hum, peak };

struct State {
    job::Look look;
    std::optional<job::Effect> effect;
    Brightness brightness = Brightness::brightest;
    Loudness loudness = Loudness::hum;
    double charge = 1;
};

/// Compiles the job in that state, its cells rested at the use's temperature.
Result<circuit::Network> network_of(const job::Job& job, const catalogue::Catalogue& parts,
                                    const State& state);

/// The look of that name, or with an empty name the job's first. Error: no such look, no looks.
Result<job::Look> look_named(const job::Job& job, const std::string& name);

} // namespace conductus::power
