// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

/// Checks what no single field can show: known part types of the right kind, references that are
/// unique and lead somewhere, terminals that exist, sections that join, bores inside walls.
/// `where` of the problem is a JSON pointer into the job. A job that passes can be analysed.
Result<void> validate(const Job& job, const catalogue::Catalogue& parts);

/// The survey alone: joins, order, bore against outer diameter.
Result<void> validate_sections(const std::vector<Section>& sections);

} // namespace conductus::job
