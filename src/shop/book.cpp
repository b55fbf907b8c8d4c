// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/book.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <chrono>
#include <ctime>
#include <fmt/format.h>
#include <sqlite3.h>

#include "files/job_json.h"

namespace conductus::shop {
namespace {

constexpr int application_id = 0x434f4e44; // "COND"
constexpr int book_format = 1;
constexpr int patience_ms = 2000; // for another program to finish its writing

constexpr const char* schema = R"sql(
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
        return {where, "the shop book is damaged", "Keep the file and go back to a copy of it"};
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

} // namespace

struct Book::Inside {
    std::filesystem::path path;
    SQLite::Database db;

    Inside(const std::filesystem::path& p, int flags)
        : path(p), db(p.string(), flags, patience_ms) {}

    /// Runs `work` so that no exception leaves.
    template <class T, class Work>
    Result<T> guarded(Work&& work) {
        try {
            return work();
        } catch (const SQLite::Exception& e) {
            return tl::unexpected(explained(e, path));
        }
    }

    /// The current state's seq, or an error where the job is gone or `expected` is not current.
    Result<void> expect_current(JobId id, std::int64_t expected) {
        SQLite::Statement q(db, "SELECT current FROM job WHERE id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(path.string(), "the job is no longer in the book",
                           "Export it to keep it");
        if (q.getColumn(0).getInt64() != expected)
            return problem(path.string(), "another program changed this job meanwhile",
                           "Open the job again; nothing was overwritten");
        return {};
    }

    void insert_state(JobId id, std::int64_t seq, const job::Job& job, const std::string& label) {
        SQLite::Statement s(db,
                            "INSERT INTO state (job, seq, label, at, document) VALUES (?,?,?,?,?)");
        s.bind(1, id);
        s.bind(2, seq);
        s.bind(3, label);
        s.bind(4, now_utc());
        s.bind(5, files::job_text(job));
        s.exec();
    }

    /// Name and cursor follow the state that is current.
    void set_current(JobId id, std::int64_t seq, const std::string& name) {
        SQLite::Statement s(db, "UPDATE job SET current = ?, name = ? WHERE id = ?");
        s.bind(1, seq);
        s.bind(2, name);
        s.bind(3, id);
        s.exec();
    }
};

Book::Book(std::unique_ptr<Inside> inside) : inside_(std::move(inside)) {}
Book::Book(Book&&) noexcept = default;
Book& Book::operator=(Book&&) noexcept = default;
Book::~Book() = default;

const std::filesystem::path& Book::path() const { return inside_->path; }

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
            // A read-only file opens, and refuses at the first write: ask now.
            if (db.execAndGet("PRAGMA journal_mode = WAL").getString() != "wal")
                return problem(path.string(), "the shop book can not keep a journal here",
                               "Move it to a local disk");
            db.exec("PRAGMA synchronous = FULL");
            SQLite::Transaction start(db, SQLite::TransactionBehavior::IMMEDIATE);
            if (blank) {
                db.exec(schema);
                db.exec(fmt::format("PRAGMA application_id = {}", application_id));
                db.exec(fmt::format("PRAGMA user_version = {}", book_format));
            }
            start.commit();
        }
        return Book(std::move(inside));
    } catch (const SQLite::Exception& e) {
        return tl::unexpected(explained(e, path));
    }
}

Result<std::vector<Entry>> Book::entries() {
    return inside_->guarded<std::vector<Entry>>([&]() -> Result<std::vector<Entry>> {
        std::vector<Entry> list;
        SQLite::Statement q(inside_->db, "SELECT id, name FROM job ORDER BY id");
        while (q.executeStep())
            list.push_back({q.getColumn(0).getInt64(), q.getColumn(1).getString()});
        return list;
    });
}

