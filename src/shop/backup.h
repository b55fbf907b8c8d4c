// SPDX-License-Identifier: GPL-3.0-or-later
// Copies of the book: made by themselves, dated, and tried before they are gone back to.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"

namespace SQLite {
class Database;
}

namespace conductus::shop {

/// A copy in the folder BOOK.backups: "0012 2026-11-25.book". Numbers only grow, so that a clock
/// that was set back neither overwrites nor reorders.
struct Backup {
    std::filesystem::path path;
    int number = 0;
    std::string about; ///< the date, or why it was made
};

/// How many copies are kept; the oldest go first.
inline constexpr std::size_t backups_kept = 20;

/// Oldest first; empty where there are none.
std::vector<Backup> backups_of(const std::filesystem::path& book);

/// Copies the book if it changed since the newest copy and has none of this day (ISO date) yet.
/// True if it did.
Result<bool> back_up_daily(const std::filesystem::path& book, const std::string& day);

/// Makes the book what the copy is, in one transaction, after a copy of what it was. A damaged book
/// is moved aside, not written over. Errors: `from` is not a sound book; the file at `book` is not
/// a book at all.
Result<void> restore(const std::filesystem::path& book, const std::filesystem::path& from,
                     const catalogue::Catalogue& parts);

/// Copies an older format's book before it is brought up to date.
Result<void> keep_before_migration(SQLite::Database& db, const std::filesystem::path& book,
                                   int version);

} // namespace conductus::shop
