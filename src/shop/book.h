// SPDX-License-Identifier: GPL-3.0-or-later
// The shop book: one SQLite file with every job, its document and the history of its states.
#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::shop {

using JobId = std::int64_t;

/// A line of the shelf, without reading the document.
struct Entry {
    JobId id = 0;
    std::string name;
};

/// One state in a job's history, oldest first; `seq` counts from 0.
struct HistoryState {
    std::int64_t seq = 0;
    std::string label; ///< what the edit was: "fit the 18350 cell"
    std::string at;    ///< UTC, ISO 8601
    std::string document;
};

struct Opened {
    JobId id = 0;
    job::Job job;
    std::int64_t seq = 0; ///< which state of the history is current
};

enum class Access { read_write, read_only };

/// Every call is one transaction; an error leaves the book as it was. Not thread-safe: one thread
/// at a time. Errors name the file and how to mend: not a book, a newer book, locked by another
/// program, read-only, disk full.
class Book {
public:
    /// Opens; with read_write makes the file if it is not there, in one step that never replaces
    /// one that is.
    static Result<Book> open(const std::filesystem::path& path, Access access);
    Book(Book&&) noexcept;
    Book& operator=(Book&&) noexcept;
    ~Book();

    [[nodiscard]] Result<std::vector<Entry>> entries();
    [[nodiscard]] Result<Opened> load(JobId id, const catalogue::Catalogue& parts);
    [[nodiscard]] Result<Opened> load(std::string_view name, const catalogue::Catalogue& parts);

    /// Adds a job with a history of one state. Error: the name is taken.
    Result<JobId> add(const job::Job& job, const std::string& label);

    /// Keeps an edit: a new state after `seq`; states that were undone are dropped. Returns the new
    /// state's seq. Error: `seq` is no longer current, because another program wrote.
    Result<std::int64_t> commit(JobId id, std::int64_t seq, const job::Job& job,
                                const std::string& label);

    /// Makes another state of the history current: undo and redo. `from` as in commit.
    Result<void> move(JobId id, std::int64_t from, std::int64_t to);

    [[nodiscard]] Result<std::vector<HistoryState>> history(JobId id);

    /// SQLite's own check of the whole file.
    Result<void> verify();

    [[nodiscard]] const std::filesystem::path& path() const;

private:
    struct Inside;
    explicit Book(std::unique_ptr<Inside> inside);
    std::unique_ptr<Inside> inside_;
};

/// Makes the book of a demo shop from every job file in `demo`, if there is no file at `path` yet.
/// True if it was made.
Result<bool> make_demo_book(const std::filesystem::path& path, const std::filesystem::path& demo,
                            const catalogue::Catalogue& parts);

/// A job named on a command line: a file, or NAME@BOOK. A file of that very name goes first.
Result<job::Job> job_named(const std::string& name, const catalogue::Catalogue& parts);

} // namespace conductus::shop
