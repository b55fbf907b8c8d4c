// SPDX-License-Identifier: GPL-3.0-or-later
// What fits where it is, and gets there: docs/models.md, "Fit".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/hilt/body.h"
#include "core/hilt/bore.h"
#include "core/hilt/passing.h"

namespace conductus::hilt {

/// Where a body has least room.
struct Clearance {
    std::string ref;
    Millimetre spare; ///< on the diameter; negative: it does not fit by that much
    Millimetre at;
    std::string against;             ///< section name, part ref, or "end of the hilt"
    bool on_the_way = false;         ///< it would fit its place but does not pass
    std::vector<std::string> beside; ///< other bodies the limiting circle touches
};

/// A stretch of the hilt with the same bodies in it and one section round it.
struct Slice {
    Millimetre from, to;
    std::size_t section = 0;
    std::vector<std::string> refs; ///< of the bodies, in the job's order
    Millimetre need;               ///< smallest circle round them with their walls
    Millimetre bore;               ///< the least in it
    double wires_mm2 = 0;          ///< what the wires that run through it fill, packed
    double free_mm2 = 0;           ///< bore less bodies and carrier wall
    [[nodiscard]] Millimetre spare() const { return bore - need; }
};

struct Fit {
    std::vector<PlacedBody> bodies;    ///< in the job's order
    std::vector<Clearance> clearances; ///< one a body that is in the bore
    std::vector<Slice> slices;         ///< pommel to emitter, those with bodies in them
    std::vector<Passing> passes;       ///< one a carrier, then one a body that rides on none
    [[nodiscard]] const Clearance* tightest() const;
    [[nodiscard]] const Clearance* of(std::string_view ref) const;
};

/// Every part against bore, neighbours and ends. An empty survey gives no clearances.
Fit fit(const job::Job& job, const catalogue::Catalogue& parts);

/// Another type in a part's place, moved along the room between its neighbours if that helps.
struct Trial {
    Millimetre at;
    Clearance clearance; ///< the least, in place and on the way
    Millimetre in_place; ///< spare where it lies, neighbours and ends included
    Millimetre on_way;   ///< spare on its way there; infinite where nothing is passed
    Millimetre limit_at; ///< where the least is
    std::string way;     ///< section it has least room in on its way
};
Trial try_type(const job::Job& job, const catalogue::Catalogue& parts, const std::string& ref,
               const std::string& type);

/// Cells of one type in place of all there are.
struct CellTrial {
    std::string type, adapter;  ///< adapter: empty, none
    Trial trial;                ///< of the one that has least room
    std::vector<Millimetre> at; ///< where each would lie, in the job's order
};
/// One after another, each where it has most room beside those that lie there already.
CellTrial try_cells(const job::Job& job, const catalogue::Catalogue& parts, const std::string& type,
                    const std::string& adapter);

} // namespace conductus::hilt
