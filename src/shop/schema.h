// SPDX-License-Identifier: GPL-3.0-or-later
// The tables of a book, format by format; a file that has anything else is not opened.
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>
#include <filesystem>

#include "core/base/problem.h"

namespace conductus::shop {

inline constexpr int application_id = 0x434f4e44; // "COND"

/// What a foreign file may not do to us: no triggers and views, nothing of its own is trusted, and
/// no statement runs for ever.
void harden(SQLite::Database& db);

/// The tables of an empty book of the newest format, without its one row of `book`.
void make_tables(SQLite::Database& db);
/// Takes all tables away.
void drop_tables(SQLite::Database& db, int version);

/// What a database is, told by its own marks and its exact tables.
struct Kind {
    int version = 0;    ///< format of the book
    bool blank = false; ///< a database in which nothing was made yet
};
/// Errors: not a book (Cause::foreign), newer than this program, other tables than ours (damaged).
Result<Kind> kind_of(SQLite::Database& db, const std::filesystem::path& path);

/// SQLite's errors in our words.
Problem explained(const SQLite::Exception& e, const std::filesystem::path& path);

/// Tables as the older formats had them, for tests and for bringing books up to date.
extern const char* const format_1;
extern const char* const format_2;

} // namespace conductus::shop
