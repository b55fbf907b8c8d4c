// SPDX-License-Identifier: GPL-3.0-or-later
// Every order of the parts along the bore, and every cell: what goes in, and best where.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/hilt/fit.h"
#include "core/job/edit.h"

namespace conductus::hilt {

struct ArrangedPart {
    std::string ref, type;
    Millimetre at;
};

struct Arrangement {
    std::vector<ArrangedPart> parts; ///< those in the bore, pommel first
    std::string cell;                ///< type of the cell; empty where the job has none
    bool as_it_is = false;           ///< nothing changes
    Millimetre spare_length;         ///< longest gap left along the axis
    Millimetre clearance;            ///< least, on the diameter
    double cavity_ml = 0;
    int cell_steps = -1; ///< to reach the cell; −1: it can not be
};

struct Remedy {
    Message text; ///< "bore ring from 21.6 to 22.4 mm"
    Millimetre at, by;
};

struct Arranged {
    std::vector<Arrangement> best; ///< largest cell first; then access, clearance, cavity
    std::size_t orders = 0;        ///< kinds of arrangement that were found and compared
    std::vector<Remedy> remedies;  ///< where there is none: the smallest change first
};

/// Parts beside each other stay so; connectors and parts behind an opening stay where they are; the
/// rest may stand in any order, each anywhere between. Complete: a set of parts needs least length
/// when each stands as near the pommel as it can, so the least end of every set (2^n of them) tells
/// whether the rest still goes in. Cells of the catalogue are tried in place of the fitted one.
/// At most 14 blocks may move; beyond, those at the emitter end stay.
Arranged arrange(const job::Job& job, const catalogue::Catalogue& parts);

/// The job with its parts so arranged.
job::Job arranged(job::Job job, const Arrangement& arrangement);
/// The same as an edit.
job::Edit arrange_so(Arrangement arrangement);

} // namespace conductus::hilt
