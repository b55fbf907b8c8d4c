// SPDX-License-Identifier: GPL-3.0-or-later
// Opening a book: its tables, its formats, SQLite's errors in words.
#include <SQLiteCpp/Backup.h>
#include <SQLiteCpp/SQLiteCpp.h>
#include <cerrno>
#include <chrono>
#include <cstring>
#include <ctime>
#include <fcntl.h>
#include <fmt/format.h>
#include <sqlite3.h>
#include <unistd.h>

#include "shop/backup.h"
#include "shop/book_inside.h"

namespace conductus::shop {
namespace {

constexpr int application_id = 0x434f4e44; // "COND"
constexpr int patience_ms = 2000;          // for another program to finish its writing

constexpr const char* format_1 = R"sql(
CREATE TABLE job (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    current INTEGER NOT NULL
) STRICT;
CREATE TABLE state (
    job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE,
    seq INTEGER NOT NULL,
    label TEXT NOT NULL,
    at TEXT NOT NULL,
    document TEXT NOT NULL,
    PRIMARY KEY (job, seq)
) STRICT;
)sql";

// What the shelf shows and searches without reading documents; what documents name by hash.
constexpr const char* format_2 = R"sql(
ALTER TABLE job ADD COLUMN kind TEXT NOT NULL DEFAULT '';
ALTER TABLE job ADD COLUMN purpose TEXT NOT NULL DEFAULT '';
ALTER TABLE job ADD COLUMN stage TEXT NOT NULL DEFAULT '';
ALTER TABLE job ADD COLUMN promised TEXT NOT NULL DEFAULT '';
ALTER TABLE job ADD COLUMN came_back INTEGER NOT NULL DEFAULT 0;
CREATE TABLE attachment (
    id TEXT PRIMARY KEY,
    type TEXT NOT NULL,
    bytes BLOB NOT NULL
) STRICT;
CREATE TABLE life (changes INTEGER NOT NULL) STRICT;
INSERT INTO life VALUES (0);
CREATE VIRTUAL TABLE words USING fts5(text, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
)sql";

// A job's columns and words, from the document that is current.
constexpr const char* follow_document = R"sql(
UPDATE job SET (kind, purpose, stage, promised, came_back) = (
    SELECT coalesce(json_extract(document, '$.kind'), ''),
           coalesce(json_extract(document, '$.purpose'), ''),
           coalesce(json_extract(document, '$.stage'), ''),
           coalesce(json_extract(document, '$.promised'), ''),
           coalesce((SELECT json_extract(value, '$.mark') = 'came back'
                     FROM json_each(document, '$.milestones')
                     WHERE json_extract(value, '$.mark') IN ('handed over', 'came back')
                     ORDER BY key DESC LIMIT 1), 0)
    FROM state WHERE state.job = job.id AND seq = job.current)
WHERE id = ?1 AND (SELECT json_valid(document) FROM state
                   WHERE state.job = job.id AND seq = job.current);
)sql";
constexpr const char* forget_words = "DELETE FROM words WHERE rowid = ?1";
constexpr const char* learn_words = R"sql(
INSERT INTO words (rowid, text)
    SELECT ?1, coalesce(group_concat(t.value, ' · '), '') FROM state s,
        json_tree(CASE WHEN json_valid(s.document) THEN s.document ELSE '{}' END) t
    WHERE s.job = ?1 AND s.seq = (SELECT current FROM job WHERE id = ?1)
      AND t.type = 'text' AND t.value <> '' AND t.key NOT IN ('kept', 'id', 'format');
)sql";

} // namespace

std::string now_utc() {
    const std::time_t t = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm utc{};
    gmtime_r(&t, &utc);
    char text[32];
    std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%SZ", &utc);
    return text;
}

Problem explained(const SQLite::Exception& e, const std::filesystem::path& path) {
    const std::string where = path.string();
    switch (e.getErrorCode()) {
    case SQLITE_BUSY:
    case SQLITE_LOCKED:
        return {where, "the shop book is locked by another program",
                "Close that program and try again"};
    case SQLITE_READONLY:
    case SQLITE_PERM:
        return {where, "the shop book is read-only, so nothing can be kept in it",
                "Change its permissions, or work on a copy"};
    case SQLITE_FULL:
        return {where, "the disk is full, so the last edit is not kept yet",
                "Make room on the disk"};
    case SQLITE_NOTADB:
        return {where, "this file is not a shop book", "Open another file; this one is untouched"};
    case SQLITE_CORRUPT:
        return {where, "the shop book is damaged", "Keep the file and go back to a backup of it"};
    case SQLITE_CANTOPEN:
        return {where, "the shop book can not be opened",
                "Check that the folder is there and may be written"};
    case SQLITE_IOERR:
        return {where, "the disk refuses to read or write",
                "Check the disk; keep a copy of the book"};
    default:
        return {where, std::string("the shop book refuses: ") + e.what(), ""};
    }
}

void make_tables(SQLite::Database& db) {
    db.exec(format_1);
    db.exec(format_2);
    db.exec(fmt::format("PRAGMA application_id = {}", application_id));
    db.exec(fmt::format("PRAGMA user_version = {}", book_format));
}

void migrate(SQLite::Database& db, int from) {
    if (from < 2) {
        db.exec(format_2);
        std::vector<JobId> ids;
        SQLite::Statement q(db, "SELECT id FROM job");
        while (q.executeStep())
            ids.push_back(q.getColumn(0).getInt64());
        for (const JobId id : ids)
            for (const char* sql : {follow_document, learn_words}) {
                SQLite::Statement s(db, sql);
                s.bind(1, id);
                s.exec();
            }
    }
    db.exec(fmt::format("PRAGMA user_version = {}", book_format));
}

