// SPDX-License-Identifier: GPL-3.0-or-later
// The buttons of a hilt as a hand finds them, and maps of commands to begin with.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::handling {

struct HandButton {
    std::string ref;    ///< of the part
    std::string letter; ///< "A" is nearest to the emitter
    Message place;      ///< "near the emitter"; of one alone "the button"
    bool latching = false;
};

/// Every button that is fitted, from the emitter on.
std::vector<HandButton> hand_buttons(const job::Job& job, const catalogue::Catalogue& parts);

/// Ways to lay commands out: by how long a button is pressed, by which buttons go down one after
/// the other, by how the hilt is moved.
enum class Scheme { presses, chords, motions };

/// States and commands of a scheme for the buttons that are fitted, the effects and presets that
/// there are, the board's sleep and whether it feels the blade; in place of what was there.
/// Refused: no button is fitted.
/// A command more at the end of the map; where there are no states yet, idle and lit come first.
job::Edit add_command();

job::Edit begin_with(Scheme scheme, const catalogue::Catalogue& parts);

} // namespace conductus::handling
