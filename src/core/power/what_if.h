// SPDX-License-Identifier: GPL-3.0-or-later
// What a look would gain from another strip, another feed or a cap: each solved, not estimated.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/base/problem.h"
#include "core/job/edits.h"
#include "core/power/state.h"

namespace conductus::power {

struct WhatIf {
    std::string id;                       ///< "white-die", "cap", "both-ends", "wider-strip"
    Message text;                         ///< "feed both ends"
    Ampere mean_before, mean_after;       ///< cell, full charge
    double tip_before = 1, tip_after = 1; ///< luminance, last lit over first, half charge
    double foot_ratio = 1;                ///< luminance of the foot after over before, half charge
    job::Edit edit;
};

/// Those that apply to the look: a white die where it mixes white; the cap at four fifths of what
/// it is; the tip fed as well through 22 AWG beside the strip; the catalogue's next strip of the
/// same pixels with more copper. Errors: as of compiling and solving. None for a job without
/// strips.
Result<std::vector<WhatIf>> what_ifs(const job::Job& job, const catalogue::Catalogue& parts,
                                     const std::string& look);

} // namespace conductus::power
