// SPDX-License-Identifier: GPL-3.0-or-later
// What can be asked of an analysed job beside its plan, as values: whoever asks compares, queues
// and keeps them. core/plan/answers.h answers them. docs/models.md names each model.
#pragma once

#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "core/diagnose/diagnosis.h"
#include "core/diagnose/practice.h"
#include "core/diagnose/test_plan.h"
#include "core/hilt/arrange.h"
#include "core/plan/choices.h"
#include "core/plan/compare.h"
#include "core/plan/film.h"
#include "core/plan/plan.h"
#include "core/plan/sized_wires.h"
#include "core/plan/start.h"
#include "core/plan/states.h"
#include "core/plan/use_study.h"
#include "core/plan/why.h"
#include "core/power/day_run.h"

namespace conductus::plan {

/// Why is a figure what it is, and what would change it?
struct WhyOf {
    using Answer = Why;
    std::string figure; ///< one of figures_to_ask()
    bool operator==(const WhyOf&) const = default;
};

/// How does a look or an effect run, frame by frame?
struct FilmOf {
    using Answer = Film;
    std::string name; ///< of the effect, or of a look
    std::string look; ///< that the effect comes over
    bool operator==(const FilmOf&) const = default;
};

/// What does the use do to the cells: lived through, stored, charged, and lit without pause at
/// these temperatures?
struct UseLivedThrough {
    using Answer = UseStudy;
    std::vector<Celsius> temperatures;
    bool operator==(const UseLivedThrough&) const = default;
};

/// What does the hilt do at one moment of a recorded day?
struct MomentOf {
    using Answer = View;
    std::shared_ptr<const Result<UseStudy>> study; ///< holds a study
    std::size_t sample = 0;                        ///< index of the day's samples
    bool operator==(const MomentOf&) const = default;
};

/// How long is it clean on many days of the use, each a little different?
struct ManyDays {
    using Answer = power::Percentiles;
    std::shared_ptr<const power::DayLoads> loads;
    std::size_t days = 1000;
    std::uint64_t seed = 1;
    bool operator==(const ManyDays&) const = default;
};

/// What else would fit, and what would each way of building give and cost?
struct WaysToBuild {
    using Answer = Choices;
    bool operator==(const WaysToBuild&) const = default;
};

/// Which gauges keep what the wires lose under a budget, with the least copper?
struct GaugesUnder {
    using Answer = SizedWires;
    Volt budget;
    bool operator==(const GaugesUnder&) const = default;
};

/// In which orders do the parts go into the bore, and with which cells?
struct OrdersInTheBore {
    struct Answer : hilt::Arranged {
        std::vector<std::shared_ptr<const Plan>> drawn; ///< each of the best: job, parts and bodies
    };
    bool operator==(const OrdersInTheBore&) const = default;
};

/// What does the harness as it was built do differently from the planned one?
struct BuiltAgainstPlanned {
    struct Answer {
        bool recorded = false;      ///< that it was built at all
        bool same = false;          ///< as it was planned
        std::vector<Message> lines; ///< what differs, and what was left out
    };
    bool operator==(const BuiltAgainstPlanned&) const = default;
};

/// What would come of another way of building that the job keeps?
struct VariantBuilt {
    struct Answer {
        std::shared_ptr<const Plan> plan;
        Comparison difference; ///< from the job as it stands to that way
    };
    std::size_t variant = 0; ///< index
    bool operator==(const VariantBuilt&) const = default;
};

/// What was changed between two states of a job, and what came of it?
struct Between {
    using Answer = Comparison;
    std::shared_ptr<const job::Job> before, after;
    bool operator==(const Between&) const = default;
};

/// What would each of these ways to begin a job that is still blank come to?
struct StartsTried {
    struct Outcome {
        Start decided;
        std::vector<Explained> figures; ///< the eight; empty where it is refused
        std::optional<findings::Severity> worst;
        Message said; ///< the worst finding, or why it is refused
    };
    using Answer = std::vector<Outcome>;
    std::vector<Start> starts;
    bool operator==(const StartsTried&) const = default;
};

/// What does the hilt draw and show in each of its states?
struct StatesOf {
    using Answer = std::vector<HiltState>;
    bool operator==(const StatesOf&) const = default;
};

/// What follows from each preset?
struct PresetsOf {
    using Answer = std::vector<PresetPlan>;
    bool operator==(const PresetsOf&) const = default;
};

/// What may be wrong with the hilt, what each fault would read, and how a build of it is tried?
struct BenchOf {
    struct Answer {
        std::shared_ptr<const catalogue::Catalogue> parts; ///< that the finder needs
        std::shared_ptr<const diagnose::Finder> finder;    ///< that has told and read nothing
        diagnose::TestPlan tests;
        double path_ohms = 0; ///< between the cell and the board, both ways
        double lit_amps = 0;  ///< out of the cell in the look of the use
    };
    bool operator==(const BenchOf&) const = default;
};

/// What may it be, by all that was told and read?
struct DiagnosisOf {
    using Answer = diagnose::Diagnosis;
    std::shared_ptr<const Result<BenchOf::Answer>> bench; ///< holds one
    job::Bench told;
    bool operator==(const DiagnosisOf&) const = default;
};

/// How does the finder go about a hidden case?
struct CasePlayed {
    using Answer = diagnose::Played;
    std::shared_ptr<const Result<BenchOf::Answer>> bench; ///< holds one
    int level = 1;
    unsigned long long seed = 1;
    bool operator==(const CasePlayed&) const = default;
};

using Question =
    std::variant<StatesOf, PresetsOf, StartsTried, WhyOf, FilmOf, UseLivedThrough, MomentOf,
                 ManyDays, WaysToBuild, GaugesUnder, OrdersInTheBore, BuiltAgainstPlanned,
                 VariantBuilt, Between, BenchOf, DiagnosisOf, CasePlayed>;

template <class Q>
using AnswerPtr = std::shared_ptr<const Result<typename Q::Answer>>;

} // namespace conductus::plan
