// SPDX-License-Identifier: GPL-3.0-or-later
// A job built as a choice says.
#pragma once

#include "core/plan/choices.h"

namespace conductus::plan {

/// Type of the first strip of all; empty where there is none.
std::string strip_id(const job::Job& job);

/// Every cell's protection; empty: bare.
void change_protection(job::Job& job, const catalogue::Catalogue& parts, const std::string& id);

/// All but the cell; no variants.
job::Job built(const job::Job& job, const catalogue::Catalogue& parts, const Choice& choice);

} // namespace conductus::plan
