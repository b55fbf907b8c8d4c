// SPDX-License-Identifier: GPL-3.0-or-later
// In which order it goes together, and what has to come off to reach a thing.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/hilt/fit.h"

namespace conductus::hilt {

struct Step {
    Message text;    ///< "Chassis C1 in by the pommel end, to 22 mm"
    Message why;     ///< "the speaker would close its way"
    std::string ref; ///< of what the step is about; may be empty
};

/// How a thing is reached in the finished hilt.
struct Access {
    std::string what; ///< "cell", "card", "data_port", "kill", "blade"
    std::string ref;
    bool possible = true;
    std::vector<Step> steps;       ///< none: it is reached as it is
    std::vector<std::string> keys; ///< each once
};

struct Assembly {
    bool possible = true;
    Message trouble;               ///< what stands in whose way, where there is no order
    std::vector<Step> steps;       ///< together; apart is the reverse
    std::vector<std::string> keys; ///< for all of it
    std::vector<std::string> warnings;
    std::vector<Access> access;
    [[nodiscard]] const Access* to(std::string_view what) const;
};

/// Everything that rides in or sits in the wall, in an order in which nothing bars another's way;
/// then the joints, the screws and the blade. Found by trying every end each may go in by.
Assembly assembly(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit);

} // namespace conductus::hilt
