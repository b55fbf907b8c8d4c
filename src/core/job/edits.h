// SPDX-License-Identifier: GPL-3.0-or-later
// Named edits: each is a change of one thing, on a copy the caller owns.
#pragma once

#include <functional>
#include <string>

#include "core/job/job.h"

namespace conductus::job {

using Edit = std::function<void(Job&)>;

/// Fits another type to the part; measured values belonged to the old one and go. No such part:
/// nothing.
Edit fit_type(std::string ref, std::string type);

/// Fits another type to every strip of the job.
Edit fit_strips(std::string type);

Edit set_look(std::size_t index, Look look);

/// Moves the boundary after section `index`, with the next section's start.
void move_boundary(Hilt& hilt, std::size_t index, Millimetre to);

/// Adds a section at the emitter end, as long as the last and with its diameters.
void add_section(Hilt& hilt);

/// Takes section `index` out; what lay beyond keeps its length and moves up.
void remove_section(Hilt& hilt, std::size_t index);

} // namespace conductus::job
