// SPDX-License-Identifier: GPL-3.0-or-later
// All that follows of how a hilt is handled.
#pragma once

#include "core/catalogue/catalogue.h"
#include "core/handling/buttons.h"
#include "core/handling/prove.h"
#include "core/handling/tour.h"

namespace conductus::plan {

struct Handled {
    std::vector<handling::HandButton> buttons; ///< from the emitter on
    std::vector<handling::Conflict> conflicts;
    std::vector<handling::Late> late;
    std::vector<std::size_t> masked; ///< commands that are never understood
    std::vector<handling::Unreached> unreached;
    handling::Tour tour;
};

Handled handled(const job::Job& job, const catalogue::Catalogue& parts);

/// What a command is told with: its trigger, with the buttons by their letters.
std::string told_trigger(const job::Trigger& trigger,
                         const std::vector<handling::HandButton>& buttons);

} // namespace conductus::plan
