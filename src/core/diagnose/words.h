// SPDX-License-Identifier: GPL-3.0-or-later
// Readings, states and mends in words.
#pragma once

#include "core/base/problem.h"
#include "core/diagnose/faults.h"

namespace conductus::diagnose {

/// "W3 from end to end", "P1.plus against BL1.plus, while it is turned".
Message words_of(const job::Job& job, const Measure& measure, bool turned = false);
/// "with the cell out and the kill closed", "lit with Tidewater".
Message state_words(const World& world, const std::string& state);
/// "3.71 V", "open", "117 pixels".
std::string value_words(Quantity what, double value);
/// A value as it is typed: "3.71", "3710 mV", "open", "yes". Error: it is none of that quantity.
Result<double> value_typed(Quantity what, const std::string& typed);
/// How a fault is mended: "Solder W3 again at both ends".
Message mend_words(const Fault& fault);

} // namespace conductus::diagnose
