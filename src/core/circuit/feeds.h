// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/job/edits.h"

namespace conductus::circuit {

/// Feeds a strip at these places besides its foot, each by two wires of that gauge along it. An
/// empty ref: every strip. No places: the foot alone.
job::Edit feed_at(std::string ref, std::vector<double> places, int gauge = 22);

} // namespace conductus::circuit
