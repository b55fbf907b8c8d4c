// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/quantity.h"
#include "core/catalogue/catalogue.h"
#include "core/findings/facts.h"

namespace conductus::plan {

/// One load: a strip, string, accent, LED, display or lit connector, where it draws most.
struct Load {
    enum class Kind { strip, string, accent, connector, led, display };
    Kind kind = Kind::strip;
    std::string ref;
    std::string what;               ///< the catalogue's name
    std::string owner;              ///< blade of a strip or string; empty else
    int pixels = 0;                 ///< 0: it has none
    std::string line;               ///< data pad; empty: none
    std::string pads;               ///< what switches it: "l1, l2"; "always" where nothing does
    Ampere most;                    ///< of all looks and effects, full cell
    std::string in;                 ///< that look or effect
    Volt across;                    ///< at its pads, there
    std::optional<Celsius> hottest; ///< of all looks held on
};

/// Every load of the job, strips first, as solved; those without a supply draw nothing.
std::vector<Load> loads_of(const findings::Facts& facts);

} // namespace conductus::plan
