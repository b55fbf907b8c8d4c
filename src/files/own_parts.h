// SPDX-License-Identifier: GPL-3.0-or-later
// The shop's own parts travel with the jobs that use them: their definitions are attachments of the
// type "part", named by the hash of their text.
#pragma once

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "files/attachment.h"
#include "files/json_text.h"

namespace conductus::files {

/// Ids of all part types that a job names, its variants included.
std::vector<std::string> types_of(const job::Job& job);

/// The definitions of those that are the shop's own, and of what they name in turn.
Attachments own_parts_of(const job::Job& job, const catalogue::Catalogue& parts);

/// The catalogue with the own parts among `attachments` that it lacks. What a definition says that
/// can not be used is left out: a job that needs it can not be judged, and says so.
catalogue::Catalogue with_own_parts(const catalogue::Catalogue& parts,
                                    const Attachments& attachments);
/// The shop's own parts as a book has them.
struct OwnParts {
    Attachments definitions;                   ///< every one there is, of the type "part"
    std::map<std::string, std::string> newest; ///< of the parts on the shelf: content id by part id
};

/// The catalogue that a job is planned with: `parts`, the definitions that the job names, of other
/// own parts the newest, and of those that are on no shelf whichever there is. A part that has
/// been changed since, and was not passed over, is in it as Catalogue::newer() too.
catalogue::Catalogue catalogue_for(const job::Job& job, const catalogue::Catalogue& parts,
                                   const OwnParts& own);

/// What a document says that its job is planned with, whether or not the rest of it is read.
std::vector<job::PlannedWith> planned_with_in(const Json& document);

/// Writes down the definition of each own part that the job uses, as `parts` has it, where none is
/// written down yet; what is no longer used is forgotten.
void name_own_parts(job::Job& job, const catalogue::Catalogue& parts);

/// Whether that would add anything.
bool brings_parts(const catalogue::Catalogue& parts, const Attachments& attachments);

} // namespace conductus::files
