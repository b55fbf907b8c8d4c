// SPDX-License-Identifier: GPL-3.0-or-later
// Everything in a job that has a plus and a minus.
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::findings {

/// What wants a supply between two terminals.
struct Poles {
    std::string ref;
    std::string plus, minus; ///< terminals: "P1.plus"
    std::string word;        ///< "blade", "recharge port"
    bool charges = false;    ///< a recharge port or jack: it feeds the cells, it takes nothing
    bool board = false;
};

/// Of every part and blade. A blade on a connector stands at the connector's terminals; an LED of
/// several dies and a string of segments are listed once for each.
std::vector<Poles> poles_of(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::findings
