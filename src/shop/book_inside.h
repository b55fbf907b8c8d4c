// SPDX-License-Identifier: GPL-3.0-or-later
// What the book's own sources share: the database, and SQLite's errors in words.
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>

#include "shop/book.h"

namespace conductus::shop {

Problem explained(const SQLite::Exception& e, const std::filesystem::path& path);
std::string now_utc();

/// Makes the tables of a new book, or brings an older one up to date, in the caller's transaction.
void make_tables(SQLite::Database& db);
void migrate(SQLite::Database& db, int from);

/// A copy of an open database in a file that is not there yet.
void vacuum_into(SQLite::Database& db, const std::filesystem::path& path);

/// Its file with all bytes on the disk, under its final name.
Result<void> settle(const std::filesystem::path& partial, const std::filesystem::path& path);

struct Book::Inside {
    std::filesystem::path path;
    SQLite::Database db;

    Inside(const std::filesystem::path& p, int flags);

    /// Runs `work` so that no exception leaves.
    template <class T, class Work>
    Result<T> guarded(Work&& work) {
        try {
            return work();
        } catch (const SQLite::Exception& e) {
            return tl::unexpected(explained(e, path));
        }
    }

    /// Error where the job is gone or `expected` is not current.
    Result<void> expect_current(JobId id, std::int64_t expected);
    Result<void> insert_state(JobId id, std::int64_t seq, const std::string& label,
                              const std::string& at, const std::string& document);
    void insert_attachments(const files::Attachments& attachments);
    /// Makes a state current; name, columns and words follow it. Error: its name is taken.
    Result<void> set_current(JobId id, std::int64_t seq);
    [[nodiscard]] bool has_job(const std::string& name);
    Result<JobId> insert_job(const std::string& name);
};

} // namespace conductus::shop
