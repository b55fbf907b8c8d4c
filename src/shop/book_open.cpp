// SPDX-License-Identifier: GPL-3.0-or-later
// Opening a book: making it, bringing an older one up to date, telling it from everything else.
#include <cerrno>
#include <chrono>
#include <ctime>
#include <fcntl.h>
#include <fmt/format.h>
#include <sqlite3.h>
#include <sys/file.h>
#include <unistd.h>

#include "files/disk.h"
#include "shop/backup.h"
#include "shop/book_inside.h"
#include "shop/seal.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;

constexpr int patience = 10'000; // ms, for another program to finish its writing

std::unique_ptr<SQLite::Database> connected(const fs::path& file, int flags, int patience_ms) {
    auto db = std::make_unique<SQLite::Database>(file.string(), flags, patience_ms);
    harden(*db);
    if ((flags & SQLite::OPEN_READWRITE) != 0) {
        // No file lies beside the book between two writes: a synchronising program that replaces it
        // finds it whole, and what replaces it finds no journal of another book.
        if (db->execAndGet("PRAGMA journal_mode = DELETE").getString() != "delete")
            throw SQLite::Exception("journal", SQLITE_BUSY);
        db->exec("PRAGMA synchronous = EXTRA");
        db->exec("PRAGMA secure_delete = ON");
    }
    return db;
}

bool has_backups(const fs::path& path) { return !backups_of(path).empty(); }

/// Whether nothing was made in that file yet: it is empty, or an interrupted start left a database
/// without a table.
bool is_blank(const fs::path& path) {
    const auto now = fingerprint_of(path);
    if (!now) return false;
    if (now->size == 0) return true;
    const auto head = head_of(path);
    if (!head || !head->database || head->application != 0 || head->version != 0) return false;
    try {
        SQLite::Database db(path.string(), SQLite::OPEN_READONLY, patience);
        harden(db);
        return db.execAndGet("SELECT count(*) FROM sqlite_schema").getInt() == 0;
    } catch (const SQLite::Exception&) {
        return false;
    }
}

/// Makes an empty book aside and puts it in place whole: where it is stopped in the middle, there
/// is no book. Where another program is first, its book stays.
Result<void> create(const fs::path& path) {
    if (auto ok = files::make_folder(path.parent_path()); !ok) return ok;
    const auto part = files::begin_part(path);
    if (!part) return tl::unexpected(part.error());
    std::error_code error;
    if (auto ok = make_book(*part); !ok) {
        fs::remove(*part, error);
        return ok;
    }
    const int fd = ::open(path.c_str(), O_RDWR | O_CLOEXEC);
    if (fd < 0) {
        if (auto ok = set_journals_aside(path); !ok) {
            fs::remove(*part, error);
            return ok;
        }
        auto ok = files::settle_part(*part, path, files::file_mode, false);
        return ok || fs::exists(path, error) ? Result<void>() : ok;
    }
    // A blank file is there. Of several programs that want to fill it one does; the others find
    // that it is another file now.
    Result<void> ok;
    struct stat blank {};
    if (::flock(fd, LOCK_EX) == 0 && ::fstat(fd, &blank) == 0) {
        const auto now = fingerprint_of(path);
        if (now && now->inode == blank.st_ino && now->device == blank.st_dev && is_blank(path)) {
            ok = set_journals_aside(path);
            if (ok) ok = files::settle_part(*part, path, files::file_mode, true);
        }
    }
    ::close(fd);
    fs::remove(*part, error);
    return ok;
}

