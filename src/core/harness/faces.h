// SPDX-License-Identifier: GPL-3.0-or-later
// Faces of connectors: where each contact is, and what would touch what the wrong way round.
// docs/models.md, "Connector faces".
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/hilt/route.h"
#include "core/job/job.h"

namespace conductus::harness {

struct Contact {
    std::string pin;     ///< "plus1"
    double x = 0, y = 0; ///< mm from the middle; of the hilt's face, seen from the blade
};

struct Face {
    enum class Layout {
        rings, ///< pins against rings: any way round is the same
        rows   ///< contacts against contacts: there is one right way
    };
    Layout layout = Layout::rings;
    double radius = 10; ///< of the body, mm
    std::vector<Contact> contacts;
};

/// A connector's own layout follows from its kind: contacts at a fine pitch dock in two rows,
/// spring pins bear on rings, data in the middle, plus inside, minus outside.
Face face_of(const catalogue::PartType& type);

/// The blade's face: what mates with it, mirrored, as one looks into it.
Face mirrored(const Face& face);

/// Two contacts that meet where they should not.
struct Touch {
    std::string hilt, blade; ///< pins
    bool harmful = false;    ///< supply meets what is none
};
/// What the contacts of a docking board carry, by pin.
struct Carried {
    std::string wire;
    job::Role role = job::Role::supply;
};
using Carries = std::map<std::string, Carried, std::less<>>;
/// Empty: no wire crosses it, as of a connector that a blade sits on.
Carries carries_of(const std::vector<hilt::Rail>& rails, const job::Job& job,
                   std::string_view dock);

/// With the mate's face turned half round. Empty: all meet as they should. Contacts carry what
/// their pole says, those of a docking board their wires.
std::vector<Touch> wrong_way(const Face& face, const Carries& carries = {});

} // namespace conductus::harness
