// SPDX-License-Identifier: GPL-3.0-or-later
// A part moved by hand on the long section: where it snaps to, and the edit that moves it.
#pragma once

#include <string>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"

namespace conductus::hilt {

/// Where a part lies, as a hand moves it.
struct HandPlace {
    Millimetre at;       ///< start of the part
    Millimetre off_axis; ///< up
    Degree turn;         ///< boxes
    bool operator==(const HandPlace&) const = default;
};

HandPlace place_of(const job::Part& part);

/// What it came to lie against.
struct Snap {
    Millimetre at;
    Message to; ///< "the shoulder at 150 mm", "the end of B1"; empty: nothing is near enough
};

/// The place along the axis nearest to the wanted one at which an end of the part's body meets a
/// shoulder of the bore, an end of a neighbour or of a carrier, or its middle the middle of an
/// opening, no further away than `within`. Without any: the wanted one, in tenths of a millimetre.
/// The part must be there, of a known type.
Snap snap_along(const job::Job& job, const catalogue::Catalogue& parts, const std::string& ref,
                Millimetre wanted, Millimetre within);

/// Moves a part. Refused: there is no such part.
job::Edit move_part(std::string ref, HandPlace to);

/// Moves it by so much from where it is, in tenths; never beyond the pommel end.
job::Edit nudge_part(std::string ref, Millimetre along, Millimetre up, Degree turn);

} // namespace conductus::hilt
