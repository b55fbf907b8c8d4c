// SPDX-License-Identifier: GPL-3.0-or-later
// Renaming things of a job, with everything that names them.
#pragma once

#include <string>
#include <string_view>

#include "core/job/job.h"

namespace conductus::job {

/// The first of stem + 1, stem + 2 ... that no part, blade, strip, string, wire or carrier has.
std::string free_ref(const Job& job, std::string_view stem);

/// Gives the part, blade, strip, string, wire or carrier of that reference another, everywhere: in
/// wires, lines, stretches, looks, the harness as built, the survey, the inspection, the snapshot,
/// the wishes, and in the variants, where the same thing has the same reference.
void rename_ref(Job& job, std::string was, std::string now);

/// The same for things that have names.
void rename_look(Job& job, std::string was, std::string now);
void rename_preset(Job& job, std::string was, std::string now);
/// A preset as it was found; those that come of it follow.
void rename_found(Job& job, std::string was, std::string now);
void rename_effect(Job& job, std::string was, std::string now);
void rename_state(Job& job, std::string was, std::string now);
void rename_stretch(Job& job, std::string was, std::string now);
void rename_joint(Job& job, std::string was, std::string now);

} // namespace conductus::job