void vacuum_into(SQLite::Database& db, const std::filesystem::path& path) {
    SQLite::Statement s(db, "VACUUM INTO ?");
    s.bind(1, path.string());
    s.exec();
}

Result<void> settle(const std::filesystem::path& partial, const std::filesystem::path& path) {
    const int fd = ::open(partial.c_str(), O_RDONLY | O_CLOEXEC);
    const bool synced = fd >= 0 && ::fsync(fd) == 0;
    if (fd >= 0) ::close(fd);
    if (!synced || std::rename(partial.c_str(), path.c_str()) != 0) {
        const std::string why = std::strerror(errno);
        std::error_code ignored;
        std::filesystem::remove(partial, ignored);
        return problem(path.string(), "can not be written: " + why,
                       "Make room or choose another folder; what was there before is untouched");
    }
    return {};
}

Book::Inside::Inside(const std::filesystem::path& p, int flags)
    : path(p), db(p.string(), flags, patience_ms) {}

Result<void> Book::Inside::set_current(JobId id, std::int64_t seq) {
    SQLite::Statement q(db, "SELECT json_extract(document, '$.name'), (SELECT 1 FROM job j WHERE "
                            "j.id <> ?1 AND j.name = json_extract(document, '$.name')) "
                            "FROM state WHERE job = ?1 AND seq = ?2");
    q.bind(1, id);
    q.bind(2, seq);
    if (!q.executeStep()) return problem(path.string(), "that state is not in the history", "");
    const std::string name = q.getColumn(0).getString();
    if (!q.getColumn(1).isNull())
        return problem(path.string(), fmt::format("there is another job named '{}' already", name),
                       "Give one of them another name");
    SQLite::Statement s(db, "UPDATE job SET current = ?, name = ? WHERE id = ?");
    s.bind(1, seq);
    s.bind(2, name);
    s.bind(3, id);
    s.exec();
    for (const char* sql : {follow_document, forget_words, learn_words}) {
        SQLite::Statement follow(db, sql);
        follow.bind(1, id);
        follow.exec();
    }
    db.exec("UPDATE life SET changes = changes + 1");
    return {};
}

Result<Book> Book::open(const std::filesystem::path& path, Access access) {
    std::error_code error;
    const bool there = std::filesystem::exists(path, error);
    if (access == Access::read_only && !there)
        return problem(path.string(), "there is no shop book here", "Check the name");
    if (std::filesystem::is_directory(path, error))
        return problem(path.string(), "this is a folder, not a shop book", "Name a file in it");
    if (access == Access::read_write && !there && path.has_parent_path())
        std::filesystem::create_directories(path.parent_path(), error);
    try {
        const int flags = access == Access::read_only
                              ? SQLite::OPEN_READONLY
                              : SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE;
        auto inside = std::make_unique<Inside>(path, flags);
        SQLite::Database& db = inside->db;
        db.exec("PRAGMA foreign_keys = ON");
        // A foreign file is read, never believed.
        db.exec("PRAGMA trusted_schema = OFF");
        const int id = db.execAndGet("PRAGMA application_id").getInt();
        const int version = db.execAndGet("PRAGMA user_version").getInt();
        const bool blank = db.execAndGet("SELECT count(*) FROM sqlite_master").getInt() == 0;
        if (id != application_id && !(blank && !there && access == Access::read_write))
            return problem(path.string(), "this file is not a shop book",
                           "Open another file; this one is untouched");
        if (version > book_format)
            return problem(
                path.string(),
                fmt::format("this book was written by a newer Conductus (format {}); this "
                            "one reads up to {}",
                            version, book_format),
                "Update Conductus; the book is untouched");
        if (access == Access::read_write) {
            if (!blank && version < book_format)
                if (auto ok = keep_before_migration(db, path, version); !ok)
                    return tl::unexpected(ok.error());
            // A read-only file opens, and refuses at the first write: ask now.
            if (db.execAndGet("PRAGMA journal_mode = WAL").getString() != "wal")
                return problem(path.string(), "the shop book can not keep a journal here",
                               "Move it to a local disk");
            db.exec("PRAGMA synchronous = FULL");
            SQLite::Transaction start(db, SQLite::TransactionBehavior::IMMEDIATE);
            // Another program may have been first.
            const int now = db.execAndGet("PRAGMA user_version").getInt();
            if (blank && now == 0) make_tables(db);
            if (now > 0 && now < book_format) migrate(db, now);
            start.commit();
        }
        return Book(std::move(inside));
    } catch (const SQLite::Exception& e) {
        return tl::unexpected(explained(e, path));
    }
}

Result<void> Book::overwrite(Book& book, const std::filesystem::path& from) {
    const std::int64_t seen = book.changes().value_or(0);
    {
        auto copied = book.inside_->guarded<void>([&]() -> Result<void> {
            SQLite::Database source(from.string(), SQLite::OPEN_READONLY);
            SQLite::Backup copy(book.inside_->db, source);
            copy.executeStep(-1);
            return {};
        });
        if (!copied) return copied;
    }
    // The copy may be of an older format, and its changes must not look like ones seen before.
    auto again = open(book.path(), Access::read_write);
    if (!again) return tl::unexpected(again.error());
    return again->inside_->guarded<void>([&]() -> Result<void> {
        again->inside_->db.exec(
            fmt::format("UPDATE life SET changes = max(changes, {}) + 1", seen));
        return {};
    });
}

} // namespace conductus::shop
