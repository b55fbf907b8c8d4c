// SPDX-License-Identifier: GPL-3.0-or-later
// A rigid carrier slid into the hilt, or a section of the hilt slid over it.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/hilt/body.h"
#include "core/hilt/bore.h"

namespace conductus::hilt {

/// What goes in as one: a carrier with all that rides on it, or a body that rides on none.
struct Rider {
    std::string ref;
    job::End goes_in = job::End::both; ///< the ends it may use
    bool carrier = false;
    job::CarrierKind kind = job::CarrierKind::fixed;
    std::vector<std::size_t> bodies; ///< indices of those in the bore
    Millimetre from, to;
};

/// Carriers first, in the hilt's order, then bodies that ride on none. Empty carriers are left out.
std::vector<Rider> riders(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies);

struct Passing {
    std::string carrier;
    bool ok = true;
    bool from_pommel = true; ///< by which end of its piece of the hilt it goes in
    Millimetre room;         ///< least on the diameter, over the whole way and the place itself
    Millimetre at;           ///< of the narrow place
    Millimetre still_to_go;  ///< how far before its place it has least room
    std::string part;        ///< that binds, or has least room there
    std::string section;
    Message reason;                ///< where it can not go in at all
    Millimetre in_from, in_to;     ///< the piece of the hilt it goes into
    Millimetre from, to;           ///< where it lies, along the axis
    Millimetre width;              ///< diameter that its widest body needs
    Millimetre as_placed;          ///< room where it lies, with the middle of the bore where it is
    Millimetre move_side, move_up; ///< that would give it most room there
    /// From the end of the hilt to its place.
    [[nodiscard]] Millimetre way() const { return from_pommel ? to - in_from : in_to - from; }
    [[nodiscard]] Millimetre by() const { return ok ? Millimetre(0) : -room; }
};

/// The way of a rider by the end that leaves most room. At every depth the carrier may lie where it
/// has most room, as one: its bodies keep their places to each other. Exact: the room is concave
/// in depth between the depths where a body's end meets a change of bore.
Passing passing(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies, const Rider& rider);

/// Room on the diameter with the rider short of its place by `to_go`, in its piece alone.
Millimetre room_at(const job::Hilt& hilt, const std::vector<PlacedBody>& bodies, const Rider& rider,
                   const Passing& way, Millimetre to_go);

} // namespace conductus::hilt
