// SPDX-License-Identifier: GPL-3.0-or-later
// Parts in, out and instead: where a new part goes, and what a replaced one keeps.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/hilt/fit.h"
#include "core/job/edit.h"

namespace conductus::hilt {

/// Where a new part of a type would go.
struct NewPlace {
    Millimetre at;       ///< start of its body
    bool free = true;    ///< with the wanted clearance, and it gets there; or nothing is known yet
    std::string opening; ///< that it would be reached through; empty: none
    Message why;         ///< where it is not free: what is missing
};

/// The free place nearest to where such a part usually is: a speaker at the pommel, a connector at
/// the emitter, a kill before the cell, a board behind it; what sits in the wall at an opening made
/// for it that nothing else has. Where there is none: where it would usually be. An empty survey
/// bars nothing. The type must be known.
NewPlace place_for(const job::Job& job, const catalogue::Catalogue& parts, const std::string& type);

/// Fits another part of a type under the next free reference, there or where place_for() says. A
/// protection or an adapter goes on every cell that it suits; a charger is the one the owner uses;
/// a strip or a string of LEDs comes in a blade of its own, as long as the last one. Refused: a
/// type that is not known; an adapter for cells that are not there. `parts` must outlive it.
job::Edit add_part(std::string type, std::optional<Millimetre> at,
                   const catalogue::Catalogue& parts);

/// A strip of a type more in a blade, as long as those that are in it. Refused: there is no such
/// blade, it has a segmented string, or it is lit from the hilt.
job::Edit add_strip(std::string type, std::string blade, const catalogue::Catalogue& parts);

/// A blade without lights of its own on an LED that lights it from the hilt. Refused: there is no
/// such LED.
job::Edit add_blade_on(std::string led, const catalogue::Catalogue& parts);

/// Another part like that one, beside it; what is measured is its own, and no wire is on it yet. Of
/// a strip one more in its blade, of a blade another one with as many strips, on no connector yet.
/// Refused: there is no such part.
job::Edit duplicate_part(std::string ref, const catalogue::Catalogue& parts);

/// Another type in a part's place: wires stay where the new type has their terminals, and so do the
/// settings that its kind has. It is moved along the room between its neighbours where that is
/// needed.
struct Replacement {
    job::Edit edit;
    std::vector<Message> lost; ///< what it can not keep: "wire W4 ended at K1.in"
};
/// The part and the type must be known.
Replacement replace_part(const job::Job& job, const std::string& ref, const std::string& type,
                         const catalogue::Catalogue& parts);

} // namespace conductus::hilt
