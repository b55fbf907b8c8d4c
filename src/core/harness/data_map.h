// SPDX-License-Identifier: GPL-3.0-or-later
// What is soldered to which pad against what the board is set to. docs/models.md, "Data map".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edits.h"
#include "core/lights/chains.h"

namespace conductus::harness {

/// Lights on a line, pixels counted from 1 at the pad.
struct Range {
    std::string ref;
    int first = 1, last = 1;
};

/// A data pad: what hangs on it, and what it is set to.
struct DataLine {
    std::string pad;
    Ohm series;                    ///< resistors before its first light
    std::string shifter;           ///< ref of a level shifter before it
    std::vector<Range> ranges;     ///< in the order data reaches them
    int wired = 0;                 ///< pixels of its longest path
    int suits = 0;                 ///< the count that suits all that may be mated
    std::optional<int> configured; ///< pixels it is set to
    bool mirrored = false;
};

/// A button pad and what hangs on it.
struct ButtonLine {
    std::string pad, button; ///< button: ref; empty: none
    std::string use;         ///< as configured; empty: not set
    std::vector<std::string> beside; ///< others that are soldered to the same pad
    /// "S1", or "S1 and S2 in parallel".
    [[nodiscard]] std::string named() const;
};

/// Wiring and configuration say two things. Either can be made to agree with the other.
struct Mismatch {
    std::string id; ///< "config.pad" ...
    std::vector<std::string> where;
    Message text, detail;
    int set = 0, wired = 0;               ///< pixels of a line, buttons of a mode
    std::string solder_text, config_text; ///< what each fix does; empty: there is none
    job::Edit solder, config;
};

struct DataMap {
    std::vector<DataLine> lines; ///< every pad that is wired or set, in the board's order
    std::vector<ButtonLine> buttons;
    int button_mode = 0; ///< as configured; 0: not entered
    int buttons_wired = 0;
    std::vector<Mismatch> mismatches;
};

/// Where nothing is configured yet (no lines, no buttons) nothing can disagree.
DataMap data_map(const job::Job& job, const catalogue::Catalogue& parts, const job::Wiring& wiring,
                 const lights::Chains& chains);

/// The configuration that agrees with the wiring as it is.
job::Edit configure_as_wired(const catalogue::Catalogue& parts);

/// Every wire that ends on `pad` ends on `other` instead.
job::Edit move_pad(std::string pad, std::string other);

} // namespace conductus::harness
