// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/book.h"

#include <algorithm>
#include <fmt/format.h>
#include <sqlite3.h>

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

std::string JobRow::seal() const {
    return seal_of({std::to_string(id), uid, name, std::to_string(current), std::to_string(states),
                    kind, purpose, stage, promised, came_back ? "1" : "0"});
}

std::string StateRow::seal_in(const std::string& job_uid) const {
    return seal_of({job_uid, std::to_string(seq), stamp, label, at, hash,
                    base ? std::to_string(*base) : std::string("-")});
}

std::string BookRow::seal(const std::string& last_stamp) const {
    return seal_of({identity, std::to_string(changes), std::to_string(jobs), std::to_string(states),
                    std::to_string(attachments), last_stamp});
}

std::string text_at(const files::Json& object, const char* key) {
    if (!object.is_object()) return {};
    const auto it = object.find(key);
    return it != object.end() && it->is_string() ? it->get<std::string>() : std::string();
}

void follow(JobRow& row, const files::Json& document) {
    if (!document.is_object()) return;
    row.kind = text_at(document, "kind");
    row.purpose = text_at(document, "purpose");
    row.stage = text_at(document, "stage");
    row.promised = text_at(document, "promised");
    row.came_back = false;
    const auto milestones = document.find("milestones");
    if (milestones == document.end() || !milestones->is_array()) return;
    for (const auto& milestone : *milestones) {
        const std::string mark = milestone.is_object() ? text_at(milestone, "mark") : std::string();
        if (mark == "handed over" || mark == "came back") row.came_back = mark == "came back";
    }
}

std::string words_of(const files::Json& document) {
    std::string all;
    const auto visit = [&](const auto& self, const files::Json& value) -> void {
        if (value.is_string()) {
            const auto& text = value.get_ref<const std::string&>();
            if (!text.empty()) all += (all.empty() ? "" : " · ") + text;
        } else if (value.is_array()) {
            for (const auto& entry : value)
                self(self, entry);
        } else if (value.is_object()) {
            for (const auto& [key, entry] : value.items())
                if (key != "kept" && key != "id" && key != "format") self(self, entry);
        }
    };
    visit(visit, document);
    return all;
}

std::vector<std::string> named_in(const files::Json& document) {
    std::vector<std::string> ids;
    const auto each = [](const files::Json& owner, const char* list, auto&& take) {
        if (!owner.is_object()) return;
        const auto it = owner.find(list);
        if (it == owner.end() || !it->is_array()) return;
        for (const auto& entry : *it)
            take(entry);
    };
    const auto id = [&](const files::Json& entry, const char* key) {
        if (!entry.is_object()) return;
        if (std::string text = text_at(entry, key); !text.empty()) ids.push_back(std::move(text));
    };
    each(document, "inspection", [&](const files::Json& item) {
        each(item, "pictures", [&](const files::Json& picture) { id(picture, "id"); });
    });
    each(document, "milestones", [&](const files::Json& milestone) { id(milestone, "kept"); });
    return ids;
}

Result<JobRow> Book::Inside::job_row(JobId id) {
    SQLite::Statement q(*db, "SELECT uid, name, current, states, kind, purpose, stage, promised, "
                             "came_back FROM job WHERE id = ?");
    q.bind(1, id);
    if (!q.executeStep())
        return problem(files::path_text(path), "the job is no longer in the book",
                       "Export it to keep it", Cause::missing);
    JobRow row;
    row.id = id;
    row.uid = q.getColumn(0).getString();
    row.name = q.getColumn(1).getString();
    row.current = q.getColumn(2).getInt64();
    row.states = q.getColumn(3).getInt64();
    row.kind = q.getColumn(4).getString();
    row.purpose = q.getColumn(5).getString();
    row.stage = q.getColumn(6).getString();
    row.promised = q.getColumn(7).getString();
    row.came_back = q.getColumn(8).getInt() != 0;
    return row;
}

