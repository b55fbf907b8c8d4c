// SPDX-License-Identifier: GPL-3.0-or-later
// A job as a tree of named values, in the craft's words: what comparing and searching work on.
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

struct Node {
    enum class Kind { value, object, list };
    Kind kind = Kind::value;
    std::string key;     ///< of the file, or what tells an element of a list from the others
    std::string title;   ///< "bore", "section grip"
    std::string shown;   ///< values: with unit, three figures; empty where not set
    std::string exact;   ///< values: the same to the last digit
    bool naming = false; ///< the value is what its element is called by
    std::vector<Node> children;
};

/// Every field of the job. Parts are titled by the catalogue's kinds and names.
Node tree_of(const Job& job, const catalogue::Catalogue& parts);

} // namespace conductus::job
