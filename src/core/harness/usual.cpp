// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/harness/usual.h"

#include <fmt/format.h>

#include "core/circuit/copper.h"
#include "core/job/lookup.h"

namespace conductus::harness {

std::string usual_colour(const job::Job& job, const catalogue::Catalogue& parts,
                         const job::Wire& wire) {
    auto on_pad = [&](const std::string& terminal) {
        const auto [ref, name] = job::split_terminal(terminal);
        const job::Part* part = job::find_ref(job.parts, ref);
        return part && parts.find_as<catalogue::Board>(part->type) && name.size() > 1 &&
               name[0] == 'l';
    };
    switch (wire.role) {
    case job::Role::supply:
        return "red";
    case job::Role::return_path:
        return on_pad(wire.from) || on_pad(wire.to) ? "white" : "black";
    case job::Role::data:
        return "green";
    case job::Role::button:
        return "blue";
    case job::Role::sound:
        return "yellow";
    }
    return {};
}

Ampere full_white_amps(const catalogue::Catalogue& parts, const std::string& pixel, int count) {
    constexpr double starved = 0.66;
    Ampere each;
    for (const auto& channel : parts.find_as<catalogue::Pixel>(pixel)->channels)
        each += channel.full;
    return each * (starved * count);
}

int gauge_for(Ampere amps) {
    for (int gauge = 30; gauge > 20; gauge -= 2)
        if (circuit::usual_limit(gauge) >= amps) return gauge;
    return 20;
}

} // namespace conductus::harness
