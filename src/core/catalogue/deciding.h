// SPDX-License-Identifier: GPL-3.0-or-later
// The figures that decide between parts of a kind, and finding parts by words and figures.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/catalogue/part_type.h"

namespace conductus::catalogue {

/// A figure that decides: "15 A", "5 pins".
struct Deciding {
    double value = 0;
    std::string unit; ///< as of with_unit(); of things that are counted their word: "pins"
    bool at_least_will_do = false; ///< who asks for less is served as well: a rating
    [[nodiscard]] std::string text() const;
};

/// Of a part, the most telling first.
std::vector<Deciding> deciding_figures(const PartType& type);

/// All of them in one line: "3000 mAh, 15 A, 20 mΩ".
std::string deciding_text(const PartType& type);

/// Whether a part is what these words ask for: "18650 15 A", "5 pins", "fuse". Every word begins a
/// word of its name, its kind or its id; a number with its unit is one of its deciding figures, or
/// less than one of its ratings. No words: every part is.
bool is_asked_for(const PartType& type, std::string_view words);

} // namespace conductus::catalogue
