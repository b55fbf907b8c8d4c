// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/backup.h"

#include <algorithm>
#include <cerrno>
#include <charconv>
#include <fmt/format.h>

#include "files/disk.h"
#include "shop/book_inside.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;

fs::path folder_of(const fs::path& book) { return book.string() + ".backups"; }

/// The next copy's name, in a folder that is there.
Result<fs::path> next_name(const fs::path& book, const std::string& about) {
    if (auto ok = files::make_folder(folder_of(book)); !ok) return tl::unexpected(ok.error());
    const auto all = backups_of(book);
    const int number = all.empty() ? 1 : all.back().number + 1;
    return folder_of(book) / fmt::format("{:04} {}.book", number, about);
}

/// Last of all: once what is newest is there, and never what is being gone back to.
void forget_oldest(const fs::path& book, const fs::path& source = {}) {
    const auto all = backups_of(book);
    std::error_code error;
    for (std::size_t i = 0; i + backups_kept < all.size(); ++i)
        if (source.empty() || !fs::equivalent(all[i].path, source, error))
            fs::remove(all[i].path, error);
}

Result<fs::path> copy_as(Book& book, const fs::path& of, const std::string& about) {
    const auto name = next_name(of, about);
    if (!name) return name;
    if (auto ok = book.copy_to(*name); !ok) return tl::unexpected(ok.error());
    return name;
}

