// SPDX-License-Identifier: GPL-3.0-or-later
// What the plan says of the brief: which wishes are fulfilled, which agreements hold.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/findings/finding.h"
#include "core/job/job.h"

namespace conductus::plan {

struct Plan;

/// Something an agreement can be about: a figure of the plan, or a fact of the job.
struct Measure {
    std::string id;    ///< "first-crackle", "cell"
    std::string label; ///< "clean runtime"
    std::string unit;  ///< empty for words and plain counts
    job::Bound usual = job::Bound::at_least;
    bool words = false;          ///< `word` counts, not `value`
    std::optional<double> value; ///< empty where the plan can not tell; then `reason` says why
    std::string word;            ///< what is compared: a part's type
    std::string shown;           ///< value or word for a person
    Message reason;
};

struct WishState {
    bool done = false;
    bool known = false; ///< told by the plan, not by hand
    std::string by;     ///< "look Beacon", "by hand"
    Message reason;     ///< why it is open
};

struct AgreementState {
    bool agreed = false; ///< has a date
    /// True while the promise is kept; a proposal holds if it would be kept now. False too where
    /// what was promised can no longer be computed.
    bool holds = false;
    Measure now;
    std::string promised; ///< "88 min", "18350 cell, 1100 mAh"; empty where nothing is promised yet
    Message says;         ///< "agreed at least 90 min clean runtime, now 71 min"
};

struct BriefState {
    std::vector<WishState> wishes;          ///< as in the job
    std::vector<AgreementState> agreements; ///< as in the job
    [[nodiscard]] int open_wishes() const;
    [[nodiscard]] int broken() const; ///< agreed, and do not hold
};

/// All measures, with what this plan says of them.
std::vector<Measure> measures(const Plan& plan);

/// From figures and findings; agreements that are broken are not among the findings yet.
BriefState brief_of(const Plan& plan);

/// One finding for each broken agreement; of figures only where the plan is solved.
/// A note of a job that is handed over with wishes that are not fulfilled.
std::vector<findings::Finding> open_wishes(const job::Job& job, const BriefState& state);

std::vector<findings::Finding> broken_agreements(const job::Job& job, const BriefState& state,
                                                 bool solved);

/// A value of a measure as a person reads it: "1 h 28", "2 cells".
std::string measured_text(double value, const std::string& unit);

} // namespace conductus::plan
