// SPDX-License-Identifier: GPL-3.0-or-later
// What could stand in for what is fitted, with its room, price, mass and light.
#pragma once

#include <cmath>
#include <string>
#include <vector>

#include "core/hilt/fit.h"
#include "core/job/lookup.h"
#include "core/plan/plan.h"

namespace conductus::plan {

/// A type that could stand in for a fitted one, with the room it would have.
struct Candidate {
    std::string id, adapter;
    Millimetre clearance;
    std::vector<Millimetre> at; ///< of cells, where each would lie
};

/// EUR, and grams; 0 of a type that is none.
double price_of(const catalogue::Catalogue& parts, const std::string& id);
double mass_of(const catalogue::Catalogue& parts, const std::string& id);

/// Types of a kind that fit where the fitted one is, that one first.
template <class T, class Good>
std::vector<Candidate> candidates(const Plan& plan, Good&& good) {
    const auto fitted = job::first_of<T>(*plan.job, *plan.parts);
    if (!fitted) return {{}};
    const hilt::Clearance* now = plan.fit.of(fitted.part->ref);
    const Millimetre room = now ? now->spare : Millimetre(INFINITY);
    std::vector<Candidate> all{{fitted.part->type, {}, room, {}}};
    for (const auto* type : plan.parts->all<T>()) {
        if (type->id == fitted.part->type || !good(std::get<T>(type->figures))) continue;
        const auto trial = hilt::try_type(*plan.job, *plan.parts, fitted.part->ref, type->id);
        if (trial.clearance.spare >= plan.job->hilt.clearance)
            all.push_back({type->id, {}, trial.clearance.spare, {}});
    }
    return all;
}

/// The tightest of what no choice changes.
Millimetre tightest_of_the_rest(const Plan& plan);

} // namespace conductus::plan
