// SPDX-License-Identifier: GPL-3.0-or-later
// The search that every specimen goes through, and what is said of how well it fits.
#include "core/bench/specimens.h"

#include <algorithm>

namespace conductus::bench {
namespace {

/// Share of what is measured by which a model may miss before the readings contradict it.
constexpr double contradiction = 0.2;

/// The search with readings that scatter alike, or in proportion to what was read, whichever the
/// residuals of each group are likelier with. Without readings to spare: as meters are uncertain.
LeastSquares fitted(const std::vector<Unknown>& unknowns, const Asked& asked) {
    const std::size_t n = asked.sigma.size();
    const int groups = 1 + *std::max_element(asked.group.begin(), asked.group.end());
    std::vector<double> sigma = asked.sigma;
    std::vector<double> alike(static_cast<std::size_t>(groups)), count(alike.size());
    for (std::size_t i = 0; i < n; ++i) {
        const auto g = static_cast<std::size_t>(asked.group[i]);
        alike[g] += asked.sigma[i] * asked.sigma[i], ++count[g];
    }
    for (std::size_t i = 0; i < n; ++i) {
        const auto g = static_cast<std::size_t>(asked.group[i]);
        sigma[i] = std::sqrt(alike[g] / count[g]);
    }
    LeastSquares fit = least_squares(unknowns, asked.residuals, sigma, asked.group);
    if (fit.spare == 0) return least_squares(unknowns, asked.residuals, asked.sigma, asked.group);
    bool other = false;
    for (std::size_t g = 0; g < alike.size(); ++g) {
        if (count[g] < 12) continue;
        double largest = 0;
        for (std::size_t i = 0; i < n; ++i)
            if (asked.group[i] == static_cast<int>(g))
                largest = std::max(largest, std::abs(asked.whole[i]));
        const auto in_proportion = [&](std::size_t i) {
            return std::abs(asked.whole[i]) + 0.01 * largest;
        };
        double flat = 0, proportional = 0, logs = 0;
        for (std::size_t i = 0; i < n; ++i)
            if (asked.group[i] == static_cast<int>(g)) {
                const double r = fit.residuals[i], by = in_proportion(i);
                flat += r * r, proportional += r * r / (by * by), logs += std::log(by);
            }
        // Log-likelihoods with the best scatter of each kind; a little more is asked of the second.
        const double gain = count[g] / 2 * std::log(flat / std::max(proportional, 1e-300)) - logs;
        if (gain < 3) continue;
        other = true;
        for (std::size_t i = 0; i < n; ++i)
            if (asked.group[i] == static_cast<int>(g)) sigma[i] = in_proportion(i);
    }
    return other ? least_squares(unknowns, asked.residuals, sigma, asked.group) : fit;
}

} // namespace

Result<Characterised> solved(Specimen specimen, const Asked& asked, std::vector<double>& values) {
    std::vector<Unknown> unknowns;
    for (const Named& n : asked.unknowns)
        unknowns.push_back(n.unknown);
    const LeastSquares fit = fitted(unknowns, asked);
    Characterised found;
    found.specimen = specimen;
    found.readings = static_cast<int>(asked.sigma.size());
    found.spare = fit.spare;
    values.clear();
    bool any = false;
    for (std::size_t i = 0; i < unknowns.size(); ++i) {
        const Estimate& e = fit.estimates[i];
        values.push_back(e.value);
        if (asked.unknowns[i].known) continue;
        any = any || e.determined;
        found.parameters.push_back({asked.unknowns[i].name, e.value, asked.unknowns[i].unit,
                                    e.determined, e.value - e.half, e.value + e.half});
        if (!e.determined)
            found.notes.push_back(say("{} could not be determined from these readings: that of "
                                      "the class stays",
                                      asked.unknowns[i].name));
    }
    if (!any)
        return problem("", "the readings are too few to determine anything",
                       "Take readings at more loads, further apart");
    if (!fit.settled)
        return problem("", "no model of this kind fits the readings",
                       "Look at units and at what each column holds");
    double sum = 0, share = 0;
    std::size_t worst = 0;
    double worst_by = 0;
    for (std::size_t i = 0; i < fit.residuals.size(); ++i) {
        const double mV = fit.residuals[i] * asked.millivolts[i];
        sum += mV * mV;
        const double relative =
            fit.residuals[i] / std::max(std::abs(asked.whole[i]), 3 * asked.sigma[i]);
        share += relative * relative;
        if (std::abs(relative) > worst_by) worst_by = std::abs(relative), worst = i;
    }
    const auto n = static_cast<double>(fit.residuals.size());
    found.residual_mV = std::sqrt(sum / n);
    share = std::sqrt(share / n);
    if (fit.spare > 0 && share > contradiction)
        return problem("",
                       say("the readings contradict each other: the best model still misses by "
                           "{} % on average, most at {} of them",
                           std::round(share * 100), asked.line[worst] + 1),
                       "Read that one again, or leave it out");
    // One that stands out of the rest by far more than the rest scatters.
    if (fit.spare >= 3)
        for (std::size_t i = 0; i < fit.residuals.size(); ++i) {
            double others = 0;
            int count = 0;
            for (std::size_t k = 0; k < fit.residuals.size(); ++k)
                if (k != i && asked.group[k] == asked.group[i]) {
                    const double r = fit.residuals[k] / asked.sigma[k];
                    others += r * r, ++count;
                }
            if (count < 4) continue;
            const double scatter = std::sqrt(others / count);
            const double by = std::abs(fit.residuals[i] / asked.sigma[i]);
            if (by > 6 * std::max(scatter, 0.3))
                found.notes.push_back(say("reading {} does not agree with the rest: it is {} times "
                                          "as far from the model as they are",
                                          asked.line[i] + 1, std::round(by / scatter)));
        }
    if (fit.spare == 0)
        found.notes.push_back("There are no readings to spare: the intervals are what usual meters "
                              "are uncertain by, and nothing tells whether the readings agree");
    return found;
}

} // namespace conductus::bench
