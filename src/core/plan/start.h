// SPDX-License-Identifier: GPL-3.0-or-later
// From nothing to a first answer: a whole job made from the few things that are known of a hilt in
// hand.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"

namespace conductus::plan {

/// What is said of a job to begin with. What is left empty is the usual choice; a part that is
/// `later` is fitted by hand some other time.
struct Start {
    static constexpr const char* later = "later";
    std::optional<job::Occasion> occasion;
    std::optional<Millimetre> length, bore; ///< of the hilt; without both it is surveyed later
    std::optional<Millimetre> blade;        ///< its length; 0: there is no blade yet
    std::optional<Millimetre> blade_outer;
    std::optional<int> strips;                                ///< in the blade
    std::optional<int> buttons;                               ///< 0: none yet
    std::string strip, board, cell, speaker, kill, connector; ///< ids of the catalogue
    bool operator==(const Start&) const = default;
};

/// Range of what is typed, and what is chosen from.
inline constexpr double least_hilt_mm = 60, most_hilt_mm = 1500;
inline constexpr double least_bore_mm = 8, most_bore_mm = 80;
inline constexpr double least_blade_mm = 50, most_blade_mm = 2000;
inline constexpr double least_blade_outer_mm = 8, most_blade_outer_mm = 60;
inline constexpr int most_strips = 8, most_buttons = 3;

/// Every choice filled in: what was said, and the usual for the rest. The usual parts follow from
/// what was said: the largest speaker that passes the bore, the cell that a shop reaches for first
/// and that fits, a board that drives the strips, a kill and pins that carry what they draw.
Start decided(Start start, const catalogue::Catalogue& parts);

/// The same with what the owner wants, where nothing else is said: the use, the first blade.
Start with_the_brief(Start start, const job::Brief& brief);

/// What stands in the way of it: ranges, ids that are not known or are of another kind. `where` is
/// the name of the member.
Result<void> check_start(const Start& start, const catalogue::Catalogue& parts);

/// Makes a whole job of one in which nothing is surveyed or fitted: survey, parts in a row, blade,
/// wires, looks and use. Refused: as of check_start(); a job in which something is.
/// `parts` must outlive it.
job::Edit begin_job(Start start, const catalogue::Catalogue& parts);

/// Whether nothing is surveyed or fitted in it, so that it can be begun.
bool is_blank(const job::Job& job);

} // namespace conductus::plan