void Book::Inside::write_job_row(const JobRow& row) {
    SQLite::Statement s(*db, "UPDATE job SET uid = ?, name = ?, current = ?, states = ?, kind = ?, "
                             "purpose = ?, stage = ?, promised = ?, came_back = ?, seal = ? "
                             "WHERE id = ?");
    s.bind(1, row.uid);
    s.bind(2, row.name);
    s.bind(3, row.current);
    s.bind(4, row.states);
    s.bind(5, row.kind);
    s.bind(6, row.purpose);
    s.bind(7, row.stage);
    s.bind(8, row.promised);
    s.bind(9, row.came_back ? 1 : 0);
    s.bind(10, row.seal());
    s.bind(11, row.id);
    s.exec();
}

BookRow Book::Inside::book_row() {
    SQLite::Statement q(
        *db, "SELECT identity, changes, jobs, states, attachments FROM book WHERE id = 1");
    BookRow row;
    if (!q.executeStep()) throw SQLite::Exception("no row", SQLITE_CORRUPT);
    row.identity = q.getColumn(0).getString();
    row.changes = q.getColumn(1).getInt64();
    row.jobs = q.getColumn(2).getInt64();
    row.states = q.getColumn(3).getInt64();
    row.attachments = q.getColumn(4).getInt64();
    return row;
}

void Book::Inside::count_change() {
    BookRow row = book_row();
    ++row.changes;
    row.jobs = db->execAndGet("SELECT count(*) FROM job").getInt64();
    row.states = db->execAndGet("SELECT coalesce(sum(states), 0) FROM job").getInt64();
    row.attachments = db->execAndGet("SELECT count(*) FROM attachment").getInt64();
    const std::string stamp = random_id();
    SQLite::Statement change(*db, "INSERT OR REPLACE INTO change (number, stamp) VALUES (?, ?)");
    change.bind(1, row.changes);
    change.bind(2, stamp);
    change.exec();
    SQLite::Statement s(*db, "UPDATE book SET identity = ?, changes = ?, jobs = ?, states = ?, "
                             "attachments = ?, seal = ? WHERE id = 1");
    s.bind(1, row.identity);
    s.bind(2, row.changes);
    s.bind(3, row.jobs);
    s.bind(4, row.states);
    s.bind(5, row.attachments);
    s.bind(6, row.seal(stamp));
    s.exec();
}

std::optional<StateRow> Book::Inside::state_row(JobId id, std::int64_t seq) {
    SQLite::Statement q(
        *db,
        "SELECT stamp, label, at, hash, base, body, seal FROM state WHERE job = ? AND seq = ?");
    q.bind(1, id);
    q.bind(2, seq);
    if (!q.executeStep()) return std::nullopt;
    StateRow row;
    row.seq = seq;
    row.stamp = q.getColumn(0).getString();
    row.label = q.getColumn(1).getString();
    row.at = q.getColumn(2).getString();
    row.hash = q.getColumn(3).getString();
    if (!q.getColumn(4).isNull()) row.base = q.getColumn(4).getInt64();
    row.body = q.getColumn(5).getString();
    row.seal = q.getColumn(6).getString();
    return row;
}

Result<std::string> Book::Inside::document_of(JobId id, const StateRow& row) {
    const auto damaged = [&] {
        return problem(files::path_text(path),
                       fmt::format("state {} of a job is damaged", row.seq + 1),
                       "Go back to a backup that has it whole, or save what is whole: "
                       "'conductus-cli shop BOOK rescue -o NEW'",
                       Cause::damaged);
    };
    if (row.base && (base_job != id || base_seq != *row.base || base_document.empty())) {
        // A base is told from nothing: there is never a second step.
        auto base = state_row(id, *row.base);
        if (!base || base->base) return damaged();
        auto document = packer.unpack(base->body, {});
        if (!document || files::content_id(*document) != base->hash) return damaged();
        base_job = id;
        base_seq = *row.base;
        base_hash = base->hash;
        base_document = std::move(*document);
    }
    auto document = packer.unpack(row.body, row.base ? base_document : std::string_view());
    if (!document || files::content_id(*document) != row.hash) {
        base_document.clear();
        return damaged();
    }
    return std::move(*document);
}

