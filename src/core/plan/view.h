// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/plan/plan.h"

namespace conductus::plan {

/// What a person reads of a solved state. `white_y` as of lights::on_screen; pass 0 to take this
/// state's own foot as the brightest, and get the value used back in it.
View view_of(const job::Job& job, const catalogue::Catalogue& parts, const findings::Solved& solved,
             double charge, double& white_y);

} // namespace conductus::plan
