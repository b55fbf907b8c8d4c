// SPDX-License-Identifier: GPL-3.0-or-later
// Filling the cells again: docs/models.md, "Charging".
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/power/cell_model.h"

namespace conductus::power {

/// Why a charger and the cells of a job do not go together.
struct ChargeFault {
    std::string id; ///< "charge.bare-in-hilt"
    Message text;   ///< "B1 is bare: it must not be charged in the hilt"
    Message mend;
    std::string ref;
    double value = 0, limit = 0;
    std::string unit;
};

struct Charging {
    std::string charger, name; ///< id and name; empty: none is chosen
    bool in_hilt = false;
    Ampere current; ///< what it ends up giving: the charger's, or what the port stands
    Minute constant_current, constant_voltage; ///< of empty cells until full
    bool gives_up = false;                     ///< its timer ends before they are full
    std::vector<ChargeFault> faults;
    [[nodiscard]] Minute minutes() const { return constant_current + constant_voltage; }
};

/// Minutes at constant current, then at 4.20 V a cell until a twentieth of it flows,
/// from that charge. Of one cell, or of a row of like ones.
std::pair<Minute, Minute> charge_minutes(const CellFigures& cell, Ampere current, double from,
                                         Celsius air);

/// Of the job's charger, from empty cells at 20 °C.
Charging charging_of(const job::Job& job, const catalogue::Catalogue& parts);

/// What a cell may be charged with: as catalogued, or half its capacity in an hour.
Ampere charge_limit(const CellFigures& figures, const catalogue::Cell& cell);

} // namespace conductus::power
