// SPDX-License-Identifier: GPL-3.0-or-later
// What the book's own sources share: the database, and how it is read and written.
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>

#include "shop/book.h"
#include "shop/packed.h"
#include "shop/place.h"
#include "shop/schema.h"

namespace conductus::shop {

std::string now_utc();

/// Most states that lie between one that is kept whole and one that is told from it.
inline constexpr std::int64_t most_from_one_base = 32;

/// The row of `job`, for reading, writing and sealing alike.
struct JobRow {
    JobId id = 0;
    std::string uid, name;
    std::int64_t current = 0, states = 0;
    std::string kind, purpose, stage, promised;
    bool came_back = false;
    [[nodiscard]] std::string seal() const;
};

/// The row of `state`.
struct StateRow {
    std::int64_t seq = 0;
    std::string stamp, label, at, hash;
    std::optional<std::int64_t> base;
    std::string body, seal;
    /// A state of another job, in another place, is not this one.
    [[nodiscard]] std::string seal_in(const std::string& job_uid) const;
};

/// The row of `book`.
struct BookRow {
    std::string identity;
    std::int64_t changes = 0, jobs = 0, states = 0, attachments = 0;
    [[nodiscard]] std::string seal(const std::string& last_stamp) const;
};

/// The text under a key of an object; empty where there is none.
std::string text_at(const files::Json& object, const char* key);

/// Columns of a job's row, and its words, from its current document.
void follow(JobRow& row, const files::Json& document);
std::string words_of(const files::Json& document);

/// Ids of pictures and kept states that a document names.
std::vector<std::string> named_in(const files::Json& document);

struct Book::Inside {
    std::filesystem::path path; ///< as it was asked for
    std::filesystem::path file; ///< what is open: a private copy, where an older format is read
    std::optional<PrivateFolder> copy;
    std::unique_ptr<SQLite::Database> db;
    Access access = Access::read_only;
    std::string identity;
    Fingerprint seen;
    int patience_ms = 0;
    Packer packer;

    /// Runs `work` so that no exception leaves.
    template <class T, class Work>
    Result<T> guarded(Work&& work) {
        try {
            return work();
        } catch (const SQLite::Exception& e) {
            return tl::unexpected(explained(e, path));
        } catch (const std::bad_alloc&) {
            return problem(files::path_text(path), "there is not enough memory for this",
                           "Close other programs", Cause::other);
        }
    }
    /// Everything that `work` reads is of one moment.
    template <class T, class Work>
    Result<T> reading(Work&& work) {
        return guarded<T>([&]() -> Result<T> {
            const SQLite::Transaction one_moment(*db);
            return work();
        });
    }
    /// `work` in one transaction that counts as a change of the book; what it returns an error of
    /// is not kept. What is written goes into the book that was opened, or nowhere.
    template <class T, class Work>
    Result<T> writing(Work&& work) {
        return guarded<T>([&]() -> Result<T> {
            constexpr int tries = 3;
            for (int n = 1;; ++n) {
                {
                    SQLite::Transaction t(*db, SQLite::TransactionBehavior::IMMEDIATE);
                    const auto as_seen = is_as_seen();
                    if (!as_seen) return tl::unexpected(as_seen.error());
                    if (*as_seen || n == tries) {
                        auto result = work();
                        if (!result) return result;
                        count_change();
                        t.commit();
                        // The bytes lie under that name now. Whoever replaced the file in the
                        // meantime is told by the next write; this one is in the file that was
                        // opened.
                        if (const auto now = fingerprint_of(path)) seen = *now;
                        return result;
                    }
                }
                if (auto ok = open_again(); !ok) return tl::unexpected(ok.error());
            }
        });
    }

    /// Error: there is no such file any more, or another one. False: somebody wrote into it since.
    Result<bool> is_as_seen();
    /// A new connection to the same book, which remembers nothing of what the file was.
    Result<void> open_again();
    Result<void> connect();
    /// What a book that was just connected to is. A journal that a killed program left is played
    /// back by that, which may make the file shorter.
    Result<Kind> look_at();

    [[nodiscard]] Result<JobRow> job_row(JobId id);
    /// Over the row of the same id; an id of 0 adds one. Returns its id.
    JobId write_job_row(const JobRow& row);
    [[nodiscard]] BookRow book_row();
    void count_change();

    [[nodiscard]] std::optional<StateRow> state_row(JobId id, std::int64_t seq);
    /// The document of a row, its hash held. Error: damaged.
    Result<std::string> document_of(JobId id, const StateRow& row);
    /// Adds a state whose document may be told from that of the one before it. Without a stamp it
    /// gets a random one.
    void insert_state(const JobRow& job, const HistoryState& state);
    /// Error where the job is gone or `at` is not current.
    Result<JobRow> expect_current(JobId id, const At& at);
    void insert_attachments(const files::Attachments& attachments);
    /// Every definition there is, and which are on the shelf.
    files::OwnParts own_parts();
    /// Every version of every own part, by id, oldest first.
    std::map<std::string, std::vector<OwnPart>> own_versions();
    /// Adds a version; an empty definition takes the part off the shelf.
    OwnPart add_own_version(const std::string& id, const std::string& definition);
    /// Keeps an attachment under the hash of its bytes, unless it is there.
    void add_attachment(const std::string& type, const std::string& bytes);
    /// The readings of a part: what names the attachment, and the table.
    std::pair<std::string, std::string> readings_of(const std::string& id);
    /// Id of the attachment and its text; both empty: there are none.
    std::pair<std::string, std::string> kept_habits();
    /// Makes a state current; name, columns and words follow it. Error: its name is taken.
    Result<At> set_current(JobRow& row, std::int64_t seq, const files::Json& document);
    [[nodiscard]] bool has_job(const std::string& name);
    JobRow insert_job(const std::string& name);
    /// Takes in what a book of an older format holds.
    Result<void> take_from_old(SQLite::Database& old, int version);

private:
    /// Has the document of a state that is kept whole at hand in `base_document`.
    bool have_base(JobId id, std::int64_t seq);

    // The base that was last needed, for reading a history in order. Another program may have put
    // another state in its place: its hash tells.
    JobId base_job_ = 0;
    std::int64_t base_seq_ = -1;
    std::string base_hash_, base_document_;
};

/// Writes how much the book holds, and the stamp of its last change.
void write_book_row(SQLite::Database& db, const BookRow& row, const std::string& stamp);

/// Makes an empty book in a file that is there and empty.
Result<void> make_book(const std::filesystem::path& part);

/// Copies an older format's book before it is brought up to date.
Result<void> keep_before_migration(SQLite::Database& db, const std::filesystem::path& book,
                                   int version, std::filesystem::path& copy);

/// A copy of an open database in an empty file.
void vacuum_into(SQLite::Database& db, const std::filesystem::path& path);

} // namespace conductus::shop
