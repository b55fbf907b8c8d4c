// SPDX-License-Identifier: GPL-3.0-or-later
// Copies of the book: made by themselves, dated, looked through before they may replace anything,
// and tried before they are gone back to.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"

namespace conductus::shop {

class Book;

/// A copy in the folder BOOK.backups: "0012 2026-11-25.book". Numbers only grow, so that a clock
/// that was set back neither overwrites nor reorders.
struct Backup {
    std::filesystem::path path;
    int number = 0;
    std::string about; ///< the date, or why it was made
};

/// How many copies are kept; the oldest go first, once the newest is there.
inline constexpr std::size_t backups_kept = 20;

/// Oldest first; empty where there are none.
std::vector<Backup> backups_of(const std::filesystem::path& book);

/// The newest copy that is sound, looked for from the newest on.
std::optional<Backup> newest_sound_backup(const std::filesystem::path& book);

/// Looks through the book, and copies it if it changed since the newest copy and has none of this
/// day (ISO date) yet. True if it did. Error: the book is damaged (nothing is copied then, and
/// nothing is forgotten), or the copy can not be written.
Result<bool> back_up_daily(const std::filesystem::path& book, const std::string& day);

/// Copies the book to a file of a person's choice. A file that is there must be an older state of
/// the same book, and is kept in FILE.backups. Errors: the book is damaged; the file is something
/// else, or holds what the book does not have.
Result<void> back_up_to(Book& book, const std::filesystem::path& file);

/// Makes the book what the copy is, after a copy of what it was; between the two nobody else
/// writes. All of the copy is looked through before anything is changed. A damaged or blank book is
/// moved aside, not written over. Errors: `from` is not a sound book; the file at `book` may not be
/// read, or is not a book at all. On an error the book is what it was.
Result<void> restore(const std::filesystem::path& book, const std::filesystem::path& from);

} // namespace conductus::shop
