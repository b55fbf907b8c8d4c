// SPDX-License-Identifier: GPL-3.0-or-later
// The shelf's list, and the search over every word of every job.
#include <fmt/format.h>

#include "shop/book_inside.h"

namespace conductus::shop {

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

} // namespace conductus::shop
