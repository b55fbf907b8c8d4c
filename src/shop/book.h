// SPDX-License-Identifier: GPL-3.0-or-later
// The shop book: one SQLite file with every job, its document and the history of its states.
#pragma once

#include <cstdint>
#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/catalogue.h"
#include "core/job/job.h"
#include "files/job_json.h"
#include "core/job/habits.h"
#include "files/own_parts.h"

namespace conductus::shop {

using JobId = std::int64_t;

/// A state of a job. The stamp is random and made with the state: no other state, in no other book,
/// has it. An empty one stands for whichever state has that place in the history.
struct At {
    std::int64_t seq = 0;
    std::string stamp;
    At() = default;
    At(std::int64_t s, std::string which = {}) : seq(s), stamp(std::move(which)) {} // NOLINT
    bool operator==(const At&) const = default;
};

/// A line of the shelf, without reading the document. Kind and stage are the document's words.
struct Entry {
    JobId id = 0;
    std::string uid; ///< random, made with the job, the same in every copy of the book
    std::string name, kind, purpose, stage, promised;
    bool came_back = false; ///< since it was last handed over
    At at;                  ///< which state is current
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
    std::string stamp;
};

struct Opened {
    JobId id = 0;
    std::string uid;
    job::Job job;
    At at; ///< which state of the history is current
    /// What the job was read with: the catalogue that was given, and the own parts of the book that
    /// it lacks; own parts as the job was planned with them.
    std::shared_ptr<const catalogue::Catalogue> parts;
    files::OwnParts own; ///< that the book has, to plan other states of the job with
};

/// A job with its whole history and all that its states name.
struct Whole {
    std::vector<HistoryState> states; ///< oldest first, at least one
    std::size_t current = 0;          ///< index in `states`
    files::Attachments attachments;   ///< pictures, kept states, own parts
    /// States that are kept as they are and can not be judged here, with the reason of the first.
    std::size_t unjudged = 0;
    std::string why_unjudged;
};

/// One version of a part of the shop's own.
struct OwnPart {
    std::string id;  ///< in the catalogue
    int version = 0; ///< counted from 1
    std::string
        definition; ///< as a catalogue file lists it, JSON; empty: it was taken off the shelf
    std::string at; ///< UTC, when that was
    bool operator==(const OwnPart&) const = default;
};

/// What a look at every byte of a book found of one job.
struct JobReport {
    std::string name;
    std::size_t states = 0; ///< that the book says the job has
    std::size_t whole = 0;  ///< that are whole
    bool current_lost = false;
    std::size_t unjudged = 0;      ///< whole, and can not be judged here
    std::vector<std::string> lost; ///< in words: which states, pictures; what of the job's own line
};
struct Report {
    std::vector<std::string> damage; ///< of the book itself
    std::vector<JobReport> jobs;
    [[nodiscard]] bool sound() const;
    /// One problem that says how much is damaged, and of which jobs; of a book that is not sound.
    [[nodiscard]] Problem problem(const std::filesystem::path& book) const;
};

enum class Access { read_write, read_only };

/// Newest format of a book. Older ones are brought up to it when they are opened for writing, after
/// a copy was laid beside them.
inline constexpr int book_format = 3;

/// Every call is one transaction; an error leaves the book as it was. Not thread-safe: one thread
/// at a time. Errors name the file and how to mend, and have a cause: not a book, a newer book,
/// damaged, locked by another program, read-only, disk full. Before anything is written, it is made
/// sure that the file at the path is still the book that was opened (Cause::moved).
class Book {
public:
    /// Opens; with read_write makes the file if it is not there or blank, in one step that never
    /// replaces one that is. With read_only neither the file nor its folder is written to. A book
    /// of another build than this program's is refused: only our own tables are read.
    static Result<Book> open(const std::filesystem::path& path, Access access);
    Book(Book&&) noexcept;
    Book& operator=(Book&&) noexcept;
    ~Book();

    [[nodiscard]] Result<std::vector<Entry>> entries();
    [[nodiscard]] Result<Opened> load(JobId id, const catalogue::Catalogue& parts);
    [[nodiscard]] Result<Opened> load(std::string_view name, const catalogue::Catalogue& parts);
    /// The job with that uid. Error (Cause::missing): it is not in the book.
    [[nodiscard]] Result<JobId> id_of(const std::string& uid);

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
    /// they came in under are returned. `go_on` is asked between states.
    Result<std::vector<std::string>> add_whole(std::vector<Whole> jobs,
                                               const files::GoOn& go_on = {});

    /// Keeps an edit: a new state after `at`; states that were undone are dropped. Returns the new
    /// state. Error (Cause::overtaken): `at` is no longer current, because another program wrote.
    Result<At> commit(JobId id, const At& at, const job::Job& job, const std::string& label,
                      const files::Attachments& attachments = {});

    /// Makes another state of the history current: undo and redo. `from` and errors as in commit.
    Result<At> move(JobId id, const At& from, std::int64_t to);

    /// Without the documents.
    [[nodiscard]] Result<std::vector<HistoryState>> history(JobId id);
    /// The document of one state. Errors: it is not there, or it is damaged.
    [[nodiscard]] Result<std::string> document(JobId id, const At& at);

