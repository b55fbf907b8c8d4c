// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/schema.h"

#include <array>
#include <cctype>
#include <fmt/format.h>
#include <set>
#include <sqlite3.h>

#include "files/disk.h"
#include "shop/book.h"

namespace conductus::shop {

const char* const format_1 = R"sql(
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
const char* const format_2 = R"sql(
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

namespace {

// Every row carries the hash of what it says, every state and every job a random name of its own.
constexpr const char* format_3 = R"sql(
CREATE TABLE book (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    identity TEXT NOT NULL,
    changes INTEGER NOT NULL,
    jobs INTEGER NOT NULL,
    states INTEGER NOT NULL,
    attachments INTEGER NOT NULL,
    seal TEXT NOT NULL
) STRICT;
CREATE TABLE change (
    number INTEGER PRIMARY KEY,
    stamp TEXT NOT NULL
) STRICT;
CREATE TABLE job (
    id INTEGER PRIMARY KEY,
    uid TEXT NOT NULL UNIQUE,
    name TEXT NOT NULL UNIQUE,
    current INTEGER NOT NULL,
    states INTEGER NOT NULL,
    kind TEXT NOT NULL,
    purpose TEXT NOT NULL,
    stage TEXT NOT NULL,
    promised TEXT NOT NULL,
    came_back INTEGER NOT NULL,
    seal TEXT NOT NULL
) STRICT;
CREATE TABLE state (
    job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE,
    seq INTEGER NOT NULL,
    stamp TEXT NOT NULL,
    label TEXT NOT NULL,
    at TEXT NOT NULL,
    hash TEXT NOT NULL,
    base INTEGER,
    body BLOB NOT NULL,
    seal TEXT NOT NULL,
    PRIMARY KEY (job, seq)
) STRICT;
CREATE TABLE attachment (
    id TEXT PRIMARY KEY,
    type TEXT NOT NULL,
    bytes BLOB NOT NULL
) STRICT;
CREATE VIRTUAL TABLE words USING fts5(text, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
)sql";

using Tables = std::set<std::string>;

/// The words of a statement, however it is laid out.
std::string in_one_line(const std::string& sql) {
    std::string line;
    for (const char c : sql) {
        if (std::isspace(static_cast<unsigned char>(c))) {
            if (!line.empty() &&
                std::string_view(" (,").find(line.back()) == std::string_view::npos)
                line += ' ';
            continue;
        }
        if ((c == '(' || c == ')' || c == ',') && !line.empty() && line.back() == ' ')
            line.pop_back();
        line += c;
    }
    return line;
}

/// Each entry of the schema as one text. The tables behind the index of words are the index's own,
/// and what they are made of is its business; their names are ours to know.
Tables tables_of(SQLite::Database& db) {
    Tables tables;
    SQLite::Statement q(db, "SELECT type, name, tbl_name, coalesce(sql, '') FROM sqlite_schema");
    while (q.executeStep()) {
        const std::string name = q.getColumn(1).getString();
        const bool behind = q.getColumn(0).getString() == "table" && name.starts_with("words_");
        tables.insert(
            fmt::format("{}|{}|{}|{}", q.getColumn(0).getString(), name, q.getColumn(2).getString(),
                        behind ? std::string() : in_one_line(q.getColumn(3).getString())));
    }
    return tables;
}

const Tables& our_tables(int version) {
    static const auto made = [] {
        std::array<Tables, book_format + 1> all;
        for (int v = 1; v <= book_format; ++v) {
            SQLite::Database db(":memory:", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
            if (v <= 2) db.exec(format_1);
            if (v == 2) db.exec(format_2);
            if (v == 3) db.exec(format_3);
            all[static_cast<std::size_t>(v)] = tables_of(db);
        }
        return all;
    }();
    return made.at(static_cast<std::size_t>(version));
}

/// Steps that one statement may take: far beyond what any of ours needs in the largest book.
constexpr int steps_between = 1'000'000, most_millions = 500;

} // namespace

void harden(SQLite::Database& db) {
    sqlite3* handle = db.getHandle();
    sqlite3_db_config(handle, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
    sqlite3_db_config(handle, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
    sqlite3_db_config(handle, SQLITE_DBCONFIG_ENABLE_TRIGGER, 0, nullptr);
    sqlite3_db_config(handle, SQLITE_DBCONFIG_ENABLE_VIEW, 0, nullptr);
    sqlite3_limit(handle, SQLITE_LIMIT_LENGTH, 256 << 20);
    sqlite3_limit(handle, SQLITE_LIMIT_TRIGGER_DEPTH, 1);
    // Counted anew whenever a statement has ended in between; one that never ends is stopped.
    sqlite3_progress_handler(
        handle, steps_between,
        [](void* data) {
            auto* db_handle = static_cast<sqlite3*>(data);
            thread_local const sqlite3_stmt* last = nullptr;
            thread_local int millions = 0;
            const sqlite3_stmt* busy = nullptr;
            for (sqlite3_stmt* s = sqlite3_next_stmt(db_handle, nullptr); s && !busy;
                 s = sqlite3_next_stmt(db_handle, s))
                if (sqlite3_stmt_busy(s)) busy = s;
            if (busy != last) last = busy, millions = 0;
            return ++millions > most_millions ? 1 : 0;
        },
        handle);
    db.exec("PRAGMA foreign_keys = ON");
    db.exec("PRAGMA cell_size_check = ON");
}

void make_tables(SQLite::Database& db) {
    db.exec(format_3);
    db.exec(fmt::format("PRAGMA application_id = {}", application_id));
    db.exec(fmt::format("PRAGMA user_version = {}", book_format));
}

void drop_tables(SQLite::Database& db, int version) {
    db.exec("PRAGMA defer_foreign_keys = ON");
    if (version >= 2) db.exec("DROP TABLE words; DROP TABLE attachment; DROP TABLE life");
    db.exec("DROP TABLE state; DROP TABLE job");
}

Result<Kind> kind_of(SQLite::Database& db, const std::filesystem::path& path) {
    const std::string where = files::path_text(path);
    const int id = db.execAndGet("PRAGMA application_id").getInt();
    const int version = db.execAndGet("PRAGMA user_version").getInt();
    const Tables tables = tables_of(db);
    if (id == 0 && version == 0 && tables.empty()) return Kind{0, true};
    if (id != application_id)
        return problem(where, "this file is not a shop book",
                       "Open another file; this one is untouched", Cause::foreign);
    if (version > book_format)
        return problem(where,
                       say("this book was written by a newer Conductus (format {}); this "
                           "one reads up to {}",
                           version, book_format),
                       "Update Conductus; the book is untouched", Cause::newer);
    if (version < 1 || tables != our_tables(version)) {
        std::string odd;
        if (version >= 1)
            for (const std::string& entry : tables)
                if (odd.empty() && !our_tables(version).contains(entry)) {
                    const auto name = entry.find('|');
                    odd = entry.substr(0, name) + " '" +
                          shown(entry.substr(name + 1, entry.find('|', name + 1) - name - 1), 40) +
                          "'";
                }
        return problem(where,
                       odd.empty() ? "this file lacks tables that a shop book has"
                                   : say("this file has a {} that no shop book has", odd),
                       "It is not opened, and it is untouched. 'conductus-cli shop BOOK rescue -o "
                       "NEW' takes the jobs out of it",
                       Cause::damaged);
    }
    return Kind{version, false};
}

Problem explained(const SQLite::Exception& e, const std::filesystem::path& path) {
    const std::string where = files::path_text(path);
    switch (e.getErrorCode()) {
    case SQLITE_BUSY:
    case SQLITE_LOCKED:
        return {where, "the shop book is locked by another program",
                "Close that program, or wait until it has finished, and try again", Cause::locked};
    case SQLITE_READONLY:
        if (e.getExtendedErrorCode() == SQLITE_READONLY_DBMOVED)
            return {where, "the shop book was moved or deleted while it was open",
                    "Put it back, or keep the work in another book", Cause::moved};
        [[fallthrough]];
    case SQLITE_PERM:
        return {where, "the shop book is read-only, so nothing can be kept in it",
                "Change its permissions, or work on a copy", Cause::read_only};
    case SQLITE_FULL:
        return {where, "the disk is full, so the last edit is not kept yet",
                "Make room on the disk", Cause::no_room};
    case SQLITE_NOTADB:
        return {where, "this file is not a shop book", "Open another file; this one is untouched",
                Cause::foreign};
    case SQLITE_CORRUPT:
        return {
            where, "the shop book is damaged",
            "Keep the file, and go back to a backup of it or save what is whole: 'conductus-cli "
            "shop BOOK rescue -o NEW'",
            Cause::damaged};
    case SQLITE_CANTOPEN:
        return {where, "the shop book can not be opened",
                "Check that the folder is there, and the permissions of both", Cause::unreadable};
    case SQLITE_IOERR:
        if (e.getExtendedErrorCode() == SQLITE_IOERR_SHORT_READ)
            return {where, "the shop book is cut off", "Keep the file, and go back to a backup",
                    Cause::damaged};
        return {where, "the disk refuses to read or write",
                "Check the disk, and keep a copy of the book on another one", Cause::other};
    case SQLITE_AUTH:
        return {where, "the shop book may not be read", "Check its permissions", Cause::unreadable};
    case SQLITE_INTERRUPT:
        return {where, "a search in the shop book did not end and was stopped",
                "Check the book: 'conductus-cli shop BOOK verify'", Cause::damaged};
    case SQLITE_NOMEM:
    case SQLITE_TOOBIG:
        return {where, "something in the shop book is larger than anything Conductus writes",
                "Check the book: 'conductus-cli shop BOOK verify'", Cause::damaged};
    case SQLITE_CONSTRAINT:
    case SQLITE_MISMATCH:
        return {where, "the shop book contradicts itself",
                "Check the book: 'conductus-cli shop BOOK verify'", Cause::damaged};
    default:
        return {where, fmt::format("the shop book can not be used (error {})", e.getErrorCode()),
                "Check the book: 'conductus-cli shop BOOK verify'", Cause::other};
    }
}

} // namespace conductus::shop
