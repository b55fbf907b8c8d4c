// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <fmt/format.h>
#include <unistd.h>

#include "files/job_json.h"
#include "shop/book.h"

namespace conductus::shop {

Result<bool> make_demo_book(const std::filesystem::path& path, const std::filesystem::path& demo,
                            const catalogue::Catalogue& parts) {
    namespace fs = std::filesystem;
    std::error_code error;
    if (fs::exists(path, error)) return false;
    if (path.has_parent_path()) fs::create_directories(path.parent_path(), error);

    std::vector<fs::path> files;
    for (const auto& entry : fs::directory_iterator(demo, error))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    if (files.empty())
        return problem(demo.string(), "there are no demo jobs here", "Install Conductus again");
    std::sort(files.begin(), files.end());

    // Made aside and linked into place: a crash leaves no half book, and a book that has come to be
    // there meanwhile is never replaced.
    const fs::path aside = path.string() + fmt::format(".{}.new", ::getpid());
    auto tidy = [&] {
        for (const char* tail : {"", "-wal", "-shm"})
            fs::remove(aside.string() + tail, error);
    };
    tidy();
    {
        auto book = Book::open(aside, Access::read_write);
        if (!book) return tl::unexpected(book.error());
        for (const auto& file : files) {
            auto job = files::read_job_file(file, parts);
            auto added = job ? book->add(job->job, "from the demo shop", job->attachments)
                             : tl::unexpected(job.error());
            if (!added) {
                tidy();
                return tl::unexpected(added.error());
            }
        }
    }
    fs::create_hard_link(aside, path, error);
    const bool made = !error;
    const bool other_was_first = !made && fs::exists(path);
    if (!made && !other_was_first) {
        // No hard links on this file system.
        fs::rename(aside, path, error);
        if (error) {
            tidy();
            return problem(path.string(), "the demo shop can not be made: " + error.message(),
                           "Check that the folder may be written");
        }
        return true;
    }
    tidy();
    return made;
}

Result<job::Job> job_named(const std::string& name, const catalogue::Catalogue& parts) {
    std::error_code error;
    const auto at = name.rfind('@');
    // NAME@BOOK, where the book's path may hold an @ of its own.
    if (at == std::string::npos || std::filesystem::exists(name, error))
        return files::read_job(name, parts);
    const auto first = name.find('@');
    auto book = Book::open(name.substr(first + 1), Access::read_only);
    if (!book) return tl::unexpected(book.error());
    auto opened = book->load(std::string_view(name).substr(0, first), parts);
    if (!opened) return tl::unexpected(opened.error());
    return std::move(opened->job);
}

} // namespace conductus::shop
