// SPDX-License-Identifier: GPL-3.0-or-later
// How wires run in the hilt and how long they are: docs/models.md, "Routes".
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/hilt/body.h"
#include "core/job/job.h"

namespace conductus::hilt {

inline constexpr Millimetre solder_end(5);    ///< stripped, and into the joint
inline constexpr Millimetre service_loop(15); ///< of a chassis that stays where it is
inline constexpr Millimetre coil_over(15);    ///< of a slide-out chassis, beside its withdrawal
inline constexpr Millimetre off_the_wall(1.5); ///< from the bore to a wire's middle

/// Where a terminal is: along the axis, and across from it.
struct Spot {
    double z = 0, x = 0, y = 0;
    std::string rider; ///< what it goes in with; empty: the hilt itself, as a blade's foot
};

/// What a wire's length is made of.
struct Route {
    std::string ref;
    Millimetre from, to; ///< places of its ends along the axis
    bool straight = false; ///< nothing lies between its ends
    Millimetre along;      ///< axis, and from the wall to its ends
    Millimetre around;     ///< round the bore
    Millimetre ends;       ///< stripped and soldered, of every piece
    Millimetre slack;      ///< loop, withdrawal, coil
    std::string why;       ///< of the slack: "slides out 118 mm by the pommel end, and a coil"
    std::vector<std::string> docks;   ///< refs of those that cut it
    std::vector<Millimetre> pieces;   ///< one more than docks
    Degree turn;                      ///< where it runs along the bore
    [[nodiscard]] Millimetre length() const { return along + around + ends + slack; }
};

class Router {
public:
    Router(const job::Job& job, const catalogue::Catalogue& parts);
    /// Empty: there is no such terminal.
    [[nodiscard]] std::optional<Spot> spot(const std::string& terminal) const;
    /// Of an unknown terminal the ends alone. Loops of the wire count, its measured length does not.
    [[nodiscard]] Route route(const job::Wire& wire) const;
    [[nodiscard]] const std::vector<PlacedBody>& bodies() const { return bodies_; }

private:
    [[nodiscard]] double path(const Spot& a, const Spot& b, const std::optional<Degree>& turn,
                              Route& route) const;
    [[nodiscard]] double radius(double from, double to) const;
    /// By how much it grows when the carrier of `end` is out of the hilt.
    [[nodiscard]] double withdrawal(const Spot& end, const Spot& other, std::string& way) const;
    const job::Job& job_;
    const catalogue::Catalogue& parts_;
    std::vector<PlacedBody> bodies_;
    std::vector<job::Carrier> carriers_;
    double mouth_ = 0, seat_ = 0; ///< end of the hilt; where a blade's foot is
};

/// Lengths of all wires by ref: measured, or as their routes ask.
using Lengths = std::map<std::string, Millimetre, std::less<>>;
Lengths lengths_of(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::hilt
