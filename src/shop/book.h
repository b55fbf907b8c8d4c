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
#include "files/job_json.h"

namespace conductus::shop {

using JobId = std::int64_t;

/// A line of the shelf, without reading the document. Kind and stage are the document's words.
struct Entry {
    JobId id = 0;
    std::string name, kind, purpose, stage, promised;
    bool came_back = false; ///< since it was last handed over
    std::int64_t seq = 0;   ///< which state is current
    std::string changed;    ///< UTC, when that state was made
    bool operator==(const Entry&) const = default;
};

/// A job in which every word asked for was found.
struct Hit {
    JobId id = 0;
    std::string name;
    std::string excerpt; ///< the words in their surroundings
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

/// A job with its whole history and all that its states name.
struct Whole {
    std::vector<HistoryState> states; ///< oldest first, at least one
    std::size_t current = 0;          ///< index in `states`
    files::Attachments attachments;
};

enum class Access { read_write, read_only };

/// Newest format of a book. Older ones are brought up to it when they are opened for writing, after
/// a copy was laid beside them.
inline constexpr int book_format = 2;

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

    /// Jobs in which a word begins with each of the words asked for, best first; in any text of the
    /// job, its notes and papers.
    [[nodiscard]] Result<std::vector<Hit>> find(const std::string& words);
    /// The same jobs without excerpts, in no order: quick enough for every letter typed.
    [[nodiscard]] Result<std::vector<JobId>> matching(const std::string& words);
    /// The words in their surroundings in one job; empty where they are not in it.
    [[nodiscard]] Result<std::string> excerpt(JobId id, const std::string& words);

    /// Adds a job with a history of one state. Error: the name is taken.
    Result<JobId> add(const job::Job& job, const std::string& label,
                      const files::Attachments& attachments = {});

    /// Adds jobs with their histories, all or none. A name that is taken gets a number: the names
    /// they came in under are returned.
    Result<std::vector<std::string>> add_whole(std::vector<Whole> jobs,
                                               const catalogue::Catalogue& parts);

    /// Keeps an edit: a new state after `seq`; states that were undone are dropped. Returns the new
    /// state's seq. Error: `seq` is no longer current, because another program wrote.
    Result<std::int64_t> commit(JobId id, std::int64_t seq, const job::Job& job,
                                const std::string& label,
                                const files::Attachments& attachments = {});

    /// Makes another state of the history current: undo and redo. `from` as in commit.
    Result<void> move(JobId id, std::int64_t from, std::int64_t to);

    [[nodiscard]] Result<std::vector<HistoryState>> history(JobId id);

    /// Error: not in the book, or no longer what its id says.
    [[nodiscard]] Result<files::Attachment> attachment(const std::string& id);
    /// All that a job's documents name.
    [[nodiscard]] Result<files::Attachments> attachments_of(const job::Job& job,
                                                            const catalogue::Catalogue& parts);
    [[nodiscard]] Result<Whole> whole(JobId id, const catalogue::Catalogue& parts);

    /// The current state's seq.
    [[nodiscard]] Result<std::int64_t> current(JobId id);
    /// A number that differs once another connection has changed the book.
    [[nodiscard]] Result<std::int64_t> data_version();
    /// How many changes the book has seen in all its life.
    [[nodiscard]] Result<std::int64_t> changes();

    /// Writes a sound copy of the book, as it is at this moment, in one step.
    Result<void> copy_to(const std::filesystem::path& path);

    /// Makes the book what another book's file is, in one transaction.
    static Result<void> overwrite(Book& book, const std::filesystem::path& from);

    /// SQLite's own check of the whole file.
    Result<void> verify();
    /// The same, and every state of every job reads, and all they name is there and undamaged.
    Result<void> verify(const catalogue::Catalogue& parts);

    [[nodiscard]] const std::filesystem::path& path() const;

    struct Inside;

private:
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