/// What can be said of a path before anything is opened. Nothing: it may be opened.
std::optional<Problem> obstacle(const fs::path& path, Access access) {
    const std::string where = files::path_text(path);
    struct stat s {};
    if (::stat(path.c_str(), &s) != 0) {
        if (errno == EACCES)
            return Problem{where, "the folder of the shop book may not be entered",
                           "Check its permissions", Cause::unreadable};
        if (access == Access::read_only)
            return Problem{where, "there is no shop book here", "Check the name", Cause::missing};
        return std::nullopt;
    }
    if (S_ISDIR(s.st_mode))
        return Problem{where, "this is a folder, not a shop book", "Name a file in it",
                       Cause::foreign};
    if (!S_ISREG(s.st_mode))
        return Problem{where, "this is a pipe or a device, not a shop book",
                       "Name a file on the disk", Cause::foreign};
    if (::access(path.c_str(), R_OK) != 0)
        return Problem{where, "the shop book may not be read", "Check its permissions",
                       Cause::unreadable};
    if (s.st_size == 0 && has_backups(path))
        return Problem{where, "the shop book is damaged: the file is empty, and it has copies",
                       "Go back to one of its copies: 'conductus-cli shop BOOK restore FILE'",
                       Cause::damaged};
    if (s.st_size == 0 && access == Access::read_only)
        return Problem{where, "the file is empty: there is no shop book in it yet",
                       "Begin a book with a first job: 'conductus-cli shop BOOK import FILE'",
                       Cause::missing};
    if (s.st_size == 0) return std::nullopt;
    const auto head = head_of(path);
    if (!head) return head.error();
    if (head->zeroed || (!head->database && has_backups(path)))
        return Problem{where, "the shop book is damaged: it does not begin as a book does",
                       "Keep the file, and go back to a backup or save what is whole: "
                       "'conductus-cli shop BOOK rescue -o NEW'",
                       Cause::damaged};
    if (!head->database)
        return Problem{where, "this file is not a shop book",
                       "Open another file; this one is untouched", Cause::foreign};
    if (access == Access::read_write && ::access(path.c_str(), W_OK) != 0)
        return Problem{where, "the shop book is read-only, so nothing can be kept in it",
                       "Change its permissions, or work on a copy", Cause::read_only};
    return std::nullopt;
}

/// The book in an older format's tables is read from `old`, and made anew in the newest ones.
Result<void> make_anew(Book::Inside& inside, const fs::path& old, int version) {
    SQLite::Database source(old.string(), SQLite::OPEN_READONLY);
    harden(source);
    drop_tables(*inside.db, version);
    make_tables(*inside.db);
    return inside.take_from_old(source, version);
}

} // namespace

std::string now_utc() {
    const std::time_t t = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm utc{};
    gmtime_r(&t, &utc);
    char text[32];
    std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%SZ", &utc);
    return text;
}

void vacuum_into(SQLite::Database& db, const fs::path& path) {
    SQLite::Statement s(db, "VACUUM INTO ?");
    s.bind(1, path.string());
    s.exec();
}

Result<void> make_book(const fs::path& part) {
    try {
        SQLite::Database db(part.string(), SQLite::OPEN_READWRITE);
        harden(db);
        SQLite::Transaction t(db);
        make_tables(db);
        BookRow row;
        row.identity = random_id();
        write_book_row(db, row, random_id());
        t.commit();
        return {};
    } catch (const SQLite::Exception& e) {
        return tl::unexpected(explained(e, part));
    }
}

Result<void> Book::Inside::connect() {
    const bool writes = access == Access::read_write;
    const auto before = fingerprint_of(file);
    if (!before)
        return problem(files::path_text(path), "there is no shop book here", "Check the name",
                       Cause::missing);
    db = connected(file, writes || copy ? SQLite::OPEN_READWRITE : SQLite::OPEN_READONLY,
                   patience_ms);
    if (writes && sqlite3_db_readonly(db->getHandle(), "main") == 1)
        return problem(files::path_text(path),
                       "the shop book is read-only, so nothing can be kept in it",
                       "Change its permissions, or work on a copy", Cause::read_only);
    seen = *before;
    return {};
}

Result<Kind> Book::Inside::look_at() {
    auto kind = kind_of(*db, path);
    const auto now = fingerprint_of(file);
    if (now && now->same_file(seen)) seen = *now;
    return kind;
}

Result<void> Book::Inside::open_again() {
    if (auto ok = connect(); !ok) return ok;
    const auto kind = look_at();
    if (!kind && kind.error().cause == Cause::newer) return tl::unexpected(kind.error());
    const bool same = kind && kind->version == book_format && book_row().identity == identity;
    if (same) return {};
    return problem(files::path_text(path),
                   "the file at this place is no longer the shop book that was opened",
                   "Put the book back, or keep the work in a file", Cause::moved);
}

