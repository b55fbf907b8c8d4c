// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/book.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <sqlite3.h>

#include "core/base/nearest.h"
#include "files/own_parts.h"
#include "shop/book_inside.h"
#include "shop/seal.h"

namespace conductus::shop {

Book::Book(std::unique_ptr<Inside> inside) : inside_(std::move(inside)) {}
Book::Book(Book&&) noexcept = default;
Book& Book::operator=(Book&&) noexcept = default;
Book::~Book() = default;

const std::filesystem::path& Book::path() const { return inside_->path; }
const std::string& Book::identity() const { return inside_->identity; }

Result<Opened> Book::load(JobId id, const catalogue::Catalogue& parts) {
    return inside_->reading<Opened>([&]() -> Result<Opened> {
        const auto row = inside_->job_row(id);
        if (!row) return tl::unexpected(row.error());
        const auto state = inside_->state_row(id, row->current);
        if (!state)
            return problem(files::path_text(inside_->path) + ", job " + row->name,
                           "the current state of the job is lost",
                           "Go back to a backup, or save what is whole: 'conductus-cli shop BOOK "
                           "rescue -o NEW'",
                           Cause::damaged);
        const auto document = inside_->document_of(id, *state);
        if (!document) return tl::unexpected(document.error());
        files::OwnParts own = inside_->own_parts();
        // What the job is planned with stands in its document.
        const auto json = files::parse_json(*document, row->name);
        job::Job named;
        if (json) named.planned_with = files::planned_with_in(*json);
        auto with = std::make_shared<const catalogue::Catalogue>(
            own.definitions.empty() ? parts : files::catalogue_for(named, parts, own));
        auto job = files::parse_stored(*document, *with, row->name);
        if (!job) return tl::unexpected(job.error());
        return Opened{id,   row->uid,      std::move(*job), At(row->current, state->stamp),
                      with, std::move(own)};
    });
}

Result<Opened> Book::load(std::string_view name, const catalogue::Catalogue& parts) {
    auto list = entries();
    if (!list) return tl::unexpected(list.error());
    std::vector<std::string> names;
    for (const Entry& e : *list) {
        if (e.name == name) return load(e.id, parts);
        names.push_back(shown(e.name, 60));
    }
    // All of them while they can be read at a glance; of more, the one that was meant.
    constexpr std::size_t at_a_glance = 12;
    const std::string nearest = nearest_word(name, names);
    const std::string mend =
        names.empty()                 ? "The book is empty"
        : names.size() <= at_a_glance ? fmt::format("There are: {}", fmt::join(names, ", "))
        : nearest.empty()
            ? fmt::format("'conductus-cli shop BOOK list' names all {} jobs", names.size())
            : fmt::format("Did you mean '{}'?", nearest);
    return problem(files::path_text(inside_->path),
                   say("there is no job named '{}'", shown(name, 60)), mend, Cause::missing);
}

Result<JobId> Book::id_of(const std::string& uid) {
    return inside_->guarded<JobId>([&]() -> Result<JobId> {
        SQLite::Statement q(*inside_->db, "SELECT id FROM job WHERE uid = ?");
        q.bind(1, uid);
        if (q.executeStep()) return q.getColumn(0).getInt64();
        return problem(files::path_text(inside_->path), "the job is not in this book",
                       "Keep it as a job of its own, or export it", Cause::missing);
    });
}

Result<std::shared_ptr<const catalogue::Catalogue>>
Book::with_own_parts(const catalogue::Catalogue& parts) {
    using Shared = std::shared_ptr<const catalogue::Catalogue>;
    return inside_->guarded<Shared>([&]() -> Result<Shared> {
        const auto own = inside_->own_parts();
        return std::make_shared<const catalogue::Catalogue>(
            own.definitions.empty() ? parts : files::catalogue_for({}, parts, own));
    });
}

Result<job::Job> Book::current_job(const Entry& entry) {
    const auto text = document(entry.id, entry.at);
    if (!text) return tl::unexpected(text.error());
    const auto json = files::parse_json(*text, entry.name);
    if (!json) return tl::unexpected(json.error());
    return files::read_document(*json, entry.name);
}

Result<bool> Book::adopt_parts(const catalogue::Catalogue& parts) {
    const auto missing = inside_->reading<files::Attachments>([&]() -> Result<files::Attachments> {
        files::Attachments own;
        const auto there = inside_->own_parts().definitions;
        const auto list = entries();
        if (!list) return tl::unexpected(list.error());
        for (const Entry& e : *list) {
            const auto job = current_job(e);
            if (!job) continue; // what is wrong with it is said elsewhere
            for (auto& [id, part] : files::own_parts_of(*job, parts))
                if (!there.contains(id)) own.emplace(id, part);
        }
        return own;
    });
    if (!missing) return tl::unexpected(missing.error());
    if (missing->empty()) return false;
    return inside_->writing<bool>([&]() -> Result<bool> {
        inside_->insert_attachments(*missing);
        return true;
    });
}

Result<JobId> Book::add(const job::Job& job, const std::string& label,
                        const files::Attachments& attachments) {
    return inside_->writing<JobId>([&]() -> Result<JobId> {
        if (inside_->has_job(job.name))
            return problem(files::path_text(inside_->path),
                           say("there is a job named '{}' already", shown(job.name, 60)),
                           "Give this one another name");
        JobRow row = inside_->insert_job(job.name);
        row.states = 1;
        inside_->insert_attachments(attachments);
        const files::Json document = files::job_json(job);
        inside_->insert_state(row, {0, label, now_utc(), files::json_text(document) + "\n", {}});
        if (auto ok = inside_->set_current(row, 0, document); !ok)
            return tl::unexpected(ok.error());
        return row.id;
    });
}

Result<std::vector<std::string>> Book::add_whole(std::vector<Whole> jobs,
                                                 const files::GoOn& go_on) {
    std::size_t all = 0, done = 0;
    for (const Whole& whole : jobs)
        all += whole.states.size();
    return inside_->writing<std::vector<std::string>>([&]() -> Result<std::vector<std::string>> {
        std::vector<std::string> names;
        for (const Whole& whole : jobs) {
            const HistoryState& now = whole.states.at(whole.current);
            auto current = files::parse_json(now.document, "import");
            if (!current) return tl::unexpected(current.error());
            const std::string called = current->is_object() ? text_at(*current, "name") : "";
            std::string name = called;
            for (int n = 2; name.empty() || inside_->has_job(name); ++n)
                name = fmt::format("{} {}", called.empty() ? "Job" : called, n);
            JobRow row = inside_->insert_job(name);
            row.states = static_cast<std::int64_t>(whole.states.size());
            inside_->insert_attachments(whole.attachments);
            std::int64_t seq = 0;
            for (const HistoryState& state : whole.states) {
                if (go_on && !go_on(static_cast<double>(++done) / static_cast<double>(all)))
                    return problem(files::path_text(inside_->path), "the import was stopped",
                                   "Nothing was taken in", Cause::stopped);
                // The document under another name, where it has the old one.
                std::string document = state.document;
                if (name != called) {
                    auto json = files::parse_json(document, "import");
                    if (!json) return tl::unexpected(json.error());
                    if (json->is_object() && text_at(*json, "name") == called) {
                        (*json)["name"] = name;
                        document = files::json_text(*json) + "\n";
                    }
                }
                inside_->insert_state(row, {seq++,
                                            state.label,
                                            state.at.empty() ? now_utc() : state.at,
                                            std::move(document),
                                            {}});
            }
            if (current->is_object()) (*current)["name"] = name;
            if (auto ok =
                    inside_->set_current(row, static_cast<std::int64_t>(whole.current), *current);
                !ok)
                return tl::unexpected(ok.error());
            names.push_back(std::move(name));
        }
        return names;
    });
}

Result<At> Book::commit(JobId id, const At& at, const job::Job& job, const std::string& label,
                        const files::Attachments& attachments) {
    return inside_->writing<At>([&]() -> Result<At> {
        auto row = inside_->expect_current(id, at);
        if (!row) return tl::unexpected(row.error());
        SQLite::Statement undone(*inside_->db, "DELETE FROM state WHERE job = ? AND seq > ?");
        undone.bind(1, id);
        undone.bind(2, at.seq);
        row->states += 1 - undone.exec();
        inside_->insert_attachments(attachments);
        const files::Json document = files::job_json(job);
        inside_->insert_state(
            *row, {at.seq + 1, label, now_utc(), files::json_text(document) + "\n", {}});
        return inside_->set_current(*row, at.seq + 1, document);
    });
}

Result<At> Book::move(JobId id, const At& from, std::int64_t to) {
    return inside_->writing<At>([&]() -> Result<At> {
        auto row = inside_->expect_current(id, from);
        if (!row) return tl::unexpected(row.error());
        const auto state = inside_->state_row(id, to);
        if (!state)
            return problem(files::path_text(inside_->path), "that state is not in the history",
                           "Open the job again", Cause::missing);
        const auto text = inside_->document_of(id, *state);
        if (!text) return tl::unexpected(text.error());
        const auto document = files::parse_json(*text, row->name);
        if (!document) return tl::unexpected(document.error());
        return inside_->set_current(*row, to, *document);
    });
}

Result<std::vector<HistoryState>> Book::history(JobId id) {
    return inside_->guarded<std::vector<HistoryState>>([&]() -> Result<std::vector<HistoryState>> {
        std::vector<HistoryState> list;
        SQLite::Statement q(*inside_->db,
                            "SELECT seq, label, at, stamp FROM state WHERE job = ? ORDER BY seq");
        q.bind(1, id);
        while (q.executeStep())
            list.push_back({q.getColumn(0).getInt64(),
                            q.getColumn(1).getString(),
                            q.getColumn(2).getString(),
                            {},
                            q.getColumn(3).getString()});
        return list;
    });
}

Result<std::string> Book::document(JobId id, const At& at) {
    return inside_->guarded<std::string>([&]() -> Result<std::string> {
        const auto state = inside_->state_row(id, at.seq);
        if (!state || (!at.stamp.empty() && state->stamp != at.stamp))
            return problem(files::path_text(inside_->path), "that state is not in the history",
                           "Open the job again", Cause::missing);
        return inside_->document_of(id, *state);
    });
}

Result<files::Attachment> Book::attachment(const std::string& id) {
    return inside_->guarded<files::Attachment>([&]() -> Result<files::Attachment> {
        SQLite::Statement q(*inside_->db, "SELECT type, bytes FROM attachment WHERE id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(files::path_text(inside_->path),
                           say("'{}' is not in the book", shown(id, 60)),
                           "Go back to a backup that has it", Cause::damaged);
        auto bytes = unpack_attachment(q.getColumn(1).getString());
        files::Attachment found{q.getColumn(0).getString(), bytes ? std::move(*bytes) : ""};
        if (!bytes || files::content_id(found.bytes) != id)
            return problem(files::path_text(inside_->path), say("'{}' is damaged", shown(id, 60)),
                           "Go back to a backup that has it whole", Cause::damaged);
        return found;
    });
}

namespace {

/// Adds what a document names and what its kept states name in turn.
Result<void> gather(Book& book, const files::Json& document, files::Attachments& all) {
    for (const std::string& id : named_in(document)) {
        if (all.contains(id)) continue;
        auto found = book.attachment(id);
        if (!found) return tl::unexpected(found.error());
        const bool kept = found->type == "job";
        const auto& added = all.emplace(id, std::move(*found)).first->second;
        if (!kept) continue;
        const auto state = files::parse_json(added.bytes, id);
        if (!state) return tl::unexpected(state.error());
        if (auto ok = gather(book, *state, all); !ok) return ok;
    }
    return {};
}

} // namespace

Result<files::Attachments> Book::attachments_of(const job::Job& job) {
    files::Attachments all;
    if (auto ok = gather(*this, files::job_json(job), all); !ok) return tl::unexpected(ok.error());
    return inside_->guarded<files::Attachments>([&]() -> Result<files::Attachments> {
        const auto own = inside_->own_parts();
        if (!own.definitions.empty())
            all.merge(
                files::own_parts_of(job, files::catalogue_for(job, catalogue::Catalogue(), own)));
        return all;
    });
}

Result<Whole> Book::whole(JobId id, const catalogue::Catalogue& parts) {
    return inside_->reading<Whole>([&]() -> Result<Whole> {
        Whole whole;
        const auto row = inside_->job_row(id);
        if (!row) return tl::unexpected(row.error());
        const files::OwnParts shelf = inside_->own_parts();
        const auto& own = shelf.definitions;
        const auto with = files::catalogue_for({}, parts, shelf);
        auto states = history(id);
        if (!states) return tl::unexpected(states.error());
        bool there = false;
        for (std::size_t i = 0; i < states->size(); ++i) {
            HistoryState& state = (*states)[i];
            if (state.seq == row->current) whole.current = i, there = true;
            const auto packed = inside_->state_row(id, state.seq);
            auto document = packed ? inside_->document_of(id, *packed)
                                   : Result<std::string>(problem("", "the state is lost"));
            if (!document) return tl::unexpected(document.error());
            const auto json = files::parse_json(*document, state.label);
            if (!json) return tl::unexpected(json.error());
            const auto job = files::read_stored(*json, with, state.label);
            if (!job) {
                if (whole.unjudged++ == 0) whole.why_unjudged = job.error().text();
            } else {
                whole.attachments.merge(files::own_parts_of(
                    *job,
                    job->planned_with.empty() ? with : files::catalogue_for(*job, parts, shelf)));
            }
            if (auto ok = gather(*this, *json, whole.attachments); !ok)
                return tl::unexpected(ok.error());
            state.document = std::move(*document);
        }
        // A state that no catalogue knows may need any of them.
        if (whole.unjudged > 0) whole.attachments.insert(own.begin(), own.end());
        whole.states = std::move(*states);
        if (!there)
            return problem(files::path_text(inside_->path) + ", job " + row->name,
                           "the current state of the job is lost", "Go back to a backup",
                           Cause::damaged);
        return whole;
    });
}

Result<At> Book::current(JobId id) {
    return inside_->guarded<At>([&]() -> Result<At> {
        SQLite::Statement q(*inside_->db,
                            "SELECT j.current, s.stamp FROM job j LEFT JOIN state s ON s.job = "
                            "j.id AND s.seq = j.current WHERE j.id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(files::path_text(inside_->path), "the job is no longer in the book",
                           "Keep it as a job of its own, or export it", Cause::missing);
        return At(q.getColumn(0).getInt64(), q.getColumn(1).getString());
    });
}

Result<std::int64_t> Book::data_version() {
    return inside_->guarded<std::int64_t>([&]() -> Result<std::int64_t> {
        return inside_->db->execAndGet("PRAGMA data_version").getInt64();
    });
}

Result<Book::Change> Book::last_change() {
    return inside_->guarded<Change>([&]() -> Result<Change> {
        SQLite::Statement q(*inside_->db, "SELECT changes, stamp FROM book JOIN change ON number = "
                                          "changes WHERE id = 1");
        if (!q.executeStep())
            return problem(files::path_text(inside_->path),
                           "the book does not say which of its changes was the last",
                           "Check the book: 'conductus-cli shop BOOK verify'", Cause::damaged);
        return Change{q.getColumn(0).getInt64(), q.getColumn(1).getString()};
    });
}

Result<bool> Book::has_seen(const Change& change) {
    return inside_->guarded<bool>([&]() -> Result<bool> {
        SQLite::Statement q(*inside_->db, "SELECT 1 FROM change WHERE number = ? AND stamp = ?");
        q.bind(1, change.number);
        q.bind(2, change.stamp);
        return q.executeStep();
    });
}

} // namespace conductus::shop
