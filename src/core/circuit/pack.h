// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/circuit/network.h"

namespace conductus::circuit {

/// What the cells give together, A: cells side by side add up, cells one behind the other carry the
/// same current once.
double pack_amps(const Network& network, const OperatingPoint& point);

} // namespace conductus::circuit