Result<bool> Book::Inside::is_as_seen() {
    if (copy || access != Access::read_write) return true;
    const auto now = fingerprint_of(path);
    if (!now)
        return problem(files::path_text(path), "the shop book was deleted or moved away",
                       "Put it back, or keep the work in a file", Cause::moved);
    if (!now->same_file(seen))
        return problem(files::path_text(path), "another file was put in the place of the shop book",
                       "Put the book back, or go on in the file that is there now", Cause::moved);
    if (now->size < seen.size)
        return problem(files::path_text(path), "the shop book was cut off",
                       "Go back to a backup, or keep the work in a file", Cause::moved);
    return *now == seen;
}

Result<void> Book::check_place() {
    const auto as_seen = inside_->is_as_seen();
    if (!as_seen) return tl::unexpected(as_seen.error());
    return {};
}

void Book::be_patient(int milliseconds) {
    inside_->patience_ms = milliseconds;
    try {
        inside_->db->setBusyTimeout(milliseconds);
    } catch (const SQLite::Exception&) { // then it waits as long as before
    }
}

Result<Book> Book::open(const fs::path& path, Access access) {
    auto inside = std::make_unique<Inside>();
    inside->path = inside->file = path;
    inside->access = access;
    inside->patience_ms = patience;
    const std::string where = files::path_text(path);
    // Twice: the first time it may be made.
    for (int round = 0;; ++round) {
        if (const auto p = obstacle(path, access)) return tl::unexpected(*p);
        std::error_code error;
        if (access == Access::read_write && round == 0 &&
            (!fs::exists(path, error) || is_blank(path))) {
            if (auto ok = create(path); !ok) return tl::unexpected(ok.error());
            continue;
        }
        break;
    }
    const auto head = head_of(path);
    if (!head) return tl::unexpected(head.error());
    const bool old = head->application == application_id && head->version < book_format;
    auto opened = inside->guarded<Kind>([&]() -> Result<Kind> {
        const auto privately = [&]() -> Result<Kind> {
            auto folder = PrivateFolder::make();
            if (!folder) return tl::unexpected(folder.error());
            const auto file = copy_with_journals(path, folder->path());
            if (!file) return tl::unexpected(file.error());
            inside->copy = std::move(*folder);
            inside->file = *file;
            if (auto ok = inside->connect(); !ok) return tl::unexpected(ok.error());
            return inside->look_at();
        };
        // To read a book with a write-ahead log, SQLite makes files beside it.
        if (access == Access::read_only && (old || head->write_ahead)) return privately();
        try {
            if (auto ok = inside->connect(); !ok) return tl::unexpected(ok.error());
            return inside->look_at();
        } catch (const SQLite::Exception& e) {
            // A journal that a killed program left is to be played back, which is writing.
            const bool journal =
                e.getErrorCode() == SQLITE_READONLY || e.getErrorCode() == SQLITE_CANTOPEN;
            if (access != Access::read_only || !journal) throw;
            return privately();
        }
    });
    if (!opened) return tl::unexpected(opened.error());
    if (opened->blank)
        return problem(where, "this file is not a shop book",
                       "Open another file; this one is untouched", Cause::foreign);
    auto ready = inside->guarded<void>([&]() -> Result<void> {
        if (opened->version < book_format) {
            SQLite::Transaction t(*inside->db, SQLite::TransactionBehavior::IMMEDIATE);
            // Another program may have been first.
            const auto now = kind_of(*inside->db, path);
            if (!now) return tl::unexpected(now.error());
            if (now->version < book_format) {
                fs::path before;
                if (inside->copy) {
                    before = inside->copy->path() / "old.book";
                    SQLite::Database reader(inside->file.string(), SQLite::OPEN_READONLY);
                    vacuum_into(reader, before);
                } else {
                    SQLite::Database reader(inside->file.string(), SQLite::OPEN_READONLY);
                    if (auto ok = keep_before_migration(reader, path, now->version, before); !ok)
                        return ok;
                }
                if (auto ok = make_anew(*inside, before, now->version); !ok) return ok;
            }
            t.commit();
            if (const auto now_there = fingerprint_of(inside->file)) inside->seen = *now_there;
        }
        inside->identity = inside->book_row().identity;
        return {};
    });
    if (!ready) return tl::unexpected(ready.error());
    return Book(std::move(inside));
}

} // namespace conductus::shop