Result<std::string> Book::Inside::insert_state(const JobRow& job, std::int64_t seq,
                                               const std::string& label, const std::string& at,
                                               const std::string& document) {
    StateRow row;
    row.seq = seq;
    row.stamp = random_id();
    row.label = label;
    row.at = at;
    row.hash = files::content_id(document);
    // Told from the state the one before it is told from, while that is near.
    if (const auto before = seq > 0 ? state_row(job.id, seq - 1) : std::nullopt) {
        const std::int64_t from = before->base.value_or(before->seq);
        if (seq - from < most_from_one_base) {
            StateRow as{.seq = seq};
            as.base = from;
            bool at_hand = base_job == job.id && base_seq == from && !base_document.empty();
            if (!at_hand) {
                const auto base = state_row(job.id, from);
                auto whole = base && !base->base ? packer.unpack(base->body, {}) : std::nullopt;
                if (whole && files::content_id(*whole) == base->hash) {
                    base_job = job.id;
                    base_seq = from;
                    base_hash = base->hash;
                    base_document = std::move(*whole);
                    at_hand = true;
                }
            }
            if (at_hand) {
                row.base = from;
                row.body = packer.pack(document, base_document);
            }
        }
    }
    if (!row.base) {
        row.body = packer.pack(document, {});
        base_job = job.id;
        base_seq = seq;
        base_hash = row.hash;
        base_document = document;
    }
    SQLite::Statement s(*db, "INSERT INTO state (job, seq, stamp, label, at, hash, base, body, "
                             "seal) VALUES (?,?,?,?,?,?,?,?,?)");
    s.bind(1, job.id);
    s.bind(2, seq);
    s.bind(3, row.stamp);
    s.bind(4, row.label);
    s.bind(5, row.at);
    s.bind(6, row.hash);
    if (row.base) s.bind(7, *row.base);
    s.bind(8, row.body.data(), static_cast<int>(row.body.size()));
    s.bind(9, row.seal_in(job.uid));
    s.exec();
    return row.stamp;
}

Result<JobRow> Book::Inside::expect_current(JobId id, const At& at) {
    auto row = job_row(id);
    if (!row) return row;
    const auto state = state_row(id, row->current);
    if (row->current != at.seq || !state || (!at.stamp.empty() && state->stamp != at.stamp))
        return problem(files::path_text(path), "another program changed this job meanwhile",
                       "Open the job again; nothing was overwritten", Cause::overtaken);
    return row;
}

void Book::Inside::insert_attachments(const files::Attachments& attachments) {
    for (const auto& [id, attachment] : attachments) {
        // The same bytes have the same id.
        SQLite::Statement s(*db,
                            "INSERT OR IGNORE INTO attachment (id, type, bytes) VALUES (?,?,?)");
        s.bind(1, id);
        s.bind(2, attachment.type);
        s.bind(3, attachment.bytes.data(), static_cast<int>(attachment.bytes.size()));
        s.exec();
    }
}

files::Attachments Book::Inside::own_parts() {
    files::Attachments own;
    SQLite::Statement q(*db, "SELECT id, bytes FROM attachment WHERE type = 'part'");
    while (q.executeStep()) {
        files::Attachment part{"part", q.getColumn(1).getString()};
        std::string id = q.getColumn(0).getString();
        if (files::content_id(part.bytes) == id) own.emplace(std::move(id), std::move(part));
    }
    return own;
}

bool Book::Inside::has_job(const std::string& name) {
    SQLite::Statement taken(*db, "SELECT 1 FROM job WHERE name = ?");
    taken.bind(1, name);
    return taken.executeStep();
}

JobRow Book::Inside::insert_job(const std::string& name) {
    JobRow row;
    row.uid = random_id();
    row.name = name;
    SQLite::Statement s(*db,
                        "INSERT INTO job (uid, name, current, states, kind, purpose, stage, "
                        "promised, came_back, seal) VALUES (?, ?, 0, 0, '', '', '', '', 0, '')");
    s.bind(1, row.uid);
    s.bind(2, row.name);
    s.exec();
    row.id = db->getLastInsertRowid();
    return row;
}

Result<At> Book::Inside::set_current(JobRow& row, std::int64_t seq, const files::Json& document) {
    const std::string name = document.is_object() ? text_at(document, "name") : std::string();
    if (!name.empty() && name != row.name) {
        if (has_job(name))
            return problem(files::path_text(path),
                           fmt::format("there is another job named '{}' already", shown(name, 60)),
                           "Give one of them another name");
        row.name = name;
    }
    row.current = seq;
    follow(row, document);
    write_job_row(row);
    SQLite::Statement forget(*db, "DELETE FROM words WHERE rowid = ?");
    forget.bind(1, row.id);
    forget.exec();
    SQLite::Statement learn(*db, "INSERT INTO words (rowid, text) VALUES (?, ?)");
    learn.bind(1, row.id);
    learn.bind(2, words_of(document));
    learn.exec();
    const auto state = state_row(row.id, seq);
    return At(seq, state ? state->stamp : std::string());
}

