// SPDX-License-Identifier: GPL-3.0-or-later
// The shop's own parts in the book. Each version is an attachment of its own, of the type "own":
// which part it is of, which version, and what names its definition.
#include <algorithm>

#include "files/catalogue_json.h"
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

OwnPart Book::Inside::add_own_version(const std::string& id, const std::string& definition) {
    const auto all = own_versions();
    const auto there = all.find(id);
    OwnPart part{id, there == all.end() ? 1 : there->second.back().version + 1, definition,
                 now_utc()};
    files::Attachments both;
    if (!definition.empty())
        both.emplace(files::content_id(definition), files::Attachment{"part", definition});
    std::string record = written(part);
    std::string name = files::content_id(record);
    both.emplace(std::move(name), files::Attachment{"own", std::move(record)});
    for (const auto& [hash, attachment] : both) {
        SQLite::Statement s(*db,
                            "INSERT OR IGNORE INTO attachment (id, type, bytes) VALUES (?,?,?)");
        const std::string packed = pack_attachment(attachment.bytes);
        s.bind(1, hash);
        s.bind(2, attachment.type);
        s.bind(3, packed.data(), static_cast<int>(packed.size()));
        s.exec();
    }
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

Result<OwnPart> Book::keep_own_part(const std::string& definition) {
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
        return inside_->add_own_version(part->id, text);
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

Result<std::vector<std::string>> Book::jobs_with(const std::string& id) {
    return inside_->reading<std::vector<std::string>>([&]() -> Result<std::vector<std::string>> {
        auto list = entries();
        if (!list) return tl::unexpected(list.error());
        std::vector<std::string> names;
        for (const Entry& e : *list) {
            const auto job = current_job(e);
            if (!job) continue; // what is wrong with it is said elsewhere
            const auto types = files::types_of(*job);
            if (std::binary_search(types.begin(), types.end(), id)) names.push_back(e.name);
        }
        return names;
    });
}

} // namespace conductus::shop
