// SPDX-License-Identifier: GPL-3.0-or-later
// The shop's own parts in the book. Each version is an attachment of its own, of the type "own":
// which part it is of, which version, and what names its definition.
#include <algorithm>

#include "files/catalogue_json.h"
#include "files/habits_json.h"
#include "shop/book_inside.h"

namespace conductus::shop {
namespace {

/// A version as it is written down.
std::string written(const OwnPart& part) {
    const files::Json json{{"id", part.id},
                           {"version", part.version},
                           {"definition", part.definition.empty()
                                              ? std::string()
                                              : files::content_id(part.definition)},
                           {"at", part.at}};
    return files::json_text(json) + "\n";
}

} // namespace

std::map<std::string, std::vector<OwnPart>> Book::Inside::own_versions() {
    std::map<std::string, std::vector<OwnPart>> all;
    std::map<std::string, std::string> definitions;
    SQLite::Statement q(*db,
                        "SELECT id, type, bytes FROM attachment WHERE type IN ('part', 'own')");
    std::vector<std::string> records;
    while (q.executeStep()) {
        auto bytes = unpack_attachment(q.getColumn(2).getString());
        const std::string id = q.getColumn(0).getString();
        if (!bytes || files::content_id(*bytes) != id) continue; // verify() tells
        if (q.getColumn(1).getString() == "part")
            definitions.emplace(id, std::move(*bytes));
        else
            records.push_back(std::move(*bytes));
    }
    for (const std::string& record : records) {
        const auto json = files::parse_json(record, "own part");
        if (!json || !json->is_object()) continue;
        OwnPart part;
        part.id = text_at(*json, "id");
        part.at = text_at(*json, "at");
        const auto version = json->find("version");
        if (part.id.empty() || version == json->end() || !version->is_number_integer()) continue;
        part.version = version->get<int>();
        const std::string definition = text_at(*json, "definition");
        if (!definition.empty()) {
            const auto it = definitions.find(definition);
            if (it == definitions.end()) continue;
            part.definition = it->second;
        }
        all[part.id].push_back(std::move(part));
    }
    for (auto& [id, versions] : all)
        std::sort(versions.begin(), versions.end(), [](const OwnPart& a, const OwnPart& b) {
            return std::tie(a.version, a.at) < std::tie(b.version, b.at);
        });
    return all;
}

files::OwnParts Book::Inside::own_parts() {
    files::OwnParts own;
    SQLite::Statement q(*db, "SELECT id, bytes FROM attachment WHERE type = 'part'");
    while (q.executeStep()) {
        auto bytes = unpack_attachment(q.getColumn(1).getString());
        if (!bytes) continue;
        files::Attachment part{"part", std::move(*bytes)};
        std::string id = q.getColumn(0).getString();
        if (files::content_id(part.bytes) == id)
            own.definitions.emplace(std::move(id), std::move(part));
    }
    if (own.definitions.empty()) return own;
    for (const auto& [id, versions] : own_versions())
        if (!versions.back().definition.empty())
            own.newest.emplace(id, files::content_id(versions.back().definition));
    return own;
}

void Book::Inside::add_attachment(const std::string& type, const std::string& bytes) {
    SQLite::Statement s(*db, "INSERT OR IGNORE INTO attachment (id, type, bytes) VALUES (?,?,?)");
    const std::string packed = pack_attachment(bytes);
    s.bind(1, files::content_id(bytes));
    s.bind(2, type);
    s.bind(3, packed.data(), static_cast<int>(packed.size()));
    s.exec();
}

std::pair<std::string, std::string> Book::Inside::readings_of(const std::string& id) {
    SQLite::Statement q(*db, "SELECT id, bytes FROM attachment WHERE type = 'own'");
    while (q.executeStep()) {
        const auto bytes = unpack_attachment(q.getColumn(1).getString());
        if (!bytes) continue;
        const auto json = files::parse_json(*bytes, "readings");
        if (json && json->is_object() && text_at(*json, "readings_of") == id)
            return {q.getColumn(0).getString(), text_at(*json, "csv")};
    }
    return {};
}

OwnPart Book::Inside::add_own_version(const std::string& id, const std::string& definition) {
    const auto all = own_versions();
    const auto there = all.find(id);
    OwnPart part{id, there == all.end() ? 1 : there->second.back().version + 1, definition,
                 now_utc()};
    if (!definition.empty()) add_attachment("part", definition);
    add_attachment("own", written(part));
    return part;
}

Result<std::vector<OwnPart>> Book::own_parts() {
    return inside_->reading<std::vector<OwnPart>>([&]() -> Result<std::vector<OwnPart>> {
        std::vector<OwnPart> newest;
        for (auto& [id, versions] : inside_->own_versions())
            if (!versions.back().definition.empty()) newest.push_back(versions.back());
        return newest;
    });
}

Result<std::vector<OwnPart>> Book::versions_of(const std::string& id) {
    return inside_->reading<std::vector<OwnPart>>([&]() -> Result<std::vector<OwnPart>> {
        auto all = inside_->own_versions();
        const auto it = all.find(id);
        return it == all.end() ? std::vector<OwnPart>{} : std::move(it->second);
    });
}

Result<OwnPart> Book::keep_own_part(const std::string& definition, int in_place_of) {
    const auto part = files::parse_part(definition, "part");
    if (!part) return tl::unexpected(part.error());
    const auto json = files::parse_json(definition, "part");
    if (!json) return tl::unexpected(json.error());
    // As job files have it: what names a definition is made of these very bytes.
    const std::string text = files::json_text(*json);
    return inside_->writing<OwnPart>([&]() -> Result<OwnPart> {
        const auto all = inside_->own_versions();
        if (const auto it = all.find(part->id);
            it != all.end() && it->second.back().definition == text)
            return it->second.back();
        // Its definition stays: a job may have been planned with it meanwhile.
        if (const auto it = all.find(part->id);
            it != all.end() && in_place_of > 0 && it->second.back().version == in_place_of) {
            SQLite::Statement s(*inside_->db, "DELETE FROM attachment WHERE id = ?");
            s.bind(1, files::content_id(written(it->second.back())));
            s.exec();
        }
        return inside_->add_own_version(part->id, text);
    });
}

Result<std::vector<std::string>> Book::take_in_parts(const catalogue::Catalogue& parts) {
    std::vector<std::string> wanted;
    for (const std::string& id : parts.ids())
        if (parts.written(id)) wanted.push_back(id);
    if (wanted.empty()) return wanted;
    return inside_->writing<std::vector<std::string>>([&]() -> Result<std::vector<std::string>> {
        const auto all = inside_->own_versions();
        std::erase_if(wanted, [&](const std::string& id) { return all.contains(id); });
        for (const std::string& id : wanted)
            (void)inside_->add_own_version(id, *parts.written(id));
        return wanted;
    });
}

Result<void> Book::drop_own_part(const std::string& id) {
    return inside_->writing<void>([&]() -> Result<void> {
        const auto all = inside_->own_versions();
        const auto it = all.find(id);
        if (it == all.end() || it->second.back().definition.empty())
            return problem(files::path_text(inside_->path),
                           say("no part of the shop's own is called '{}'", shown(id, 60)),
                           "Name one that is on the shelf", Cause::missing);
        (void)inside_->add_own_version(id, {});
        return {};
    });
}

Result<std::string> Book::readings_of(const std::string& id) {
    return inside_->reading<std::string>(
        [&]() -> Result<std::string> { return inside_->readings_of(id).second; });
}

Result<void> Book::keep_readings(const std::string& id, const std::string& csv) {
    return inside_->writing<void>([&]() -> Result<void> {
        if (const auto before = inside_->readings_of(id); !before.first.empty()) {
            SQLite::Statement s(*inside_->db, "DELETE FROM attachment WHERE id = ?");
            s.bind(1, before.first);
            s.exec();
        }
        const files::Json json{{"readings_of", id}, {"csv", csv}};
        if (!csv.empty()) inside_->add_attachment("own", files::json_text(json) + "\n");
        return {};
    });
}

namespace {

constexpr const char* habits_key = "habits";

} // namespace

std::pair<std::string, std::string> Book::Inside::kept_habits() {
    SQLite::Statement q(*db, "SELECT id, bytes FROM attachment WHERE type = 'own'");
    while (q.executeStep()) {
        const auto bytes = unpack_attachment(q.getColumn(1).getString());
        if (!bytes) continue;
        const auto json = files::parse_json(*bytes, habits_key);
        if (json && json->is_object() && json->contains(habits_key))
            return {q.getColumn(0).getString(), text_at(*json, habits_key)};
    }
    return {};
}

Result<job::Habits> Book::habits() {
    return inside_->reading<job::Habits>([&]() -> Result<job::Habits> {
        const std::string text = inside_->kept_habits().second;
        return text.empty() ? job::Habits{} : files::parse_habits(text);
    });
}

Result<void> Book::keep_habits(const job::Habits& habits) {
    return inside_->writing<void>([&]() -> Result<void> {
        if (const auto before = inside_->kept_habits(); !before.first.empty()) {
            SQLite::Statement s(*inside_->db, "DELETE FROM attachment WHERE id = ?");
            s.bind(1, before.first);
            s.exec();
        }
        const files::Json json{{habits_key, files::habits_text(habits)}};
        if (!(habits == job::Habits{}))
            inside_->add_attachment("own", files::json_text(json) + "\n");
        return {};
    });
}

Result<std::map<std::string, std::vector<std::string>>> Book::uses_of_parts() {
    using Uses = std::map<std::string, std::vector<std::string>>;
    return inside_->reading<Uses>([&]() -> Result<Uses> {
        auto list = entries();
        if (!list) return tl::unexpected(list.error());
        Uses uses;
        for (const Entry& e : *list) {
            const auto job = current_job(e);
            if (!job) continue; // what is wrong with it is said elsewhere
            for (const std::string& id : files::types_of(*job))
                uses[id].push_back(e.name);
        }
        return uses;
    });
}

Result<std::vector<std::string>> Book::jobs_with(const std::string& id) {
    auto uses = uses_of_parts();
    if (!uses) return tl::unexpected(uses.error());
    return std::move((*uses)[id]);
}

} // namespace conductus::shop
