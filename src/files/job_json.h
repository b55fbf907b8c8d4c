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
inline constexpr int job_format_version = 15;

/// Reads and validates. Errors: `name` with line and column or JSON pointer, reason, remedy.
Result<job::Job> parse_job(std::string_view text, const catalogue::Catalogue& parts,
                           const std::string& name);

Result<job::Job> read_job(const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// What a document says, whether or not its parts are known: every field is read and held against
/// its limits, and nothing more is judged.
Result<job::Job> read_document(const Json& document, const std::string& name);
/// The same, and everything judged, as parse_job.
Result<job::Job> read_job(const Json& document, const catalogue::Catalogue& parts,
                          const std::string& name);

/// A document that a book or a milestone keeps. What an earlier Conductus may have left in it and
/// no file may hold is mended: ticks of wires that were renamed under them.
Result<job::Job> read_stored(const Json& document, const catalogue::Catalogue& parts,
                             const std::string& name);
Result<job::Job> parse_stored(std::string_view text, const catalogue::Catalogue& parts,
                              const std::string& name);

/// The document, indented, with a newline at the end. parse_job gives back an equal job.
std::string job_text(const job::Job& job);
Json job_json(const job::Job& job);

/// A job with what its milestones and pictures name, and the own parts it brings.
struct JobFile {
    job::Job job;
    Attachments attachments;
};

/// A job file to work with and not to keep: the job, judged with the own parts that the file
/// brings, which are the only attachments. Its pictures and kept states are not looked at.
Result<JobFile> read_job_to_plan(const std::filesystem::path& path,
                                 const catalogue::Catalogue& parts);

/// As parse_job, with the own parts that the file brings. Also an error: a picture, own part or
/// milestone that the file does not hold, or holds otherwise than its id says.
Result<JobFile> parse_job_file(std::string_view text, const catalogue::Catalogue& parts,
                               const std::string& name);
Result<JobFile> read_job_file(const std::filesystem::path& path, const catalogue::Catalogue& parts);

/// The document with "kept", "pictures" and "own_parts" beside the job's own keys. Attachments the
/// job does not name are left out, own parts excepted. Error: too large for any importer.
Result<std::string> job_file_text(const JobFile& file, const catalogue::Catalogue& parts);

/// The job without pictures and milestones: complete in itself.
job::Job bare(job::Job job);

/// The document a milestone keeps: the job without its milestones.
std::string kept_text(job::Job job);

/// JSON Schema of the document, draft 2020-12; docs/job-format.schema.json is this.
Json job_schema();

} // namespace conductus::files
