// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choice_candidates.h"

#include <algorithm>

#include "core/circuit/solver.h"
#include "core/power/luminance.h"
#include "core/power/state.h"

namespace conductus::plan {

using catalogue::Catalogue;
using job::Job;

double price_of(const Catalogue& parts, const std::string& id) {
    const auto* type = parts.find(id);
    return type ? type->price : 0;
}

double mass_of(const Catalogue& parts, const std::string& id) {
    const auto* type = parts.find(id);
    return type ? type->mass.value() : 0;
}

Millimetre tightest_of_the_rest(const Plan& plan) {
    Millimetre least(INFINITY);
    for (const hilt::Clearance& c : plan.fit.clearances) {
        const job::Part* part = job::find_ref(plan.job->parts, c.ref);
        if (!part) continue;
        const auto& f = plan.parts->find(part->type)->figures;
        if (std::holds_alternative<catalogue::Cell>(f) ||
            std::holds_alternative<catalogue::Speaker>(f) ||
            std::holds_alternative<catalogue::Kill>(f))
            continue;
        least = std::min(least, c.spare);
    }
    return least;
}

double led_light(const Job& job, const Catalogue& parts) {
    const auto look = power::look_named(job, job.use.look);
    if (!look) return 0;
    const auto network = power::network_of(job, parts, power::State{*look});
    if (!network) return 0;
    const auto point = circuit::solve(*network);
    if (!point) return 0;
    double light = 0;
    auto add = [&](const std::string& ref, const std::vector<catalogue::Die>& dies, int series,
                   int rows) {
        std::size_t die = 0; // as many on a part as it has dies, or of one kind all
        for (std::size_t i = 0; i < network->diodes.size(); ++i) {
            if (network->diodes[i].ref != ref) continue;
            for (const double y : power::die_light(dies[std::min(die++, dies.size() - 1)],
                                                   point->diode_amps[i], rows))
                light += series * y;
        }
    };
    for (const job::Blade& blade : job.blades) {
        for (const job::LedString& string : blade.strings) {
            const auto* type = parts.find_as<catalogue::SegmentedString>(string.type);
            add(string.ref, {type->die}, type->series, type->parallel);
        }
        if (const job::Part* part = job::find_ref(job.parts, blade.connector))
            if (const auto* led = parts.find_as<catalogue::Led>(part->type))
                add(part->ref, led->dies, 1, 1);
    }
    return light;
}

} // namespace conductus::plan
