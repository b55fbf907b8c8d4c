// SPDX-License-Identifier: GPL-3.0-or-later
// Spring pins and docking contacts: when they meet, and whether they meet straight.
#pragma once

#include <string>
#include <vector>

#include "core/hilt/fit.h"

namespace conductus::hilt {

/// Contacts that close as a cap is screwed home.
struct LastTurn {
    std::string connector, joint;
    double turns = 0;    ///< of the thread in all
    double meets_at = 0; ///< the turn at which the springs first touch
};

/// A loose carrier that only a ring guides leans on its way to the contacts.
struct Lean {
    std::string carrier, connector, ring;
    Millimetre at;           ///< of the ring
    Millimetre aside;        ///< how far its end can stand off the middle where the contacts are
    Millimetre pitch;        ///< between neighbouring contacts
    bool from_pommel = true; ///< it comes in by the pommel end
};

struct Docking {
    std::vector<LastTurn> turns;
    std::vector<Lean> leans;
};

/// Springs start to touch travel/pitch turns before the thread is home. A ring narrower than the
/// bore on both its sides lets a carrier of its own play lean by play/length of the ring.
Docking docking(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit);

} // namespace conductus::hilt
