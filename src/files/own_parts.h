// SPDX-License-Identifier: GPL-3.0-or-later
// The shop's own parts travel with the jobs that use them: their definitions are attachments of the
// type "part", named by the hash of their text.
#pragma once

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "files/attachment.h"

namespace conductus::files {

/// Ids of all part types that a job names, its variants included.
std::vector<std::string> types_of(const job::Job& job);

/// The definitions of those that are the shop's own, and of what they name in turn.
Attachments own_parts_of(const job::Job& job, const catalogue::Catalogue& parts);

/// The catalogue with the own parts among `attachments` that it lacks. What a definition says that
/// can not be used is left out: a job that needs it can not be judged, and says so.
catalogue::Catalogue with_own_parts(const catalogue::Catalogue& parts,
                                    const Attachments& attachments);
/// Whether that would add anything.
bool brings_parts(const catalogue::Catalogue& parts, const Attachments& attachments);

} // namespace conductus::files
