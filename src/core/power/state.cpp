// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/power/state.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/job/lookup.h"
#include "core/power/cell_model.h"
#include "core/power/sound.h"

namespace conductus::power {

Result<circuit::Network> network_of(const job::Job& job, const catalogue::Catalogue& parts,
                                    const State& state) {
    circuit::Moment moment;
    const double factor =
        state.brightness == Brightness::mean ? lights::mean_factor(state.look.style) : 1;
    moment.frame = [&](int channels) {
        return state.effect ? lights::frame_of(state.look, *state.effect, channels)
                            : lights::frame_of(state.look, channels, factor);
    };
    for (const job::Part& part : job.parts)
        if (const auto* cell = parts.find_as<catalogue::Cell>(part.type))
            moment.cells.push_back(
                rested(figures_of(part, *cell), state.charge, job.use.temperature));
    const Sound sound = sound_of(job, parts);
    moment.sound = state.loudness == Loudness::peak ? sound.at_peak : sound.mean;
    return circuit::compile(job, parts, moment);
}

Result<job::Look> look_named(const job::Job& job, const std::string& name) {
    if (job.looks.empty())
        return problem("/looks", "the job has no look", "Add one to see what the blade draws");
    if (name.empty()) return job.looks.front();
    if (const auto* look = job::find_name(job.looks, name)) return *look;
    std::vector<std::string> names;
    for (const auto& look : job.looks)
        names.push_back(look.name);
    return problem("/looks", fmt::format("there is no look named '{}'", name),
                   fmt::format("There are: {}", fmt::join(names, ", ")));
}

} // namespace conductus::power
