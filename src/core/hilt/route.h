// SPDX-License-Identifier: GPL-3.0-or-later
// How wires run in the hilt and how long they are: docs/models.md, "Routes".
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/hilt/body.h"
#include "core/job/job.h"

namespace conductus::hilt {

inline constexpr Millimetre solder_end(5);     ///< stripped, and into the joint
inline constexpr Millimetre service_loop(15);  ///< of a chassis that stays where it is
inline constexpr Millimetre coil_over(15);     ///< of a slide-out chassis, beside its withdrawal
inline constexpr Millimetre off_the_wall(1.5); ///< from the bore to a wire's middle

/// Where a terminal is: along the axis, and across from it.
struct Spot {
    double z = 0, x = 0, y = 0;
    std::string rider; ///< what it goes in with; empty: the hilt itself, as a blade's foot
};

/// A corner of a wire's way, in the plane of the long section.
struct Bend {
    Millimetre at, up; ///< along the axis; from it
};

/// What a wire's length is made of.
struct Route {
    std::string ref;
    Millimetre from, to;   ///< places of its ends along the axis
    bool straight = false; ///< nothing lies between its ends
    Millimetre along;      ///< axis, and from the wall to its ends
    Millimetre around;     ///< round the bore
    Millimetre ends;       ///< stripped and soldered, of every piece
    Millimetre slack;      ///< loop, withdrawal, coil, what turns of a joint take
    Millimetre out;        ///< of that, how far its end moves out with its chassis
    Millimetre twist;      ///< of that, for turns
    Message why;           ///< of the slack: "slides out 118 mm by the pommel end, and a coil"
    std::vector<std::string> docks; ///< refs of those that cut it
    std::vector<Millimetre> pieces; ///< one more than docks
    Degree turn;                    ///< where it runs along the bore
    std::vector<Bend> line;         ///< from end to end, without slack
    [[nodiscard]] Millimetre length() const { return along + around + ends + slack; }
    /// Shorter than that it does not reach, or does not let its chassis out.
    [[nodiscard]] Millimetre least() const { return along + around + ends + out; }
};

class Router {
public:
    Router(const job::Job& job, const catalogue::Catalogue& parts);
    /// Empty: there is no such terminal.
    [[nodiscard]] std::optional<Spot> spot(const std::string& terminal) const;
    /// Of an unknown terminal the ends alone. Loops of the wire count, its measured length does
    /// not.
    [[nodiscard]] Route route(const job::Wire& wire) const;
    /// Refs of the docking boards a wire crosses, as it meets them: connectors between its ends
    /// that no blade sits on, where one end rides on a chassis that docks.
    [[nodiscard]] std::vector<std::string> docks(const job::Wire& wire) const;
    /// Whether both ends of a wire ride on one chassis: then no joint that it reaches through turns
    /// one end against the other.
    [[nodiscard]] bool rides_along(const std::string& from, const std::string& to) const;
    [[nodiscard]] const std::vector<PlacedBody>& bodies() const { return bodies_; }

private:
    [[nodiscard]] double path(const Spot& a, const Spot& b, const std::optional<Degree>& turn,
                              Route& route) const;
    [[nodiscard]] double radius(double from, double to) const;
    /// By how much it grows when the carrier of `end` is out of the hilt.
    [[nodiscard]] double withdrawal(const Spot& end, const Spot& other, Message& way) const;
    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    std::vector<PlacedBody> bodies_;
    std::vector<job::Carrier> carriers_;
    /// By how much turns of the joints between its ends wind a wire of that length up, mm.
    [[nodiscard]] double wound_up(double from, double to, double length) const;
    double mouth_ = 0, seat_ = 0; ///< end of the hilt; where a blade's foot is
    struct Turned {
        double at = 0, turns = 0, radius = 0; ///< mm, radius of the bundle's middle wires
    };
    std::vector<Turned> turned_; ///< threads that wires go through
};

/// By how much a wire of that length gets shorter, wound round others at that radius.
double wound_up(double length, double radius, double turns);

/// Lengths of all wires by ref: measured, or as their routes ask.
using Lengths = std::map<std::string, Millimetre, std::less<>>;

/// A wire across a docking board, and the contacts that are its own there.
struct Rail {
    std::string dock, wire;        ///< refs
    std::vector<std::string> pins; ///< "plus1", "minus2": side by side; empty: none is left for it
};

/// All that follows from routes and that others ask for.
struct Runs {
    Lengths lengths;
    std::vector<Rail> rails; ///< in the job's order of wires, docks as the wire meets them
};

/// Contacts of a docking board are dealt to the wires it cuts: one for each, of its own pole where
/// one is left (plus to supplies, minus to returns, data to the rest); what then is left goes to
/// supplies and returns of its pole in turn, the thickest first. docs/models.md, "Docks".
Runs runs_of(const job::Job& job, const catalogue::Catalogue& parts);
std::vector<Rail> rails_of(const job::Job& job, const catalogue::Catalogue& parts,
                           const Router& router);

} // namespace conductus::hilt
