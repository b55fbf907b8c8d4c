// SPDX-License-Identifier: GPL-3.0-or-later
// Books to test with: new ones, and ones as format 1 had them.
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>
#include <filesystem>
#include <stdexcept>
#include <string>
#include <vector>

#include "shop/book.h"
#include "support/fixtures.h"

namespace conductus::test {

inline shop::Book fresh(const std::filesystem::path& path) {
    auto book = shop::Book::open(path, shop::Access::read_write);
    if (!book) throw std::runtime_error(book.error().text());
    return std::move(*book);
}

/// All that a book says of its jobs.
inline std::string everything(shop::Book& book) {
    std::string all;
    const auto entries = book.entries();
    if (!entries) return entries.error().text();
    for (const shop::Entry& e : *entries) {
        const auto whole = book.whole(e.id, parts());
        if (!whole) {
            all += e.name + whole.error().text();
            continue;
        }
        all += e.name + " " + e.kind + e.purpose + e.stage + e.promised + " at " +
               std::to_string(whole->current) + "\n";
        for (const shop::HistoryState& s : whole->states)
            all += s.label + s.at + s.document;
        for (const auto& [id, a] : whole->attachments)
            all += id + a.type + a.bytes;
    }
    return all;
}

/// One job named `name` with these documents as its history, the last current.
inline void make_old_book(const std::filesystem::path& path, const std::string& name,
                          const std::vector<std::string>& documents) {
    SQLite::Database db(path.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    db.exec("PRAGMA journal_mode = WAL");
    db.exec("CREATE TABLE job (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, current INTEGER "
            "NOT NULL) STRICT");
    db.exec("CREATE TABLE state (job INTEGER NOT NULL REFERENCES job(id) ON DELETE CASCADE, seq "
            "INTEGER NOT NULL, label TEXT NOT NULL, at TEXT NOT NULL, document TEXT NOT NULL, "
            "PRIMARY KEY (job, seq)) STRICT");
    db.exec("PRAGMA application_id = 1129270852"); // "COND"
    db.exec("PRAGMA user_version = 1");
    SQLite::Statement job(db, "INSERT INTO job VALUES (1, ?, ?)");
    job.bind(1, name);
    job.bind(2, static_cast<std::int64_t>(documents.size()) - 1);
    job.exec();
    for (std::size_t i = 0; i < documents.size(); ++i) {
        SQLite::Statement state(db, "INSERT INTO state VALUES (1, ?, ?, ?, ?)");
        state.bind(1, static_cast<std::int64_t>(i));
        state.bind(2, "edit " + std::to_string(i));
        state.bind(3, "2026-11-0" + std::to_string(i + 1) + "T10:00:00Z");
        state.bind(4, documents[i]);
        state.exec();
    }
}

} // namespace conductus::test
