// SPDX-License-Identifier: GPL-3.0-or-later
// Which wires a build asks for: docs/models.md, "Harness". Nothing has to be drawn by hand.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/harness/usual.h"
#include "core/job/edits.h"
#include "core/job/wiring.h"

namespace conductus::harness {

/// A connection that follows from what is fitted and is not there.
struct Missing {
    std::string from, to; ///< as it would be wired
    job::Role role = job::Role::supply;
    int gauge = 26;
    Message why; ///< "the board has no supply"
};

/// In the order they would be wired: supply, returns, lights, data, buttons, sound, charging. Parts
/// that nothing is soldered to yet take the place they are made for: fuse and kill before the
/// board, a regulator before what wants its volts, driver or resistor of about the right value at
/// an LED, level shifter and resistor at the foot of a data line.
std::vector<Missing> missing_wires(const job::Job& job, const catalogue::Catalogue& parts);

/// Adds them, or those of a part alone. Errors have no place here: what can not be wired (no pad is
/// free) is left missing. `parts` must outlive it.
job::Edit wire_missing(const catalogue::Catalogue& parts, std::string of_part = {});

/// A wire that can not be meant.
struct WireConflict {
    std::string id; ///< "harness.wrong-role" ...
    std::vector<std::string> where;
    Message text, detail;
    std::string fix_text; ///< empty: no edit mends it
    job::Edit fix;
};
std::vector<WireConflict> wire_conflicts(const job::Job& job, const catalogue::Catalogue& parts,
                                         const job::Wiring& wiring);
inline std::vector<WireConflict> wire_conflicts(const job::Job& job,
                                                const catalogue::Catalogue& parts) {
    return wire_conflicts(job, parts, job::Wiring(job, parts));
}

} // namespace conductus::harness
