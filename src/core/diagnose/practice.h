// SPDX-License-Identifier: GPL-3.0-or-later
// A hilt with a hidden fault, and the finder's own way to it.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "core/base/random.h"
#include "core/diagnose/finder.h"
#include "core/job/edit.h"

namespace conductus::diagnose {

/// One hidden case: always the same for a job, a level and a seed. Level 1: a fault that is always
/// there. 2: intermittent ones too. 3: two faults. 4: two that are there only while something is
/// turned, where the hilt has two such.
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
    [[nodiscard]] bool mended() const { return left_.empty(); }
    /// Whether a cell would burn something in that state with what is left.
    bool burns(const std::string& state) { return finder_.world().burns(state, left()); }
    /// What a supply with that limit in the place of the cell shows; else as of read().
    std::optional<double> read_limited(const Measure& measure, bool turned, double amps);

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

/// A hidden case in the hands of a person: what they measure costs minutes, and what would burn
/// something is stopped.
class Exercise {
public:
    /// `fresh` has told and read nothing.
    Exercise(const Finder& fresh, int level, unsigned long long seed);
    Exercise(const Exercise&) = delete;
    Exercise& operator=(const Exercise&) = delete;

    struct Taken {
        Measure measure;
        bool turned = false, limited = false;
        std::optional<double> value; ///< empty: nothing can be read there, or it was stopped
        Message stopped;             ///< why it was stopped; empty: it was not
        double minutes = 0;
        double bits = 0; ///< by which what it may be became clearer
    };
    [[nodiscard]] std::vector<Sight> seen() { return case_.seen(); }
    /// `limited`: a supply that limits its current is in the place of the cell: it costs a minute
    /// more where it was not there before.
    const Taken& measure(const Measure& m, bool turned, bool limited);
    /// Names a fault and mends it, which takes three minutes. False: that was not wrong.
    bool mend(std::size_t fault);

    [[nodiscard]] const std::vector<Taken>& taken() const { return taken_; }
    [[nodiscard]] const std::vector<std::size_t>& named() const { return named_; }
    [[nodiscard]] const std::vector<std::size_t>& hidden() const { return case_.faults(); }
    [[nodiscard]] double minutes() const { return minutes_; }
    [[nodiscard]] bool solved() const { return case_.mended(); }
    /// Every fault was named, nothing else, and nothing was nearly burnt.
    [[nodiscard]] bool right() const;
    Finder& finder() { return hilt_; }
    /// What it may be, by what was seen and read since the latest mend.
    const Finder& mind() const { return mind_; }

private:
    Finder hilt_, fresh_, mind_;
    Case case_;
    std::vector<Taken> taken_;
    std::vector<std::size_t> named_;
    double minutes_ = 0;
    bool wrongly_ = false;
};

/// How a case is gone about.
enum class Policy {
    finder,  ///< the reading that tells most for a minute
    halving, ///< the supply path halved and halved again, then the rest
    habit    ///< from the cell on, in the order in which things are usually read
};

/// A teacher's list: cases by job, level and seed, with a remark.
struct ListedCase {
    std::string job;
    int level = 1;
    unsigned long long seed = 1;
    std::string note;
    bool operator==(const ListedCase&) const = default;
};

/// A case more that was practised on; the latest thousand are kept.
job::Edit keep_practised(job::Practised practised);

struct Played {
    std::vector<std::size_t> faults, named; ///< indices of the finder's faults
    std::vector<Reading> readings;
    double minutes = 0;
    bool right = false; ///< every fault was named, and nothing else
};

/// A policy: readings until one hypothesis has 0.9;
/// what it names is mended, and what is seen then begins anew. `fresh` has told and read nothing.
Played play(const Finder& fresh, int level, unsigned long long seed,
            Policy policy = Policy::finder);

} // namespace conductus::diagnose
