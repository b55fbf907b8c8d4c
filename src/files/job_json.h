// SPDX-License-Identifier: GPL-3.0-or-later
// The job document as JSON: docs/job-format.md.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "files/json_text.h"

namespace conductus::files {

inline constexpr int job_format_version = 1;

/// Reads and validates. Errors: `name` with line and column or JSON pointer, reason, remedy.
Result<job::Job> parse_job(std::string_view text, const catalogue::Catalogue& parts,
                           const std::string& name);

Result<job::Job> read_job(const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// The document, indented, with a newline at the end. parse_job gives back an equal job.
std::string job_text(const job::Job& job);

/// JSON Schema of the document, draft 2020-12; docs/job-format.schema.json is this.
Json job_schema();

} // namespace conductus::files
