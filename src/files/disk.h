// SPDX-License-Identifier: GPL-3.0-or-later
// Reading files without being hung or fooled by them, and writing files so that neither a crash nor
// a full disk nor a wrong name loses what was there.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>
#include <sys/types.h>

#include "core/base/problem.h"

namespace conductus::files {

/// Largest file any importer reads.
inline constexpr std::uintmax_t largest_file = 64u << 20;

/// Permissions of what the program makes: a shop's jobs are nobody else's business.
inline constexpr mode_t file_mode = 0600, folder_mode = 0700;

/// What a file is, as far as its bytes say.
enum class Content { empty, book, job, ours, pdf, png, jpeg, svg, text, other };

/// For messages: "a shop book", "a job file".
std::string_view word(Content content);

/// By the first bytes, by the format a JSON text names, and whether it is text at all. `ours` is a
/// configuration; other files of the program, as catalogues and histories, are `other`.
Content content_of(std::string_view bytes);

/// The path as a message or a JSON text can show it; bytes that are not UTF-8 become \xNN.
std::string path_text(const std::filesystem::path& path);

/// Reads a whole regular file. Errors: it is not there, it is a folder, pipe or device (which is
/// said at once and never waited for), it may not be read, it is larger than `largest_file`.
Result<std::string> read_text(const std::filesystem::path& path);

/// The bytes as UTF-8 text. UTF-8 with or without a byte order mark and UTF-16 with one are
/// recognised; anything else is refused with line and column.
Result<std::string> as_utf8(std::string bytes, const std::string& name);

/// "jobs.csv, line 3, column 14" for a place in a text.
std::string place_in(std::string_view text, std::size_t byte, const std::string& name);

/// Writes a file that a person asked for: beside its place first, then all of it at once.
/// What is there already is replaced only where it is the same kind of file as `content`, and keeps
/// its permissions; a new one has `file_mode`. A link to such a file stays a link. Refused: a book
/// or its journal, a folder, a device, a pipe, a file of another kind, a read-only file. On an
/// error nothing has changed and nothing is left behind.
Result<void> write_output(const std::filesystem::path& path, std::string_view bytes,
                          Content content);

/// The same for a file of the program's own, in a folder of its own: whatever is there is replaced.
Result<void> write_own(const std::filesystem::path& path, std::string_view bytes);

/// What write_output asks of the place: the file to replace or make, links followed, and the
/// permissions it shall have.
struct Target {
    std::filesystem::path path;
    mode_t mode = file_mode;
    bool there = false;
};
Result<Target> output_target(const std::filesystem::path& path, Content content);

/// Whether SQLite would take a file of that name for the journal of the database beside it.
bool names_a_journal(const std::filesystem::path& path);

/// An empty file of this process beside `path`, for its next content. What dead processes left
/// there of the same kind is removed. The name ends in ".part".
Result<std::filesystem::path> begin_part(const std::filesystem::path& path);

/// Puts a finished part in place, bytes and name on the disk; `replace`: whether what is at `path`
/// may go. On an error the part is removed and `path` is what it was.
Result<void> settle_part(const std::filesystem::path& part, const std::filesystem::path& path,
                         mode_t mode, bool replace);

/// Makes a folder and those above it that are missing, for this user alone.
Result<void> make_folder(const std::filesystem::path& folder);

/// An error of the operating system as a problem with `path`.
tl::unexpected<Problem> system_problem(const std::filesystem::path& path, const char* what,
                                       int error);

} // namespace conductus::files
