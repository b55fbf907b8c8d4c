// SPDX-License-Identifier: GPL-3.0-or-later
// The harness as it was built, beside the plan.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edits.h"

namespace conductus::harness {

struct AsBuilt {
    std::vector<job::Wire> wires;  ///< that still lead somewhere
    std::vector<Message> left_out; ///< "W4: K1 is no longer planned"
};

/// The recorded wires as they can be solved: those on parts that are no longer there are left out.
AsBuilt as_built(const job::Job& job, const catalogue::Catalogue& parts);

/// Plans the harness as it was built, as far as it still leads somewhere. `parts` must outlive it.
job::Edit plan_as_built(const catalogue::Catalogue& parts);

} // namespace conductus::harness
