// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <optional>

#include "files/own_parts.h"
#include "shop/backup.h"
#include "shop/book_inside.h"

namespace conductus::shop {

Result<bool> make_demo_book(const std::filesystem::path& path, const std::filesystem::path& demo,
                            const catalogue::Catalogue& parts) {
    namespace fs = std::filesystem;
    std::error_code error;
    const auto there = fingerprint_of(path);
    // An empty file is what an interrupted start leaves, unless copies say that it was a book.
    if (there && (there->size > 0 || !backups_of(path).empty())) return false;
    std::vector<fs::path> files;
    for (const auto& entry : fs::directory_iterator(demo, error))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    if (files.empty())
        return problem(files::path_text(demo), "there are no demo jobs here",
                       "Install Conductus again");
    std::sort(files.begin(), files.end());

    // Made aside and put into place whole: a crash leaves no half book, and a book that has come to
    // be there meanwhile is never replaced.
    if (auto ok = files::make_folder(path.parent_path()); !ok) return tl::unexpected(ok.error());
    const auto part = files::begin_part(path);
    if (!part) return tl::unexpected(part.error());
    auto made = make_book(*part);
    if (made) {
        auto book = Book::open(*part, Access::read_write);
        if (!book) made = tl::unexpected(book.error());
        for (std::size_t i = 0; made && i < files.size(); ++i) {
            auto job = files::read_job_file(files[i], parts);
            auto added = job ? book->add(job->job, "from the demo shop", job->attachments)
                             : Result<JobId>(tl::unexpected(job.error()));
            if (!added) made = tl::unexpected(added.error());
        }
    }
    if (made && there) {
        // Through the blank book's own opening, which says who of several is first.
        auto blank = Book::open(path, Access::read_write);
        auto demo_book = Book::open(*part, Access::read_write);
        const auto jobs = blank ? blank->entries() : tl::unexpected(blank.error());
        if (!blank || !demo_book || !jobs)
            made = tl::unexpected(!blank       ? blank.error()
                                  : !demo_book ? demo_book.error()
                                               : jobs.error());
        else if (jobs->empty())
            made = blank->become(*demo_book, []() -> Result<void> { return {}; });
        fs::remove(*part, error);
        if (!made) return tl::unexpected(made.error());
        return jobs->empty();
    }
    if (!made) {
        fs::remove(*part, error);
        return tl::unexpected(made.error());
    }
    auto settled = files::settle_part(*part, path, files::file_mode, false);
    if (settled) return true;
    if (fs::exists(path, error)) return false; // another program was first
    return tl::unexpected(settled.error());
}

Result<Named> job_named(const std::string& name, const catalogue::Catalogue& parts) {
    namespace fs = std::filesystem;
    std::error_code error;
    if (name.find('@') == std::string::npos || fs::exists(fs::symlink_status(name, error))) {
        auto file = files::read_job_to_plan(name, parts);
        if (!file) return tl::unexpected(file.error());
        return Named{std::move(file->job),
                     std::make_shared<const catalogue::Catalogue>(
                         files::catalogue_for(file->job, parts, {file->attachments, {}}))};
    }
    // NAME@BOOK, where both may have an @ of their own: the first split that leads to a book which
    // has the job, or else what the first book says.
    std::optional<Problem> first;
    for (auto at = name.find('@'); at != std::string::npos; at = name.find('@', at + 1)) {
        const fs::path path = name.substr(at + 1);
        auto book = Book::open(path, Access::read_only);
        auto opened = book ? book->load(std::string_view(name).substr(0, at), parts)
                           : Result<Opened>(tl::unexpected(book.error()));
        if (opened) return Named{std::move(opened->job), opened->parts};
        if (!first || (first->cause == Cause::missing && fs::exists(path, error)))
            first = opened.error();
    }
    return tl::unexpected(*first);
}

Result<std::string> text_of_named(const std::string& name, const Named& named) {
    std::error_code error;
    files::JobFile file{named.job, {}};
    if (name.find('@') == std::string::npos ||
        std::filesystem::exists(std::filesystem::symlink_status(name, error))) {
        // A file that lacks what it names is not made better by refusing it here.
        auto whole = files::read_job_file(name, *named.parts);
        if (!whole) return files::job_text(named.job);
        file.attachments = std::move(whole->attachments);
        return files::job_file_text(file, *named.parts);
    }
    for (auto at = name.find('@'); at != std::string::npos; at = name.find('@', at + 1)) {
        auto book = Book::open(name.substr(at + 1), Access::read_only);
        if (!book) continue;
        auto attachments = book->attachments_of(named.job);
        if (!attachments) continue;
        file.attachments = std::move(*attachments);
        return files::job_file_text(file, *named.parts);
    }
    return problem(shown(name), "the book is no longer there", "Check the name", Cause::missing);
}

} // namespace conductus::shop
