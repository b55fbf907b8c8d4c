// SPDX-License-Identifier: GPL-3.0-or-later
// Everything of a fitted part that can be typed, as the one panel of a part shows it.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/message.h"
#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"

namespace conductus::job {

/// One value of a part, strip, LED string or blade.
struct PartValue {
    std::string at;   ///< its place in the document, as of typed_at()
    Message name;     ///< "starts at"
    std::string unit; ///< that people type there; empty: a word, or the unit of its place
    /// What it may be: ids of the catalogue, refs, or words of the document. Empty: it is typed.
    std::vector<std::string> choices;
    bool may_be_empty = false; ///< nothing there says something: no adapter
    bool is_type = false;      ///< another type goes in as of hilt::replace_part()
    Message otherwise;         ///< what counts where nothing is typed: "20 mΩ of the catalogue"
    std::string pin = {};      ///< of a connector, measured by itself; empty: it is none
};

/// Of whatever has that reference, the most telling first; empty: nothing has it.
std::vector<PartValue> values_of(const Job& job, const catalogue::Catalogue& parts,
                                 std::string_view ref);

/// Keeps a picture with the inspected item about that part; where there is none, with a new one.
/// Refused: it has as many as there may be.
Edit picture_part(std::string ref, Picture picture);

} // namespace conductus::job
