// SPDX-License-Identifier: GPL-3.0-or-later
// The job document as JSON: docs/job-format.md.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "files/attachment.h"
#include "files/json_text.h"

namespace conductus::files {

/// Newest format read. A job that uses nothing newer is written as an older one.
inline constexpr int job_format_version = 6;

/// Reads and validates. Errors: `name` with line and column or JSON pointer, reason, remedy.
Result<job::Job> parse_job(std::string_view text, const catalogue::Catalogue& parts,
                           const std::string& name);

Result<job::Job> read_job(const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// The document, indented, with a newline at the end. parse_job gives back an equal job.
std::string job_text(const job::Job& job);

/// A job with what its milestones and pictures name.
struct JobFile {
    job::Job job;
    Attachments attachments;
};

/// As parse_job. Also an error: a picture or milestone that the file does not hold, or holds
/// damaged. Ids of milestones are made anew from their documents.
Result<JobFile> parse_job_file(std::string_view text, const catalogue::Catalogue& parts,
                               const std::string& name);
Result<JobFile> read_job_file(const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// The document with "kept" and "pictures" beside the job's own keys. Attachments the job does not
/// name are left out. Error: too large for any importer.
Result<std::string> job_file_text(const JobFile& file, const catalogue::Catalogue& parts);

/// The job without pictures and milestones: complete in itself.
job::Job bare(job::Job job);

/// The document a milestone keeps: the job without its milestones.
std::string kept_text(job::Job job);

/// JSON Schema of the document, draft 2020-12; docs/job-format.schema.json is this.
Json job_schema();

} // namespace conductus::files
