// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

/// Checks every field against its limits, and what no single field can show: known part types of
/// the right kind, references that are unique and lead somewhere, terminals that exist, sections
/// that join, bores inside walls. `where` of the problem is a JSON pointer into the job. A job that
/// passes can be analysed, and what a file makes of it can be read again. Cause: unknown_part where
/// all that is wrong may be that the catalogue lacks a part type.
Result<void> validate(const Job& job, const catalogue::Catalogue& parts);

/// Why no file could hold the text: too long, not UTF-8, control characters; empty where one can.
std::string refusal_of_text(std::string_view text);

/// The survey alone: joins, order, bore against outer diameter.
Result<void> validate_sections(const std::vector<BoreSection>& sections);

} // namespace conductus::job
