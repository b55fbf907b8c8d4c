// SPDX-License-Identifier: GPL-3.0-or-later
// The hilt as surveyed, and the carriers that ride in it. Places are millimetres from the pommel
// end, angles are degrees clockwise seen from the pommel, 0 at the top.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/quantity.h"

namespace conductus::job {

/// Ends of the hilt that stand open.
enum class End { pommel, emitter, both, neither };
enum class Chassis { fixed, removable, slide_out };
enum class Material { aluminium, brass, steel, plastic };

/// One section of the hilt as the calipers found it; diameters.
struct BoreSection {
    std::string name;
    Millimetre from, to; ///< from the pommel end
    Millimetre bore, outer;
    std::optional<Millimetre> bore_end, outer_end; ///< a taper: the diameters at `to`
    bool operator==(const BoreSection&) const = default;
};

enum class JointKind { thread, push_fit, glued };
enum class Hand { right, left };

/// Where two sections meet and come apart.
struct Joint {
    std::string name;
    Millimetre at;
    JointKind kind = JointKind::thread;
    Hand hand = Hand::right; ///< threads
    Millimetre pitch;        ///< threads
    Millimetre engaged;      ///< length of thread or of the fit
    bool operator==(const Joint&) const = default;
};

enum class Loosen { may, never };
enum class ScrewState { fine, chewed, seized, hidden };

struct Fastener {
    std::string name; ///< "M3 at the ring"
    Millimetre at;
    Degree angle;
    std::string thread; ///< "M3"
    std::string key;    ///< "2 mm hex"
    std::string holds;  ///< ref of a part or carrier, name of a joint, or "blade"
    Loosen loosen = Loosen::may;
    ScrewState state = ScrewState::fine;
    std::string note;
    std::string socket; ///< of one that holds a blade: its side socket; empty: the mouth
    bool operator==(const Fastener&) const = default;
};

enum class OpeningUse { switch_hole, port, vent, window, slot };

/// A hole through the wall.
struct Opening {
    std::string name;
    OpeningUse use = OpeningUse::vent;
    Millimetre at; ///< its middle
    Degree angle;
    Millimetre length; ///< along the axis
    Millimetre width;  ///< around
    std::string part;  ///< ref of what is reached or seen through it; may be empty
    bool operator==(const Opening&) const = default;
};

/// From the mouth inward to `depth`.
struct SocketBore {
    Millimetre depth;
    Millimetre bore;
    bool operator==(const SocketBore&) const = default;
};

/// Where the blade sits, measured from the emitter end inward.
struct Socket {
    Millimetre nominal;            ///< 22.2 or 25.4
    std::vector<SocketBore> bores; ///< a step for every change of diameter
    bool operator==(const Socket&) const = default;
};

/// A bore of a socket that stands to the side of the hilt.
struct SideBore {
    std::string socket; ///< ref of the hilt connector or LED at its bottom
    Millimetre depth;   ///< from the socket's own mouth inward, each deeper than the last
    Millimetre bore;
    bool operator==(const SideBore&) const = default;
};

enum class CarrierKind { fixed, removable, slide_out, cell_bay };

/// What parts ride on: it goes in as one.
struct Carrier {
    std::string ref; ///< "C1"
    CarrierKind kind = CarrierKind::fixed;
    Millimetre wall; ///< around all that rides on it
    End goes_in = End::both;
    bool operator==(const Carrier&) const = default;
};

struct Hilt {
    std::vector<BoreSection> sections; ///< contiguous, from 0 upward
    End opens = End::pommel;           ///< the end parts go in by
    Millimetre clearance;              ///< wanted on the diameter
    Chassis chassis = Chassis::fixed;
    Millimetre chassis_wall; ///< around every body but speaker, button and connector
    Material material = Material::aluminium;
    std::vector<Joint> joints;
    std::vector<Opening> openings;
    std::vector<Fastener> fasteners;
    Socket socket;                    ///< the one at the mouth of the hilt
    std::vector<SideBore> side_bores; ///< of sockets beside it, in one list
    std::vector<Carrier> carriers; ///< none: one chassis carries all but speaker, button, connector
    bool operator==(const Hilt&) const = default;
};

} // namespace conductus::job
