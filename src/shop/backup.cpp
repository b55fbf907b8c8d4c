// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/backup.h"

#include <SQLiteCpp/Backup.h>
#include <algorithm>
#include <charconv>
#include <fmt/format.h>

#include "shop/book_inside.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;

fs::path folder_of(const fs::path& book) { return book.string() + ".backups"; }

/// The next copy's name, in a folder that is there.
Result<fs::path> next_name(const fs::path& book, const std::string& about) {
    std::error_code error;
    fs::create_directories(folder_of(book), error);
    if (error)
        return problem(folder_of(book).string(),
                       "the folder for backups can not be made: " + error.message(),
                       "Check that the folder may be written");
    const auto all = backups_of(book);
    const int number = all.empty() ? 1 : all.back().number + 1;
    return folder_of(book) / fmt::format("{:04} {}.book", number, about);
}

void forget_oldest(const fs::path& book) {
    const auto all = backups_of(book);
    std::error_code error;
    for (std::size_t i = 0; i + backups_kept < all.size(); ++i)
        fs::remove(all[i].path, error);
}

Result<std::int64_t> changes_in(const fs::path& path) {
    auto book = Book::open(path, Access::read_only);
    if (!book) return tl::unexpected(book.error());
    return book->changes();
}

Result<void> copy_as(Book& book, const std::string& about) {
    const auto name = next_name(book.path(), about);
    if (!name) return tl::unexpected(name.error());
    if (auto ok = book.copy_to(*name); !ok) return ok;
    forget_oldest(book.path());
    return {};
}

/// A damaged book and its journal under another name.
Result<void> set_aside(const fs::path& book) {
    std::error_code error;
    for (int n = 1;; ++n) {
        const std::string aside = fmt::format("{}.damaged-{}", book.string(), n);
        if (fs::exists(aside, error)) continue;
        for (const char* tail : {"-wal", "-shm", ""}) {
            if (!fs::exists(book.string() + tail, error)) continue;
            fs::rename(book.string() + tail, aside + tail, error);
            if (error)
                return problem(book.string(),
                               "the damaged book can not be moved aside: " + error.message(),
                               "Check that the folder may be written");
        }
        return {};
    }
}

} // namespace

std::vector<Backup> backups_of(const fs::path& book) {
    std::vector<Backup> found;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder_of(book), error)) {
        const std::string name = entry.path().filename().string();
        if (entry.path().extension() != ".book") continue;
        int number = 0;
        const auto [end, bad] = std::from_chars(name.data(), name.data() + name.size(), number);
        if (bad != std::errc() || *end != ' ') continue;
        const auto from = static_cast<std::size_t>(end - name.data()) + 1;
        found.push_back({entry.path(), number, name.substr(from, name.size() - from - 5)});
    }
    std::sort(found.begin(), found.end(),
              [](const Backup& a, const Backup& b) { return a.number < b.number; });
    return found;
}

Result<bool> back_up_daily(const fs::path& path, const std::string& day) {
    const auto all = backups_of(path);
    if (std::any_of(all.begin(), all.end(), [&](auto& b) { return b.about == day; })) return false;
    auto book = Book::open(path, Access::read_write);
    if (!book) return tl::unexpected(book.error());
    if (!all.empty()) {
        const auto now = book->changes(), then = changes_in(all.back().path);
        if (now && then && *now == *then) return false;
    }
    if (auto ok = copy_as(*book, day); !ok) return tl::unexpected(ok.error());
    return true;
}

Result<void> restore(const fs::path& path, const fs::path& from,
                     const catalogue::Catalogue& parts) {
    std::error_code error;
    if (fs::equivalent(path, from, error))
        return problem(from.string(), "this is the book itself", "Name a backup of it");
    {
        auto copy = Book::open(from, Access::read_only);
        if (!copy) return tl::unexpected(copy.error());
        if (auto ok = copy->verify(parts); !ok) return ok;
    }
    if (fs::exists(path, error)) {
        auto now = Book::open(path, Access::read_write);
        auto sound = now ? now->verify() : tl::unexpected(now.error());
        if (sound) {
            if (auto ok = copy_as(*now, "before restore"); !ok) return ok;
        } else {
            const bool locked = sound.error().what.find("locked") != std::string::npos;
            const bool foreign = sound.error().what.find("not a shop book") != std::string::npos ||
                                 sound.error().what.find("newer") != std::string::npos;
            // A file that starts as a book does, and can not be read, was one.
            if (locked || foreign) return sound;
            now = tl::unexpected(Problem{});
            if (auto ok = set_aside(path); !ok) return ok;
        }
    }
    auto book = Book::open(path, Access::read_write);
    if (!book) return tl::unexpected(book.error());
    return Book::overwrite(*book, from);
}

Result<void> keep_before_migration(SQLite::Database& db, const fs::path& book, int version) {
    const auto name = next_name(book, fmt::format("before format {}", book_format));
    if (!name) return tl::unexpected(name.error());
    const fs::path partial = name->string() + ".part";
    std::error_code error;
    fs::remove(partial, error);
    try {
        vacuum_into(db, partial);
    } catch (const SQLite::Exception& e) {
        fs::remove(partial, error);
        Problem p = explained(e, book);
        p.what = fmt::format("the book is of format {} and can not be copied before it is brought "
                             "up to date: {}",
                             version, p.what);
        return tl::unexpected(p);
    }
    return settle(partial, *name);
}

} // namespace conductus::shop
