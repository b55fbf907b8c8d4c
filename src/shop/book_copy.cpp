// SPDX-License-Identifier: GPL-3.0-or-later
// Copies of a book, and a book that becomes what another is.
#include <fmt/format.h>

#include "files/disk.h"
#include "shop/book_inside.h"

namespace conductus::shop {

Result<void> Book::copy_into(const std::filesystem::path& part) {
    auto made = inside_->guarded<void>([&]() -> Result<void> {
        vacuum_into(*inside_->db, part);
        return {};
    });
    if (!made) return made;
    auto copy = open(part, Access::read_only);
    if (!copy) return tl::unexpected(copy.error());
    auto report = copy->look_through();
    if (!report) return tl::unexpected(report.error());
    if (!report->sound()) return tl::unexpected(report->problem(inside_->path));
    return {};
}

Result<void> Book::copy_to(const std::filesystem::path& path) {
    const auto part = files::begin_part(path);
    if (!part) return tl::unexpected(part.error());
    if (auto ok = copy_into(*part); !ok) {
        std::error_code error;
        std::filesystem::remove(*part, error);
        return ok;
    }
    if (auto ok = set_journals_aside(path); !ok) {
        std::error_code error;
        std::filesystem::remove(*part, error);
        return ok;
    }
    return files::settle_part(*part, path, files::file_mode, true);
}

Result<void> Book::become(Book& from, const std::function<Result<void>()>& kept) {
    const std::string source = from.inside_->file.string();
    return inside_->guarded<void>([&]() -> Result<void> {
        SQLite::Database& db = *inside_->db;
        // Rows are copied and nothing else: what the other file may hold beside our tables stays
        // there. Attaching is not allowed within a transaction.
        SQLite::Statement attach(db, "ATTACH ? AS other");
        attach.bind(1, source);
        attach.exec();
        const auto detach = [&] {
            try {
                db.exec("DETACH other");
            } catch (const SQLite::Exception&) { // it goes with the connection
            }
        };
        auto done = [&]() -> Result<void> {
            SQLite::Transaction t(db, SQLite::TransactionBehavior::IMMEDIATE);
            const auto as_seen = inside_->is_as_seen();
            if (!as_seen) return tl::unexpected(as_seen.error());
            // Nobody else can write now, and what is in the book can still be read.
            if (auto ok = kept(); !ok) return ok;
            db.exec("PRAGMA defer_foreign_keys = ON");
            for (const char* table : {"book", "change", "attachment", "state", "job"})
                db.exec(fmt::format("DELETE FROM main.{}", table));
            for (const char* table : {"book", "change", "attachment", "job", "state"})
                db.exec(fmt::format("INSERT INTO main.{0} SELECT * FROM other.{0}", table));
            db.exec("DELETE FROM main.words");
            db.exec("INSERT INTO main.words (rowid, text) SELECT rowid, text FROM other.words");
            inside_->identity = inside_->book_row().identity;
            // One more change: nothing that was seen before looks like what is here now.
            inside_->count_change();
            t.commit();
            if (const auto now = fingerprint_of(inside_->path)) inside_->seen = *now;
            return {};
        }();
        detach();
        return done;
    });
}

Result<void> Book::verify() {
    const auto report = look_through();
    if (!report) return tl::unexpected(report.error());
    if (report->sound()) return {};
    return tl::unexpected(report->problem(inside_->path));
}

Result<void> Book::verify(const catalogue::Catalogue& parts) {
    const auto report = look_through(&parts);
    if (!report) return tl::unexpected(report.error());
    if (report->sound()) return {};
    return tl::unexpected(report->problem(inside_->path));
}

} // namespace conductus::shop
