// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/book.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <algorithm>
#include <fmt/format.h>
#include <set>
#include <unistd.h>

#include "shop/book_inside.h"

namespace conductus::shop {

Book::Book(std::unique_ptr<Inside> inside) : inside_(std::move(inside)) {}
Book::Book(Book&&) noexcept = default;
Book& Book::operator=(Book&&) noexcept = default;
Book::~Book() = default;

const std::filesystem::path& Book::path() const { return inside_->path; }

Result<void> Book::Inside::expect_current(JobId id, std::int64_t expected) {
    SQLite::Statement q(db, "SELECT current FROM job WHERE id = ?");
    q.bind(1, id);
    if (!q.executeStep())
        return problem(path.string(), "the job is no longer in the book", "Export it to keep it");
    if (q.getColumn(0).getInt64() != expected)
        return problem(path.string(), "another program changed this job meanwhile",
                       "Open the job again; nothing was overwritten");
    return {};
}

Result<void> Book::Inside::insert_state(JobId id, std::int64_t seq, const std::string& label,
                                        const std::string& at, const std::string& document) {
    SQLite::Statement s(db, "INSERT INTO state (job, seq, label, at, document) VALUES (?,?,?,?,?)");
    s.bind(1, id);
    s.bind(2, seq);
    s.bind(3, label);
    s.bind(4, at);
    s.bind(5, document);
    s.exec();
    return {};
}

void Book::Inside::insert_attachments(const files::Attachments& attachments) {
    for (const auto& [id, attachment] : attachments) {
        // The same bytes have the same id.
        SQLite::Statement s(db,
                            "INSERT OR IGNORE INTO attachment (id, type, bytes) VALUES (?,?,?)");
        s.bind(1, id);
        s.bind(2, attachment.type);
        s.bind(3, attachment.bytes.data(), static_cast<int>(attachment.bytes.size()));
        s.exec();
    }
}

bool Book::Inside::has_job(const std::string& name) {
    SQLite::Statement taken(db, "SELECT 1 FROM job WHERE name = ?");
    taken.bind(1, name);
    return taken.executeStep();
}

Result<JobId> Book::Inside::insert_job(const std::string& name) {
    SQLite::Statement s(db, "INSERT INTO job (name, current) VALUES (?, 0)");
    s.bind(1, name);
    s.exec();
    return db.getLastInsertRowid();
}

Result<std::vector<Entry>> Book::entries() {
    return inside_->guarded<std::vector<Entry>>([&]() -> Result<std::vector<Entry>> {
        std::vector<Entry> list;
        // A book of format 1, open for reading only, has the name and no more.
        const bool columns = inside_->db.execAndGet("PRAGMA user_version").getInt() >= 2;
        SQLite::Statement q(
            inside_->db,
            columns ? "SELECT j.id, j.name, j.current, s.at, kind, purpose, stage, promised, "
                      "came_back FROM job j JOIN state s ON s.job = j.id AND s.seq = j.current "
                      "ORDER BY j.id"
                    : "SELECT j.id, j.name, j.current, s.at, json_extract(s.document, '$.kind'), "
                      "json_extract(s.document, '$.purpose'), json_extract(s.document, '$.stage'), "
                      "json_extract(s.document, '$.promised'), 0 FROM job j JOIN state s ON "
                      "s.job = j.id AND s.seq = j.current ORDER BY j.id");
        while (q.executeStep()) {
            Entry e;
            e.id = q.getColumn(0).getInt64();
            e.name = q.getColumn(1).getString();
            e.seq = q.getColumn(2).getInt64();
            e.changed = q.getColumn(3).getString();
            e.kind = q.getColumn(4).getString();
            e.purpose = q.getColumn(5).getString();
            e.stage = q.getColumn(6).getString();
            e.promised = q.getColumn(7).getString();
            e.came_back = q.getColumn(8).getInt() != 0;
            list.push_back(std::move(e));
        }
        return list;
    });
}

namespace {

/// Each word in quotes, so that nothing typed is taken for the index's own language.
std::string query_of(const std::string& words) {
    std::string query, word;
    auto take = [&] {
        if (!word.empty()) query += (query.empty() ? "" : " ") + ("\"" + word + "\"*");
        word.clear();
    };
    for (const char c : words) {
        const auto u = static_cast<unsigned char>(c);
        if (u < 128 && !std::isalnum(u))
            take();
        else
            word += c;
    }
    take();
    return query;
}

constexpr const char* surroundings = "snippet(words, 0, '', '', '…', 7)";

} // namespace

Result<std::vector<Hit>> Book::find(const std::string& words) {
    const std::string query = query_of(words);
    return inside_->guarded<std::vector<Hit>>([&]() -> Result<std::vector<Hit>> {
        std::vector<Hit> hits;
        if (query.empty()) return hits;
        SQLite::Statement q(inside_->db,
                            fmt::format("SELECT j.id, j.name, {} FROM words JOIN job j ON j.id = "
                                        "words.rowid WHERE words MATCH ? ORDER BY rank",
                                        surroundings));
        q.bind(1, query);
        while (q.executeStep())
            hits.push_back({q.getColumn(0).getInt64(), q.getColumn(1).getString(),
                            q.getColumn(2).getString()});
        return hits;
    });
}

Result<std::vector<JobId>> Book::matching(const std::string& words) {
    const std::string query = query_of(words);
    return inside_->guarded<std::vector<JobId>>([&]() -> Result<std::vector<JobId>> {
        std::vector<JobId> ids;
        if (query.empty()) return ids;
        SQLite::Statement q(inside_->db, "SELECT rowid FROM words WHERE words MATCH ?");
        q.bind(1, query);
        while (q.executeStep())
            ids.push_back(q.getColumn(0).getInt64());
        return ids;
    });
}

Result<std::string> Book::excerpt(JobId id, const std::string& words) {
    const std::string query = query_of(words);
    return inside_->guarded<std::string>([&]() -> Result<std::string> {
        if (query.empty()) return std::string();
        SQLite::Statement q(
            inside_->db,
            fmt::format("SELECT {} FROM words WHERE words MATCH ? AND rowid = ?", surroundings));
        q.bind(1, query);
        q.bind(2, id);
        return q.executeStep() ? q.getColumn(0).getString() : std::string();
    });
}

Result<Opened> Book::load(JobId id, const catalogue::Catalogue& parts) {
    return inside_->guarded<Opened>([&]() -> Result<Opened> {
        SQLite::Statement q(inside_->db, "SELECT s.document, s.seq, j.name FROM job j JOIN state s "
                                         "ON s.job = j.id AND s.seq = j.current WHERE j.id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(inside_->path.string(), "the job is not in the book", "");
        auto job = files::parse_job(q.getColumn(0).getString(), parts, q.getColumn(2).getString());
        if (!job) return tl::unexpected(job.error());
        return Opened{id, std::move(*job), q.getColumn(1).getInt64()};
    });
}

Result<Opened> Book::load(std::string_view name, const catalogue::Catalogue& parts) {
    auto list = entries();
    if (!list) return tl::unexpected(list.error());
    std::string names;
    for (const Entry& e : *list) {
        if (e.name == name) return load(e.id, parts);
        names += (names.empty() ? "" : ", ") + e.name;
    }
    return problem(inside_->path.string(), fmt::format("there is no job named '{}'", name),
                   names.empty() ? "The book is empty" : "There are: " + names);
}

Result<JobId> Book::add(const job::Job& job, const std::string& label,
                        const files::Attachments& attachments) {
    return inside_->guarded<JobId>([&]() -> Result<JobId> {
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        if (inside_->has_job(job.name))
            return problem(inside_->path.string(),
                           fmt::format("there is a job named '{}' already", job.name),
                           "Give this one another name");
        const auto id = inside_->insert_job(job.name);
        inside_->insert_attachments(attachments);
        (void)inside_->insert_state(*id, 0, label, now_utc(), files::job_text(job));
        if (auto ok = inside_->set_current(*id, 0); !ok) return tl::unexpected(ok.error());
        t.commit();
        return id;
    });
}

namespace {

/// The document under another name, where it has the old one.
Result<std::string> renamed(const std::string& document, const std::string& from,
                            const std::string& to, const catalogue::Catalogue& parts) {
    auto job = files::parse_job(document, parts, from);
    if (!job) return tl::unexpected(job.error());
    if (job->name == from) job->name = to;
    return files::job_text(*job);
}

} // namespace

Result<std::vector<std::string>> Book::add_whole(std::vector<Whole> jobs,
                                                 const catalogue::Catalogue& parts) {
    return inside_->guarded<std::vector<std::string>>([&]() -> Result<std::vector<std::string>> {
        std::vector<std::string> names;
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        for (Whole& whole : jobs) {
            const auto job =
                files::parse_job(whole.states.at(whole.current).document, parts, "import");
            if (!job) return tl::unexpected(job.error());
            std::string name = job->name;
            for (int n = 2; inside_->has_job(name); ++n)
                name = fmt::format("{} {}", job->name, n);
            const auto id = inside_->insert_job(name);
            inside_->insert_attachments(whole.attachments);
            std::int64_t seq = 0;
            for (HistoryState& state : whole.states) {
                auto document = renamed(state.document, job->name, name, parts);
                if (!document) return tl::unexpected(document.error());
                (void)inside_->insert_state(*id, seq++, state.label,
                                            state.at.empty() ? now_utc() : state.at, *document);
            }
            if (auto ok = inside_->set_current(*id, static_cast<std::int64_t>(whole.current)); !ok)
                return tl::unexpected(ok.error());
            names.push_back(std::move(name));
        }
        t.commit();
        return names;
    });
}

Result<std::int64_t> Book::commit(JobId id, std::int64_t seq, const job::Job& job,
                                  const std::string& label, const files::Attachments& attachments) {
    return inside_->guarded<std::int64_t>([&]() -> Result<std::int64_t> {
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        if (auto ok = inside_->expect_current(id, seq); !ok) return tl::unexpected(ok.error());
        SQLite::Statement undone(inside_->db, "DELETE FROM state WHERE job = ? AND seq > ?");
        undone.bind(1, id);
        undone.bind(2, seq);
        undone.exec();
        inside_->insert_attachments(attachments);
        (void)inside_->insert_state(id, seq + 1, label, now_utc(), files::job_text(job));
        if (auto ok = inside_->set_current(id, seq + 1); !ok) return tl::unexpected(ok.error());
        t.commit();
        return seq + 1;
    });
}

Result<void> Book::move(JobId id, std::int64_t from, std::int64_t to) {
    return inside_->guarded<void>([&]() -> Result<void> {
        SQLite::Transaction t(inside_->db, SQLite::TransactionBehavior::IMMEDIATE);
        if (auto ok = inside_->expect_current(id, from); !ok) return ok;
        if (auto ok = inside_->set_current(id, to); !ok) return ok;
        t.commit();
        return {};
    });
}

Result<std::vector<HistoryState>> Book::history(JobId id) {
    return inside_->guarded<std::vector<HistoryState>>([&]() -> Result<std::vector<HistoryState>> {
        std::vector<HistoryState> list;
        SQLite::Statement q(
            inside_->db, "SELECT seq, label, at, document FROM state WHERE job = ? ORDER BY seq");
        q.bind(1, id);
        while (q.executeStep())
            list.push_back({q.getColumn(0).getInt64(), q.getColumn(1).getString(),
                            q.getColumn(2).getString(), q.getColumn(3).getString()});
        return list;
    });
}

Result<files::Attachment> Book::attachment(const std::string& id) {
    return inside_->guarded<files::Attachment>([&]() -> Result<files::Attachment> {
        SQLite::Statement q(inside_->db, "SELECT type, bytes FROM attachment WHERE id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(inside_->path.string(), fmt::format("'{}' is not in the book", id),
                           "Go back to a backup that has it");
        files::Attachment found{q.getColumn(0).getString(), q.getColumn(1).getString()};
        if (files::content_id(found.bytes) != id)
            return problem(inside_->path.string(), fmt::format("'{}' is damaged", id),
                           "Go back to a backup that has it whole");
        return found;
    });
}

Result<files::Attachments> Book::attachments_of(const job::Job& job,
                                                const catalogue::Catalogue& parts) {
    files::Attachments all;
    std::vector<std::string> wanted = files::pictures_of(job);
    for (const std::string& id : files::kept_of(job)) {
        auto kept = attachment(id);
        if (!kept) return tl::unexpected(kept.error());
        const auto state = files::parse_job(kept->bytes, parts, job.name);
        if (!state) return tl::unexpected(state.error());
        const auto more = files::pictures_of(*state);
        wanted.insert(wanted.end(), more.begin(), more.end());
        all.emplace(id, std::move(*kept));
    }
    for (const std::string& id : wanted) {
        if (all.contains(id)) continue;
        auto picture = attachment(id);
        if (!picture) return tl::unexpected(picture.error());
        all.emplace(id, std::move(*picture));
    }
    return all;
}

Result<Whole> Book::whole(JobId id, const catalogue::Catalogue& parts) {
    Whole whole;
    auto states = history(id);
    if (!states) return tl::unexpected(states.error());
    const auto at = current(id);
    if (!at) return tl::unexpected(at.error());
    for (std::size_t i = 0; i < states->size(); ++i) {
        const HistoryState& state = (*states)[i];
        if (state.seq == *at) whole.current = i;
        const auto job = files::parse_job(state.document, parts, state.label);
        if (!job) return tl::unexpected(job.error());
        auto named = attachments_of(*job, parts);
        if (!named) return tl::unexpected(named.error());
        whole.attachments.merge(*named);
    }
    whole.states = std::move(*states);
    return whole;
}

Result<std::int64_t> Book::current(JobId id) {
    return inside_->guarded<std::int64_t>([&]() -> Result<std::int64_t> {
        SQLite::Statement q(inside_->db, "SELECT current FROM job WHERE id = ?");
        q.bind(1, id);
        if (!q.executeStep())
            return problem(inside_->path.string(), "the job is no longer in the book", "");
        return q.getColumn(0).getInt64();
    });
}

Result<std::int64_t> Book::data_version() {
    return inside_->guarded<std::int64_t>([&]() -> Result<std::int64_t> {
        return inside_->db.execAndGet("PRAGMA data_version").getInt64();
    });
}

Result<std::int64_t> Book::changes() {
    return inside_->guarded<std::int64_t>([&]() -> Result<std::int64_t> {
        return inside_->db.execAndGet("SELECT changes FROM life").getInt64();
    });
}

Result<void> Book::copy_to(const std::filesystem::path& path) {
    const std::filesystem::path partial = path.string() + fmt::format(".{}.part", ::getpid());
    std::error_code error;
    std::filesystem::remove(partial, error);
    auto ok = inside_->guarded<void>([&]() -> Result<void> {
        vacuum_into(inside_->db, partial);
        return {};
    });
    if (!ok) {
        std::filesystem::remove(partial, error);
        ok.error().where = path.string();
        return ok;
    }
    return settle(partial, path);
}

Result<void> Book::verify() {
    return inside_->guarded<void>([&]() -> Result<void> {
        const std::string said = inside_->db.execAndGet("PRAGMA integrity_check").getString();
        if (said == "ok") return {};
        return problem(inside_->path.string(), "the shop book is damaged: " + said,
                       "Keep the file and go back to a backup of it");
    });
}

Result<void> Book::verify(const catalogue::Catalogue& parts) {
    if (auto ok = verify(); !ok) return ok;
    const auto list = entries();
    if (!list) return tl::unexpected(list.error());
    for (const Entry& e : *list) {
        auto all = whole(e.id, parts);
        if (all && std::none_of(all->states.begin(), all->states.end(),
                                [&](auto& s) { return s.seq == e.seq; }))
            all = problem(e.name, "its current state is not in its history", "");
        if (!all) {
            Problem p = all.error();
            p.where = inside_->path.string() + ", job " + e.name;
            if (p.mend.empty()) p.mend = "Go back to a backup of the book";
            return tl::unexpected(p);
        }
    }
    return {};
}

} // namespace conductus::shop
