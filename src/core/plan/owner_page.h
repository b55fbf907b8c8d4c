// SPDX-License-Identifier: GPL-3.0-or-later
// What is put to the owner for agreement, ready to be painted or written.
#pragma once

#include <string>
#include <vector>

#include "core/plan/plan.h"

namespace conductus::plan {

struct OwnerLine {
    enum class Mark { none, holds, broken, open };
    Mark mark = Mark::none;
    std::string text;   ///< "Clean for the whole of a performance"
    std::string figure; ///< "clean runtime agreed at least 90 min, now 71 min"
};

struct OwnerSection {
    std::string heading;
    std::vector<OwnerLine> lines;
};

struct OwnerPage {
    std::string title;   ///< "Heron"
    std::string subject; ///< "conversion for The Lantern Wardens, promised 2027-03-12"
    std::vector<OwnerSection> sections; ///< none is empty
    std::string cautions;
};

/// Use and wishes, what will be done, must-haves and trade-offs with their figures, what is kept
/// and replaced, cautions, and a place to agree.
OwnerPage owner_page(const Plan& plan);

/// The page as plain text, wrapped at 78 columns.
std::string owner_text(const OwnerPage& page);

} // namespace conductus::plan
