// SPDX-License-Identifier: GPL-3.0-or-later
// Books of older formats: their rows in the newest tables.
#include <fmt/format.h>

#include "shop/book_inside.h"
#include "shop/seal.h"

namespace conductus::shop {

Result<void> Book::Inside::take_from_old(SQLite::Database& old, int version) {
    // Names that are made from what is there, not drawn: two copies of one old book, each brought
    // up to date by itself, stay copies of one book.
    std::string first;
    SQLite::Statement jobs(old, "SELECT id, name, current FROM job ORDER BY id");
    std::int64_t count = 0, all_states = 0;
    while (jobs.executeStep()) {
        JobRow row;
        row.id = jobs.getColumn(0).getInt64();
        row.name = jobs.getColumn(1).getString();
        row.current = jobs.getColumn(2).getInt64();
        SQLite::Statement q(
            old, "SELECT seq, label, at, document FROM state WHERE job = ? ORDER BY seq");
        q.bind(1, row.id);
        std::string current_document;
        while (q.executeStep()) {
            const std::int64_t seq = q.getColumn(0).getInt64();
            const std::string label = q.getColumn(1).getString(), at = q.getColumn(2).getString(),
                              document = q.getColumn(3).getString();
            const std::string hash = files::content_id(document);
            if (row.states == 0) {
                row.uid = seal_of({"job", std::to_string(row.id), label, at, hash});
                write_job_row(row);
            }
            ++row.states;
            insert_state(row, {seq, label, at, document,
                               seal_of({"state", row.uid, std::to_string(seq), at, hash})});
            if (seq == row.current) current_document = document;
        }
        if (row.states == 0)
            return problem(files::path_text(path) + ", job " + shown(row.name, 60),
                           "the job has no states: this older book is damaged",
                           "Go back to a backup of it", Cause::damaged);
        if (first.empty()) first = row.uid;
        // A document that no longer reads is kept as it is; its job keeps the name it had.
        const auto json = files::parse_json(current_document, row.name);
        if (auto ok = set_current(row, row.current, json ? *json : files::Json()); !ok)
            return tl::unexpected(ok.error());
        ++count;
        all_states += row.states;
    }
    std::int64_t changes = all_states;
    if (version >= 2) {
        changes = old.execAndGet("SELECT changes FROM life").getInt64();
        SQLite::Statement q(old, "SELECT id, type, bytes FROM attachment");
        files::Attachments one;
        while (q.executeStep()) {
            one.clear();
            one[q.getColumn(0).getString()] = {q.getColumn(1).getString(),
                                               q.getColumn(2).getString()};
            insert_attachments(one);
        }
    }
    BookRow book;
    book.identity = seal_of({"book", first});
    book.changes = changes;
    book.jobs = count;
    book.states = all_states;
    // Versions of own parts are written down beside what the old book had.
    book.attachments = db->execAndGet("SELECT count(*) FROM attachment").getInt64();
    write_book_row(*db, book, seal_of({"change", book.identity, std::to_string(changes)}));
    return {};
}

} // namespace conductus::shop
