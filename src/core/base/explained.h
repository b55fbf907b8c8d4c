// SPDX-License-Identifier: GPL-3.0-or-later
// A figure that can be asked "why".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"

namespace conductus {

/// One contribution to a figure.
struct Contribution {
    Message label;    ///< "kill switch"
    double value = 0; ///< in `unit`
    std::string unit; ///< "mV"
    std::string ref;  ///< part to jump to, may be empty
    Message source;   ///< "catalogue kill.slide-5a", "measured", "solved"
};

/// A headline number with what it is made of.
struct Explained {
    std::string id;              ///< stable: "peak-current"
    Message label;               ///< "peak, clash flash"
    std::optional<double> value; ///< empty where it can not be computed; then `reason` says why
    std::string unit;
    Message reason;
    Message formula;
    std::vector<Contribution> parts;
    std::optional<double> worst; ///< with the worst set that may be mated, where that is another
    std::string worst_set;       ///< "BL2 in P1"
};

} // namespace conductus
