// SPDX-License-Identifier: GPL-3.0-or-later
// What the rules of several families need.
#pragma once

#include <algorithm>
#include <string>
#include <utility>
#include <vector>

#include "core/catalogue/kinds.h"
#include "core/findings/facts.h"
#include "core/harness/mend_wires.h"

namespace conductus::findings {

/// A finding without anything to mend it.
inline Finding raise(const char* id, Severity severity, Station station,
                     std::vector<std::string> where, Message text, Message detail,
                     std::vector<Evidence> evidence) {
    return {.id = id,
            .severity = severity,
            .station = station,
            .where = std::move(where),
            .text = std::move(text),
            .detail = std::move(detail),
            .evidence = std::move(evidence),
            .fix = {}};
}

inline Finding raise_at_hilt(const char* id, Severity severity, std::vector<std::string> where,
                             Message text, Message detail, std::vector<Evidence> evidence) {
    return raise(id, severity, Station::hilt, std::move(where), std::move(text), std::move(detail),
                 std::move(evidence));
}

inline void propose(Finding& finding, std::vector<harness::WireMend> mends) {
    for (harness::WireMend& mend : mends)
        finding.proposed.push_back({std::move(mend.text), std::move(mend.edit)});
}

/// The parts of kind T, in the order of the job.
template <class T>
std::vector<const job::Part*> parts_of(const Facts& f) {
    std::vector<const job::Part*> all;
    for (const job::Part& part : f.job->parts)
        if (f.parts->find_as<T>(part.type)) all.push_back(&part);
    return all;
}

/// A kill, or a jack with a contact: it opens what passes through it.
inline bool opens(const Facts& f, const job::Part& part) {
    const auto passes = catalogue::passes(f.parts->find(part.type)->figures);
    return std::any_of(passes.begin(), passes.end(), [](const catalogue::Pass& pass) {
        return pass.how == catalogue::Pass::How::switched;
    });
}

} // namespace conductus::findings