/// A damaged book and its journal under another name.
Result<void> set_aside(const fs::path& book) {
    std::error_code error;
    for (int n = 1;; ++n) {
        const std::string aside = fmt::format("{}.damaged-{}", book.string(), n);
        if (fs::exists(fs::symlink_status(aside, error))) continue;
        for (const char* tail : {"-wal", "-shm", "-journal", ""}) {
            if (!fs::exists(book.string() + tail, error)) continue;
            fs::rename(book.string() + tail, aside + tail, error);
            if (error)
                return problem(files::path_text(book),
                               say("the damaged book can not be moved aside: {}", error.message()),
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

std::optional<Backup> newest_sound_backup(const fs::path& book) {
    auto all = backups_of(book);
    for (auto it = all.rbegin(); it != all.rend(); ++it) {
        auto copy = Book::open(it->path, Access::read_only);
        if (copy && copy->verify()) return *it;
    }
    return std::nullopt;
}

Result<bool> back_up_daily(const fs::path& path, const std::string& day) {
    auto book = Book::open(path, Access::read_write);
    if (!book) return tl::unexpected(book.error());
    const auto all = backups_of(path);
    const bool of_this_day =
        std::any_of(all.begin(), all.end(), [&](auto& b) { return b.about == day; });
    bool unchanged = false;
    if (!of_this_day && !all.empty()) {
        auto newest = Book::open(all.back().path, Access::read_only);
        const auto now = book->last_change();
        const auto then = newest ? newest->last_change() : tl::unexpected(newest.error());
        unchanged = now && then && *now == *then && newest->verify();
    }
    if (of_this_day || unchanged) {
        if (auto ok = book->verify(); !ok) return tl::unexpected(ok.error());
        return false;
    }
    // The copy is looked through, row by row; what the copy can not show, the file's own structure,
    // is looked at where it is.
    if (auto ok = book->verify(); !ok) return tl::unexpected(ok.error());
    if (auto made = copy_as(*book, path, day); !made) return tl::unexpected(made.error());
    forget_oldest(path);
    return true;
}

Result<void> back_up_to(Book& book, const fs::path& file) {
    std::error_code error;
    if (fs::equivalent(book.path(), file, error))
        return problem(files::path_text(file), "this is the book itself", "Name another file");
    const auto target = files::output_target(file, files::Content::book);
    if (!target) return tl::unexpected(target.error());
    if (auto ok = book.verify(); !ok) return ok;
    if (target->there) {
        const auto refused = [&](const std::string& what) {
            return problem(files::path_text(file), what,
                           "Name a file that is not there yet; this one is untouched",
                           Cause::foreign);
        };
        auto there = Book::open(target->path, Access::read_only);
        if (!there)
            return refused("what is there is no sound shop book: " + there.error().what.english());
        if (there->identity() != book.identity())
            return refused("what is there is another shop book");
        const auto last = there->last_change();
        const auto seen = last ? book.has_seen(*last) : Result<bool>(tl::unexpected(last.error()));
        if (!seen || !*seen)
            return refused(
                "what is there holds changes that this book does not have: it is a newer "
                "state, or went another way");
        if (auto kept = copy_as(*there, target->path, "replaced"); !kept)
            return tl::unexpected(kept.error());
    }
    const auto part = files::begin_part(target->path);
    if (!part) return tl::unexpected(part.error());
    auto ok = book.copy_into(*part);
    if (ok) ok = set_journals_aside(target->path);
    if (!ok) {
        fs::remove(*part, error);
        return ok;
    }
    ok = files::settle_part(*part, target->path, target->mode, target->there);
    if (ok && target->there) forget_oldest(target->path);
    return ok;
}

Result<void> restore(const fs::path& path, const fs::path& from) {
    std::error_code error;
    if (fs::equivalent(path, from, error))
        return problem(files::path_text(from), "this is the book itself", "Name a backup of it");
    // All of the copy is brought into a file of our own first, in the newest tables, and looked
    // through; it can then change under nobody.
    auto folder = PrivateFolder::make();
    if (!folder) return tl::unexpected(folder.error());
    const fs::path staged = folder->path() / "staged";
    {
        auto copy = Book::open(from, Access::read_only);
        if (!copy) return tl::unexpected(copy.error());
        if (auto ok = copy->verify(); !ok) return ok;
        if (auto ok = copy->copy_to(staged); !ok) return ok;
    }
    auto source = Book::open(staged, Access::read_write);
    if (!source) return tl::unexpected(source.error());

    if (fs::exists(path, error)) {
        auto now = Book::open(path, Access::read_write);
        if (!now && now.error().cause != Cause::damaged) return tl::unexpected(now.error());
        // A file that starts as a book does, and can not be read, was one.
        auto sound = now ? now->verify() : tl::unexpected(now.error());
        if (!sound && sound.error().cause != Cause::damaged) return sound;
        if (!sound) {
            now = tl::unexpected(Problem{});
            if (auto ok = set_aside(path); !ok) return ok;
        } else {
            const auto keep = [&]() -> Result<void> {
                auto reader = Book::open(path, Access::read_only);
                if (!reader) return tl::unexpected(reader.error());
                auto kept = copy_as(*reader, path, "before restore");
                if (!kept) return tl::unexpected(kept.error());
                return {};
            };
            auto ok = now->become(*source, keep);
            if (ok) forget_oldest(path, from);
            return ok;
        }
    }
    auto book = Book::open(path, Access::read_write);
    if (!book) return tl::unexpected(book.error());
    return book->become(*source, []() -> Result<void> { return {}; });
}

Result<void> keep_before_migration(SQLite::Database& db, const fs::path& book, int version,
                                   fs::path& copy) {
    const auto name = next_name(book, fmt::format("before format {}", book_format));
    if (!name) return tl::unexpected(name.error());
    const auto part = files::begin_part(*name);
    if (!part) return tl::unexpected(part.error());
    try {
        vacuum_into(db, *part);
    } catch (const SQLite::Exception& e) {
        std::error_code error;
        fs::remove(*part, error);
        Problem p = explained(e, book);
        p.what = say("the book is of format {} and can not be copied before it is brought up to "
                     "date: {}",
                     version, p.what);
        return tl::unexpected(p);
    }
    copy = *name;
    return files::settle_part(*part, *name, files::file_mode, true);
}

} // namespace conductus::shop
