// SPDX-License-Identifier: GPL-3.0-or-later
// A hilt with a hidden fault, and the finder's own way to it.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "core/base/random.h"
#include "core/diagnose/finder.h"

namespace conductus::diagnose {

/// One hidden case: always the same for a job, a level and a seed. Level 1: a fault that is always
/// there. 2: intermittent ones too. 3: two faults.
class Case {
public:
    Case(Finder& finder, int level, unsigned long long seed);

    [[nodiscard]] const std::vector<std::size_t>& faults() const { return faults_; }
    /// What a person sees and hears.
    std::vector<Sight> seen();
    /// What the meter shows there, with its noise and the tolerances of this build. Empty: nothing
    /// can be read there.
    std::optional<double> read(const Measure& measure, bool turned);
    /// That fault is mended. False: it was not there.
    bool mend(std::size_t fault);

private:
    [[nodiscard]] std::vector<const Fault*> left() const;
    Finder& finder_;
    Random noise_;
    std::vector<std::size_t> faults_, left_;
    Draw draw_;
};

/// A supply in place of the cell.
struct LimitedSupply {
    double volts = 4.1, limit = 0.5;
};
/// What is read while that supply feeds the hilt: its volts, or as few as its limit leaves.
std::optional<double> read_on_supply(World& world, const Measure& measure,
                                     const std::vector<const Fault*>& faults, const Draw& draw,
                                     bool turned, LimitedSupply supply);

struct Played {
    std::vector<std::size_t> faults, named; ///< indices of the finder's faults
    std::vector<Reading> readings;
    double minutes = 0;
    bool right = false; ///< every fault was named, and nothing else
};

/// The finder's own policy: the reading that tells most for a minute, until one hypothesis has 0.9;
/// what it names is mended, and what is seen then begins anew. `fresh` has told and read nothing.
Played play(const Finder& fresh, int level, unsigned long long seed);

} // namespace conductus::diagnose