Result<std::vector<Entry>> Book::entries() {
    return inside_->guarded<std::vector<Entry>>([&]() -> Result<std::vector<Entry>> {
        std::vector<Entry> list;
        SQLite::Statement q(
            *inside_->db,
            "SELECT j.id, j.uid, j.name, j.current, s.stamp, s.at, kind, purpose, stage, promised, "
            "came_back FROM job j LEFT JOIN state s ON s.job = j.id AND s.seq = j.current "
            "ORDER BY j.id");
        while (q.executeStep()) {
            Entry e;
            e.id = q.getColumn(0).getInt64();
            e.uid = q.getColumn(1).getString();
            e.name = q.getColumn(2).getString();
            e.at = At(q.getColumn(3).getInt64(), q.getColumn(4).getString());
            e.changed = q.getColumn(5).getString();
            e.kind = q.getColumn(6).getString();
            e.purpose = q.getColumn(7).getString();
            e.stage = q.getColumn(8).getString();
            e.promised = q.getColumn(9).getString();
            e.came_back = q.getColumn(10).getInt() != 0;
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
        SQLite::Statement q(*inside_->db,
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
        SQLite::Statement q(*inside_->db, "SELECT rowid FROM words WHERE words MATCH ?");
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
            *inside_->db,
            fmt::format("SELECT {} FROM words WHERE words MATCH ? AND rowid = ?", surroundings));
        q.bind(1, query);
        q.bind(2, id);
        return q.executeStep() ? q.getColumn(0).getString() : std::string();
    });
}

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
        auto with = with_own_parts(parts);
        if (!with) return tl::unexpected(with.error());
        auto job = files::parse_job(*document, **with, row->name);
        if (!job) return tl::unexpected(job.error());
        return Opened{id, row->uid, std::move(*job), At(row->current, state->stamp), *with};
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
    return problem(files::path_text(inside_->path),
                   fmt::format("there is no job named '{}'", shown(name, 60)),
                   names.empty() ? "The book is empty" : "There are: " + names, Cause::missing);
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
        return files::brings_parts(parts, own)
                   ? std::make_shared<const catalogue::Catalogue>(files::with_own_parts(parts, own))
                   : std::make_shared<const catalogue::Catalogue>(parts);
    });
}

Result<bool> Book::adopt_parts(const catalogue::Catalogue& parts) {
    const auto missing = inside_->reading<files::Attachments>([&]() -> Result<files::Attachments> {
        files::Attachments own;
        const auto there = inside_->own_parts();
        const auto list = entries();
        if (!list) return tl::unexpected(list.error());
        for (const Entry& e : *list) {
            const auto text = document(e.id, e.at);
            const auto json = text ? files::parse_json(*text, e.name)
                                   : Result<files::Json>(tl::unexpected(text.error()));
            const auto job = json ? files::read_document(*json, e.name)
                                  : Result<job::Job>(tl::unexpected(json.error()));
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
                           fmt::format("there is a job named '{}' already", shown(job.name, 60)),
                           "Give this one another name");
        JobRow row = inside_->insert_job(job.name);
        row.states = 1;
        inside_->insert_attachments(attachments);
        const files::Json document = files::job_json(job);
        (void)inside_->insert_state(row, 0, label, now_utc(), files::json_text(document) + "\n");
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
                (void)inside_->insert_state(row, seq++, state.label,
                                            state.at.empty() ? now_utc() : state.at, document);
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
        (void)inside_->insert_state(*row, at.seq + 1, label, now_utc(),
                                    files::json_text(document) + "\n");
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
                           fmt::format("'{}' is not in the book", shown(id, 60)),
                           "Go back to a backup that has it", Cause::damaged);
        files::Attachment found{q.getColumn(0).getString(), q.getColumn(1).getString()};
        if (files::content_id(found.bytes) != id)
            return problem(files::path_text(inside_->path),
                           fmt::format("'{}' is damaged", shown(id, 60)),
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
        if (!own.empty())
            all.merge(files::own_parts_of(job, files::with_own_parts(catalogue::Catalogue(), own)));
        return all;
    });
}

