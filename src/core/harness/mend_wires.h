// SPDX-License-Identifier: GPL-3.0-or-later
// Edits that may mend wires that are soldered to the wrong place. None is judged here: whoever
// offers one applies it first and looks at what comes of it.
#pragma once

#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edits.h"

namespace conductus::harness {

struct WireMend {
    Message text; ///< "move W3 from P1.minus to P1.plus"
    job::Edit edit;
};

/// Exchanges the wires at two terminals.
WireMend exchange(const std::string& a, const std::string& b);

/// What went to a cell's plus goes to its minus.
WireMend turn_round(const std::string& cell);

/// For each wire, the likeliest first: each of its ends moved to another terminal of the same part
/// that takes such a wire, those that nothing is soldered to before the others; then each wire
/// taken out.
std::vector<WireMend> other_places(const job::Job& job, const catalogue::Catalogue& parts,
                                   const std::vector<std::string>& wires);

/// The end of that wire at `from` goes to `to`.
WireMend move_end(const std::string& wire, const std::string& from, const std::string& to);

WireMend take_out(const std::string& wire);

} // namespace conductus::harness
