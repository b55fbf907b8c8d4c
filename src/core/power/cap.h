// SPDX-License-Identifier: GPL-3.0-or-later
// The brightness cap for a wanted runtime, solved.
#pragma once

#include <string>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edits.h"

namespace conductus::power {

struct CapFor {
    std::string look;
    double now = 1;     ///< the look's cap as it is
    double cap = 1;     ///< the largest cap of the look that runs clean as long as wanted
    double effects = 1; ///< what the effects' caps are multiplied by; 1 where the look suffices
    Minute clean;       ///< with these
    Minute clean_now;
    bool reached = false; ///< false: not even dark; then `clean` is the most there is
    Message in_the_way;   ///< what ends it even so
    job::Edit edit;
};

/// Of the use's look. It alone is dimmed where that suffices, else the effects in the same measure.
/// Errors: as of run_down().
Result<CapFor> cap_for(const job::Job& job, const catalogue::Catalogue& parts, Minute wanted);

} // namespace conductus::power
