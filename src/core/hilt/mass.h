// SPDX-License-Identifier: GPL-3.0-or-later
// Mass and balance point.
#pragma once

#include <vector>

#include "core/hilt/fit.h"
#include "core/hilt/socket.h"

namespace conductus::hilt {

struct Balance {
    Gram mass;
    Millimetre at; ///< from the pommel end
};

struct Masses {
    Gram walls;   ///< of the hilt
    Gram parts;   ///< fitted, protection boards included
    Gram carrier; ///< printed, its wall alone
    Gram wires;
    Gram blades;                                    ///< tube of 2 mm wall, and strips
    Balance all, without_blade, without_cell, bare; ///< bare: without either
};

/// Walls by the material's density, carriers at 1.2 g/cm³, blades as polycarbonate tubes that stand
/// as deep as `sockets` say.
Masses masses(const job::Job& job, const catalogue::Catalogue& parts, const Fit& fit,
              const std::vector<SocketFit>& sockets);

} // namespace conductus::hilt
