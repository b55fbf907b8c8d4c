// SPDX-License-Identifier: GPL-3.0-or-later
// What is wrong or worth knowing, with evidence, and where computable an edit that mends it.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/message.h"
#include "core/job/edits.h"

namespace conductus::findings {

enum class Severity { stop, warn, note };
constexpr const char* word(Severity s) {
    return s == Severity::stop ? "stop" : s == Severity::warn ? "warn" : "note";
}

/// The station of the work a finding belongs to.
enum class Station { brief, hilt, lights, power, harness, handling, bench, handover };

struct Evidence {
    Message label; ///< "runs at"
    double value = 0;
    std::string unit;
};

struct Fix {
    Message text; ///< "fit a 10 A slide switch"
    job::Edit edit;
};

/// How a finding was answered (core/findings/answered.h).
struct AnswerGiven {
    job::Answer how = job::Answer::accepted;
    std::string why;
    std::string on;    ///< ISO date
    bool back = false; ///< it is worse than it was that day, and counts again
};

struct Finding {
    std::string id; ///< stable: "pins.over-current"
    Severity severity = Severity::note;
    Station station = Station::power;
    std::vector<std::string> where; ///< refs of parts, names of looks
    Message text;                   ///< one line with the numbers
    Message detail;                 ///< what it means, what to do
    std::vector<Evidence> evidence;
    /// Both were applied and judged (plan::offer_fixes); `other` mends it from the other side.
    std::optional<Fix> fix, other;
    /// Edits that may mend it, the likeliest first; nobody has judged them yet.
    std::vector<Fix> proposed;
    /// What is only so because of this one: shown folded under it.
    std::vector<Finding> follows;
    std::optional<AnswerGiven> answer;
    std::string mated; ///< the worst set, where it is only so with that; else empty
};

/// The first finding of that id, among those folded under others as well; null: there is none.
const Finding* finding_of(const std::vector<Finding>& findings, std::string_view id);

} // namespace conductus::findings
