// SPDX-License-Identifier: GPL-3.0-or-later
// The rows of a book: read, written and sealed; documents packed and unpacked.
#include <fmt/format.h>
#include <sqlite3.h>

#include "files/catalogue_json.h"
#include "shop/book_inside.h"
#include "shop/seal.h"

namespace conductus::shop {

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

JobId Book::Inside::write_job_row(const JobRow& row) {
    SQLite::Statement s(*db,
                        "INSERT INTO job (id, uid, name, current, states, kind, purpose, stage, "
                        "promised, came_back, seal) VALUES (?,?,?,?,?,?,?,?,?,?,?) "
                        "ON CONFLICT (id) DO UPDATE SET uid = excluded.uid, "
                        "name = excluded.name, current = excluded.current, "
                        "states = excluded.states, kind = excluded.kind, "
                        "purpose = excluded.purpose, stage = excluded.stage, "
                        "promised = excluded.promised, came_back = excluded.came_back, "
                        "seal = excluded.seal");
    if (row.id != 0) s.bind(1, row.id);
    s.bind(2, row.uid);
    s.bind(3, row.name);
    s.bind(4, row.current);
    s.bind(5, row.states);
    s.bind(6, row.kind);
    s.bind(7, row.purpose);
    s.bind(8, row.stage);
    s.bind(9, row.promised);
    s.bind(10, row.came_back ? 1 : 0);
    s.bind(11, row.seal());
    s.exec();
    return row.id != 0 ? row.id : db->getLastInsertRowid();
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
    write_book_row(*db, row, random_id());
}

void write_book_row(SQLite::Database& db, const BookRow& row, const std::string& stamp) {
    SQLite::Statement change(db, "INSERT OR REPLACE INTO change (number, stamp) VALUES (?, ?)");
    change.bind(1, row.changes);
    change.bind(2, stamp);
    change.exec();
    SQLite::Statement s(db, "INSERT OR REPLACE INTO book (id, identity, changes, jobs, states, "
                            "attachments, seal) VALUES (1, ?, ?, ?, ?, ?, ?)");
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
        return problem(files::path_text(path), say("state {} of a job is damaged", row.seq + 1),
                       "Go back to a backup that has it whole, or save what is whole: "
                       "'conductus-cli shop BOOK rescue -o NEW'",
                       Cause::damaged);
    };
    // A base is told from nothing: there is never a second step.
    if (row.base && !have_base(id, *row.base)) return damaged();
    auto document = packer.unpack(row.body, row.base ? base_document_ : std::string_view());
    if (!document || files::content_id(*document) != row.hash) return damaged();
    return std::move(*document);
}

bool Book::Inside::have_base(JobId id, std::int64_t seq) {
    if (base_job_ == id && base_seq_ == seq) {
        SQLite::Statement q(*db,
                            "SELECT hash FROM state WHERE job = ? AND seq = ? AND base IS NULL");
        q.bind(1, id);
        q.bind(2, seq);
        if (q.executeStep() && q.getColumn(0).getString() == base_hash_) return true;
    }
    auto base = state_row(id, seq);
    if (!base || base->base) return false;
    auto document = packer.unpack(base->body, {});
    if (!document || files::content_id(*document) != base->hash) return false;
    base_job_ = id;
    base_seq_ = seq;
    base_hash_ = base->hash;
    base_document_ = std::move(*document);
    return true;
}

void Book::Inside::insert_state(const JobRow& job, const HistoryState& state) {
    StateRow row;
    row.seq = state.seq;
    row.stamp = state.stamp.empty() ? random_id() : state.stamp;
    row.label = state.label;
    row.at = state.at;
    row.hash = files::content_id(state.document);
    // Told from the state the one before it is told from, while that is near.
    if (const auto before = row.seq > 0 ? state_row(job.id, row.seq - 1) : std::nullopt) {
        const std::int64_t from = before->base.value_or(before->seq);
        if (row.seq - from < most_from_one_base && have_base(job.id, from)) row.base = from;
    }
    row.body = packer.pack(state.document, row.base ? base_document_ : std::string_view());
    if (!row.base) {
        base_job_ = job.id;
        base_seq_ = row.seq;
        base_hash_ = row.hash;
        base_document_ = state.document;
    }
    SQLite::Statement s(*db, "INSERT INTO state (job, seq, stamp, label, at, hash, base, body, "
                             "seal) VALUES (?,?,?,?,?,?,?,?,?)");
    s.bind(1, job.id);
    s.bind(2, row.seq);
    s.bind(3, row.stamp);
    s.bind(4, row.label);
    s.bind(5, row.at);
    s.bind(6, row.hash);
    if (row.base) s.bind(7, *row.base);
    s.bind(8, row.body.data(), static_cast<int>(row.body.size()));
    s.bind(9, row.seal_in(job.uid));
    s.exec();
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
    std::vector<std::string> came; // definitions that were not there
    for (const auto& [id, attachment] : attachments) {
        // The same bytes have the same id.
        SQLite::Statement s(*db,
                            "INSERT OR IGNORE INTO attachment (id, type, bytes) VALUES (?,?,?)");
        s.bind(1, id);
        s.bind(2, attachment.type);
        const std::string packed = pack_attachment(attachment.bytes);
        s.bind(3, packed.data(), static_cast<int>(packed.size()));
        if (s.exec() > 0 && attachment.type == "part") came.push_back(attachment.bytes);
    }
    if (came.empty()) return;
    // A part of the shop's own that nobody had heard of is on the shelf from now on.
    const auto known = own_versions();
    for (const std::string& definition : came)
        if (const auto part = files::parse_part(definition, "part");
            part && !known.contains(part->id))
            (void)add_own_version(part->id, definition);
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
    row.id = write_job_row(row);
    return row;
}

Result<At> Book::Inside::set_current(JobRow& row, std::int64_t seq, const files::Json& document) {
    const std::string name = document.is_object() ? text_at(document, "name") : std::string();
    if (!name.empty() && name != row.name) {
        if (has_job(name))
            return problem(files::path_text(path),
                           say("there is another job named '{}' already", shown(name, 60)),
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

} // namespace conductus::shop
