// SPDX-License-Identifier: GPL-3.0-or-later
// Edits that can not be kept in their book yet (it is locked, gone, read-only, the disk is full)
// lie in a job file meanwhile, so that not even a kill loses them: BOOK.unkept/NAME.UID.PID.json,
// or in the user's data folder where that can not be written.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/problem.h"
#include "files/job_json.h"

namespace conductus::shop {

/// Writes the job there, in place of what this process wrote of the same job before. Returns where.
/// What the file may not hold (attachments that are out of reach) is left out of the job.
Result<std::filesystem::path> keep_aside(const std::filesystem::path& book, const std::string& uid,
                                         const files::JobFile& job,
                                         const catalogue::Catalogue& parts);

/// Takes away what this process wrote of that job.
void forget_aside(const std::filesystem::path& book, const std::string& uid);

/// What processes that are no longer there left.
std::vector<std::filesystem::path> left_aside(const std::filesystem::path& book);

} // namespace conductus::shop
