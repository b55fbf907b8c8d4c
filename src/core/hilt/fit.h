// SPDX-License-Identifier: GPL-3.0-or-later
// What fits where it is, and gets there: docs/models.md, "Fit".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::hilt {

/// The room a fitted part takes: a cell with its protection and button top included.
struct PlacedBody {
    std::string ref;
    catalogue::Body body;
    Millimetre from, to;
    Millimetre off_axis;
    Millimetre height;       ///< across the axis, in the plane of the long section
    Millimetre need;         ///< diameter of bore it needs, chassis wall included
    bool on_chassis = false; ///< rides in with the chassis, so must pass every bore on its way
    bool in_bore = true;     ///< buttons sit in the wall and need no bore
};

/// Where a body has least room.
struct Clearance {
    std::string ref;
    Millimetre spare; ///< on the diameter; negative: it does not fit by that much
    Millimetre at;
    std::string against;     ///< section name, part ref, or "end of the hilt"
    bool on_the_way = false; ///< it would fit its place but does not pass
};

struct Fit {
    std::vector<PlacedBody> bodies;    ///< in the job's order
    std::vector<Clearance> clearances; ///< one a body that is in the bore
    [[nodiscard]] const Clearance* tightest() const;
    [[nodiscard]] const Clearance* of(std::string_view ref) const;
};

/// The body of a part as fitted. The part's type must be known.
PlacedBody place(const job::Part& part, const job::Hilt& hilt, const catalogue::Catalogue& parts);

/// Every part against bore, neighbours and ends. An empty survey gives no clearances.
Fit fit(const job::Job& job, const catalogue::Catalogue& parts);

/// Another type in a part's place, moved along the room between its neighbours if that helps.
struct Trial {
    Millimetre at;
    Clearance clearance;
};
Trial try_type(const job::Job& job, const catalogue::Catalogue& parts, const std::string& ref,
               const std::string& type);

} // namespace conductus::hilt
