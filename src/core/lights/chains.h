// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs on which data line, in what order: read off the data wires.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "core/job/wiring.h"

namespace conductus::lights {

/// Pixels that stand together: a strip, an accent, the pixels of a lit connector.
struct Group {
    enum class Kind { strip, accent, connector };
    std::string ref;   ///< of the strip or part
    std::string owner; ///< whose pads supply it: a strip's blade, else the part itself
    Kind kind = Kind::strip;
    std::string pixel; ///< id of its class
    int pixels = 1;
    std::string line;    ///< pad it hears, "U1.d1"; empty where no data reaches it
    int first = 0;       ///< number of its first pixel on that line, from 0
    std::string before;  ///< ref of the group whose output it hears; empty: the pad itself
    std::string shifter; ///< ref of a level shifter on the way; empty: none
    Ohm series;          ///< resistors on the way
};

struct Chain {
    std::string pad;
    int longest = 0;                 ///< pixels of its longest path
    std::optional<int> programmed;   ///< as the board is configured
    std::vector<std::size_t> groups; ///< in the order data reaches them
    /// Lights that get the same data by being soldered together.
    [[nodiscard]] bool mirrors() const { return mirrored; }
    bool mirrored = false;
};

struct Chains {
    std::vector<Group> groups; ///< every one of the job: parts, then strips, in the job's order
    std::vector<Chain> chains; ///< of every data pad that something hangs on
    [[nodiscard]] const Group* group(std::string_view ref) const;
    [[nodiscard]] const Chain* chain(std::string_view pad) const;
};

/// Of a valid job. Data goes in at "data" and on at "out"; a connector passes it to its blade, a
/// resistor and a level shifter to their other end. A ring of data wires is followed once.
Chains chains_of(const job::Job& job, const catalogue::Catalogue& parts, const job::Wiring& wiring);
Chains chains_of(const job::Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::lights