Result<Opened> Book::load(JobId id, const catalogue::Catalogue& parts) {
    return inside_->guarded<Opened>([&]() -> Result<Opened> {
        SQLite::Statement q(inside_->db, "SELECT s.document, s.seq, j.name FROM job j JOIN state s "
                                         "ON s.job = j.id AND s.seq = j.current WHERE j.id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(inside_->path.string(), "the job is not in the book", "");
        auto job = files::parse_job(q.getColumn(0).getString(), parts, q.getColumn(2).getString());
        if (!job) return tl::unexpected(job.error());
        return Opened{id, std::move(*job), q.getColumn(1).getInt64()};
    });
}

Result<Opened> Book::load(std::string_view name, const catalogue::Catalogue& parts) {
    auto list = entries();
    if (!list) return tl::unexpected(list.error());
    std::string names;
    for (const Entry& e : *list) {
        if (e.name == name) return load(e.id, parts);
        names += (names.empty() ? "" : ", ") + e.name;
    }
    return problem(inside_->path.string(), fmt::format("there is no job named '{}'", name),
                   names.empty() ? "The book is empty" : "There are: " + names);
}

Result<JobId> Book::add(const job::Job& job, const std::string& label) {
    return inside_->guarded<JobId>([&]() -> Result<JobId> {
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        SQLite::Statement taken(inside_->db, "SELECT 1 FROM job WHERE name = ?");
        taken.bind(1, job.name);
        if (taken.executeStep())
            return problem(inside_->path.string(),
                           fmt::format("there is a job named '{}' already", job.name),
                           "Give this one another name");
        SQLite::Statement s(inside_->db, "INSERT INTO job (name, current) VALUES (?, 0)");
        s.bind(1, job.name);
        s.exec();
        const JobId id = inside_->db.getLastInsertRowid();
        inside_->insert_state(id, 0, job, label);
        t.commit();
        return id;
    });
}

Result<std::int64_t> Book::commit(JobId id, std::int64_t seq, const job::Job& job,
                                  const std::string& label) {
    return inside_->guarded<std::int64_t>([&]() -> Result<std::int64_t> {
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        if (auto ok = inside_->expect_current(id, seq); !ok) return tl::unexpected(ok.error());
        SQLite::Statement undone(inside_->db, "DELETE FROM state WHERE job = ? AND seq > ?");
        undone.bind(1, id);
        undone.bind(2, seq);
        undone.exec();
        inside_->insert_state(id, seq + 1, job, label);
        inside_->set_current(id, seq + 1, job.name);
        t.commit();
        return seq + 1;
    });
}

Result<void> Book::move(JobId id, std::int64_t from, std::int64_t to) {
    return inside_->guarded<void>([&]() -> Result<void> {
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        if (auto ok = inside_->expect_current(id, from); !ok) return ok;
        SQLite::Statement q(inside_->db, "SELECT json_extract(document, '$.name') FROM state "
                                         "WHERE job = ? AND seq = ?");
        q.bind(1, id);
        q.bind(2, to);
        if (!q.executeStep())
            return problem(inside_->path.string(), "that state is not in the history", "");
        inside_->set_current(id, to, q.getColumn(0).getString());
        t.commit();
        return {};
    });
}

Result<std::vector<HistoryState>> Book::history(JobId id) {
    return inside_->guarded<std::vector<HistoryState>>([&]() -> Result<std::vector<HistoryState>> {
        std::vector<HistoryState> list;
        SQLite::Statement q(
            inside_->db, "SELECT seq, label, at, document FROM state WHERE job = ? ORDER BY seq");
        q.bind(1, id);
        while (q.executeStep())
            list.push_back({q.getColumn(0).getInt64(), q.getColumn(1).getString(),
                            q.getColumn(2).getString(), q.getColumn(3).getString()});
        return list;
    });
}

Result<void> Book::verify() {
    return inside_->guarded<void>([&]() -> Result<void> {
        const std::string said = inside_->db.execAndGet("PRAGMA integrity_check").getString();
        if (said != "ok")
            return problem(inside_->path.string(), "the shop book is damaged: " + said,
                           "Keep the file and go back to a copy of it");
        return {};
    });
}

} // namespace conductus::shop
