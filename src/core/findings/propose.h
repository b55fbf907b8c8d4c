// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <utility>
#include <vector>

#include "core/findings/finding.h"
#include "core/harness/mend_wires.h"

namespace conductus::findings {

inline void propose(Finding& finding, std::vector<harness::WireMend> mends) {
    for (harness::WireMend& mend : mends)
        finding.proposed.push_back({std::move(mend.text), std::move(mend.edit)});
}

} // namespace conductus::findings