    /// Error: not in the book, or no longer what its id says.
    [[nodiscard]] Result<files::Attachment> attachment(const std::string& id);
    /// All that a job's documents name, and the book's own parts that it uses.
    [[nodiscard]] Result<files::Attachments> attachments_of(const job::Job& job);
    /// Everything of a job; states that can not be judged with `parts` and the book's own are kept
    /// as they are.
    [[nodiscard]] Result<Whole> whole(JobId id, const catalogue::Catalogue& parts);
    /// The shop's own parts, each as it is now, by id; those that were taken off are left out.
    [[nodiscard]] Result<std::vector<OwnPart>> own_parts();
    /// Every version of one, oldest first.
    [[nodiscard]] Result<std::vector<OwnPart>> versions_of(const std::string& id);
    /// Keeps a definition as the newest version of the part it names, and returns that. The same
    /// definition again is no new version. Jobs that were planned with an older one keep that.
    /// `in_place_of`: the version it replaces where that is the newest, as one that is still being
    /// written; 0: none. Error: it is no part.
    Result<OwnPart> keep_own_part(const std::string& definition, int in_place_of = 0);
    /// Takes in the own parts of a catalogue that the book has never had, those of a folder of
    /// files that was in use before books kept them. Returns their ids.
    Result<std::vector<std::string>> take_in_parts(const catalogue::Catalogue& parts);
    /// Takes one off the shelf; jobs that use it keep it. Error: it is not there.
    Result<void> drop_own_part(const std::string& id);
    /// The readings a part was last measured by, as a table of files::readings_csv(); empty: none.
    [[nodiscard]] Result<std::string> readings_of(const std::string& id);
    /// Keeps them in place of those before; empty: none are kept.
    Result<void> keep_readings(const std::string& id, const std::string& csv);
    /// What the shop usually does; none kept: no habit. Error: what is kept can not be read.
    [[nodiscard]] Result<job::Habits> habits();
    Result<void> keep_habits(const job::Habits& habits);
    /// Names of the jobs whose current state uses a part.
    [[nodiscard]] Result<std::vector<std::string>> jobs_with(const std::string& id);
    /// The same of every part that is used, by its id; own parts and shipped ones.
    [[nodiscard]] Result<std::map<std::string, std::vector<std::string>>> uses_of_parts();

    /// `parts` with the own parts of the book, each as it is now.
    [[nodiscard]] Result<std::shared_ptr<const catalogue::Catalogue>>
    with_own_parts(const catalogue::Catalogue& parts);

    /// Takes in the definitions of own parts that its jobs use and the book lacks, for they were
    /// made before it kept any. True if there were some.
    Result<bool> adopt_parts(const catalogue::Catalogue& parts);

    /// The current state.
    [[nodiscard]] Result<At> current(JobId id);
    /// A number that differs once another connection has changed the book.
    [[nodiscard]] Result<std::int64_t> data_version();
    /// How many changes the book has seen in all its life, and the stamp of the last.
    struct Change {
        std::int64_t number = 0;
        std::string stamp;
        bool operator==(const Change&) const = default;
    };
    [[nodiscard]] Result<Change> last_change();
    /// Whether that change is one of this book's own life.
    [[nodiscard]] Result<bool> has_seen(const Change& change);
    /// Random, made with the book; the same in all its copies.
    [[nodiscard]] const std::string& identity() const;

    /// Error, of the kind that every write gives: the file at the path is no longer this book.
    [[nodiscard]] Result<void> check_place();
    /// How long a call waits for another program that writes.
    void be_patient(int milliseconds);

    /// Writes a copy of the book, as it is at this moment, into `part`, an empty file, and looks
    /// whether it is sound. Error: it is not, or it can not be written.
    Result<void> copy_into(const std::filesystem::path& part);
    /// The same in one step to a file of the program's own: what is at `path` is replaced.
    Result<void> copy_to(const std::filesystem::path& path);

    /// Makes the book what `from` is, in one transaction, in which `kept` is called first, with no
    /// other program writing in between. An error of `kept` leaves the book as it is.
    Result<void> become(Book& from, const std::function<Result<void>()>& kept);

    /// Looks at every byte: the file's own structure, our tables and no others, the seal of every
    /// row, every state by its hash, every name and count, all that documents name.
    [[nodiscard]] Result<Report> look_through(const catalogue::Catalogue* parts = nullptr);
    /// The same, in one problem.
    Result<void> verify();
    Result<void> verify(const catalogue::Catalogue& parts);

    [[nodiscard]] const std::filesystem::path& path() const;

    struct Inside;

private:
    /// The job as its current state has it, whether or not its parts are known.
    [[nodiscard]] Result<job::Job> current_job(const Entry& entry);
    explicit Book(std::unique_ptr<Inside> inside);
    std::unique_ptr<Inside> inside_;
};

/// Makes the book of a demo shop from every job file in `demo`, if there is no file at `path` yet,
/// or a blank one. True if it was made.
Result<bool> make_demo_book(const std::filesystem::path& path, const std::filesystem::path& demo,
                            const catalogue::Catalogue& parts);

/// A job to look at, and the parts it was judged with.
struct Named {
    job::Job job;
    std::shared_ptr<const catalogue::Catalogue> parts;
};

/// A job named on a command line: a file, or NAME@BOOK. A file of that very name goes first; where
/// a name or a path has an @ of its own, every one of them is tried.
Result<Named> job_named(const std::string& name, const catalogue::Catalogue& parts);

/// The text of a job file of what became of that job, with the pictures, kept states and own parts
/// that were beside it where it came from.
Result<std::string> text_of_named(const std::string& name, const Named& named);

} // namespace conductus::shop