Result<Whole> Book::whole(JobId id, const catalogue::Catalogue& parts) {
    return inside_->reading<Whole>([&]() -> Result<Whole> {
        Whole whole;
        const auto row = inside_->job_row(id);
        if (!row) return tl::unexpected(row.error());
        const auto own = inside_->own_parts();
        const auto with = files::with_own_parts(parts, own);
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
            const auto job = files::read_job(*json, with, state.label);
            if (!job) {
                if (whole.unjudged++ == 0) whole.why_unjudged = job.error().text();
            } else {
                whole.attachments.merge(files::own_parts_of(*job, with));
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

Result<void> Book::copy_into(const std::filesystem::path& part) {
    auto made = inside_->guarded<void>([&]() -> Result<void> {
        vacuum_into(*inside_->db, part);
        return {};
    });
    if (!made) return made;
    auto copy = open(part, Access::read_only);
    if (!copy) return tl::unexpected(copy.error());
    auto report = copy->look_through();
    if (!report) return tl::unexpected(report.error());
    if (!report->sound()) return tl::unexpected(report->problem(inside_->path));
    return {};
}

Result<void> Book::copy_to(const std::filesystem::path& path) {
    const auto part = files::begin_part(path);
    if (!part) return tl::unexpected(part.error());
    if (auto ok = copy_into(*part); !ok) {
        std::error_code error;
        std::filesystem::remove(*part, error);
        return ok;
    }
    if (auto ok = set_journals_aside(path); !ok) {
        std::error_code error;
        std::filesystem::remove(*part, error);
        return ok;
    }
    return files::settle_part(*part, path, files::file_mode, true);
}

Result<void> Book::become(Book& from, const std::function<Result<void>()>& kept) {
    const std::string source = from.inside_->file.string();
    return inside_->guarded<void>([&]() -> Result<void> {
        SQLite::Database& db = *inside_->db;
        // Rows are copied and nothing else: what the other file may hold beside our tables stays
        // there. Attaching is not allowed within a transaction.
        SQLite::Statement attach(db, "ATTACH ? AS other");
        attach.bind(1, source);
        attach.exec();
        const auto detach = [&] {
            try {
                db.exec("DETACH other");
            } catch (const SQLite::Exception&) { // it goes with the connection
            }
        };
        auto done = [&]() -> Result<void> {
            SQLite::Transaction t(db, SQLite::TransactionBehavior::IMMEDIATE);
            const auto as_seen = inside_->is_as_seen();
            if (!as_seen) return tl::unexpected(as_seen.error());
            // Nobody else can write now, and what is in the book can still be read.
            if (auto ok = kept(); !ok) return ok;
            db.exec("PRAGMA defer_foreign_keys = ON");
            for (const char* table : {"book", "change", "attachment", "state", "job"})
                db.exec(fmt::format("DELETE FROM main.{}", table));
            for (const char* table : {"book", "change", "attachment", "job", "state"})
                db.exec(fmt::format("INSERT INTO main.{0} SELECT * FROM other.{0}", table));
            db.exec("DELETE FROM main.words");
            db.exec("INSERT INTO main.words (rowid, text) SELECT rowid, text FROM other.words");
            inside_->identity = inside_->book_row().identity;
            inside_->base_document.clear();
            // One more change: nothing that was seen before looks like what is here now.
            inside_->count_change();
            t.commit();
            if (const auto now = fingerprint_of(inside_->path)) inside_->seen = *now;
            return {};
        }();
        detach();
        return done;
    });
}

Result<void> Book::verify() {
    const auto report = look_through();
    if (!report) return tl::unexpected(report.error());
    if (report->sound()) return {};
    return tl::unexpected(report->problem(inside_->path));
}

Result<void> Book::verify(const catalogue::Catalogue& parts) {
    const auto report = look_through(&parts);
    if (!report) return tl::unexpected(report.error());
    if (report->sound()) return {};
    return tl::unexpected(report->problem(inside_->path));
}

} // namespace conductus::shop
