// SPDX-License-Identifier: GPL-3.0-or-later
// What the owner wants, and what was agreed.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/quantity.h"

namespace conductus::job {

enum class Occasion { unsaid, shelf, carried, rehearsal, stage, bout };
enum class Swap { unsaid, accepted, refused };
/// What shows that a wish is fulfilled: a word of the installer, a look or part that is there, a
/// finding that is closed, a colour that a look is seen in.
enum class Proof { hand, look, part, finding, colour };
enum class Bargain { must_have, trade_off };
enum class Bound { at_least, at_most, same };

struct WantedBlade {
    Millimetre length, outer;
    bool operator==(const WantedBlade&) const = default;
};

struct Wish {
    std::string text;
    Proof by = Proof::hand;
    std::string target; ///< name of a look, ref or type of a part, id of a finding, a colour's word
    bool done = false;  ///< counts where it is shown by hand
    bool operator==(const Wish&) const = default;
};

/// Measure of an agreement, followed by a look's name: the percent below which its cells are to be
/// changed.
inline const std::string percent_measure = "change-below:";

/// Measure of an agreement about a finding, followed by its id and, after a space, the first thing
/// it names.
inline const std::string finding_measure = "finding:";

/// A must-have or trade-off put to the owner. It names a measure of the plan (core/plan/brief.h)
/// and is agreed once it has a date.
struct Agreement {
    std::string text;
    Bargain kind = Bargain::must_have;
    std::string measure; ///< "first-crackle", "cell"
    Bound bound = Bound::at_least;
    std::optional<double> value;    ///< what was promised, in the measure's unit
    std::string word;               ///< the same for measures that are words: "cell.18350"
    std::string on;                 ///< ISO date; empty: proposed, not agreed
    std::optional<double> that_day; ///< the plan's figure when it was agreed
    bool operator==(const Agreement&) const = default;
};

struct Brief {
    Occasion occasion = Occasion::unsaid;
    std::vector<WantedBlade> blades;
    Swap swap = Swap::unsaid; ///< may cells be changed during the day?
    std::optional<double> budget;
    std::string currency; ///< "EUR"
    std::vector<Wish> wishes;
    std::vector<Agreement> agreements;
    bool operator==(const Brief&) const = default;
};

} // namespace conductus::job
