// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/transfer.h"

#include <fmt/format.h>

#include "core/job/limits.h"
#include "files/catalogue_json.h"
#include "files/csv.h"
#include "files/own_parts.h"
#include "shop/book_inside.h"
#include "shop/folder.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;
using files::Json;

/// A file name a person recognises and every file system takes.
std::string file_name(std::size_t number, const std::string& name) {
    std::string safe;
    for (const char c : name)
        if (std::isalnum(static_cast<unsigned char>(c)))
            safe += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        else if (!safe.empty() && safe.back() != '-')
            safe += '-';
    return fmt::format("{:04}-{}", number, safe.substr(0, 40));
}

fs::path file_of(const std::string& id, const files::Attachment& a) {
    if (a.type == "job") return fs::path("kept") / (id + ".json");
    if (a.type == "part") return fs::path("parts") / (id + ".json");
    return fs::path("pictures") / (id + (a.type == "image/png" ? ".png" : ".jpg"));
}

/// Every state as the change from the one before it: small, and exact.
Json history_json(const Whole& whole) {
    Json states = Json::array();
    Json before = Json::object();
    for (const HistoryState& state : whole.states) {
        auto now = files::parse_json(state.document, state.label);
        if (!now) now = Json(state.document);
        states.push_back({{"label", state.label},
                          {"at", state.at},
                          {"hash", files::content_id(state.document)},
                          {"change", Json::diff(before, *now)}});
        before = std::move(*now);
    }
    return {{"format", history_format},
            {"version", folder_version},
            {"current", whole.current},
            {"states", std::move(states)}};
}

Result<std::vector<Whole>> read_book(const fs::path& path, const catalogue::Catalogue& parts,
                                     const files::GoOn& go_on) {
    auto book = Book::open(path, Access::read_only);
    if (!book) return tl::unexpected(book.error());
    if (auto ok = book->verify(); !ok) return tl::unexpected(ok.error());
    const auto entries = book->entries();
    if (!entries) return tl::unexpected(entries.error());
    std::vector<Whole> all;
    for (const Entry& entry : *entries) {
        if (go_on && !go_on(static_cast<double>(all.size()) / static_cast<double>(entries->size())))
            return problem(files::path_text(path), "the import was stopped", "Nothing was taken in",
                           Cause::stopped);
        auto whole = book->whole(entry.id, parts);
        if (!whole) return tl::unexpected(whole.error());
        all.push_back(std::move(*whole));
    }
    return all;
}

constexpr const char* shelf_file = "own-parts.json";

bool is_database(const fs::path& path) {
    std::error_code error;
    if (!fs::is_regular_file(path, error)) return false; // a pipe would be waited for
    const auto head = head_of(path);
    return head && head->database;
}

Result<std::vector<Whole>> read_file(const fs::path& path, const catalogue::Catalogue& parts) {
    auto file = files::read_job_file(path, parts);
    if (!file) return tl::unexpected(file.error());
    Whole whole;
    whole.states.push_back({0,
                            "import from " + files::path_text(path.filename()),
                            "",
                            files::job_text(file->job),
                            {}});
    whole.attachments = std::move(file->attachments);
    // Own parts of this machine become the book's.
    whole.attachments.merge(files::own_parts_of(
        file->job, files::catalogue_for(file->job, parts, {whole.attachments, {}})));
    std::vector<Whole> all;
    all.push_back(std::move(whole));
    return all;
}

} // namespace

std::vector<std::string> as_they_are(const std::vector<Whole>& jobs) {
    std::vector<std::string> lines;
    for (const Whole& whole : jobs) {
        if (whole.unjudged == 0) continue;
        const auto json = files::parse_json(whole.states[whole.current].document, "");
        lines.push_back(
            fmt::format("{}: {} of {} states are kept as they are and can not be judged here: {}",
                        json ? shown(text_at(*json, "name"), 60) : "a job", whole.unjudged,
                        whole.states.size(), whole.why_unjudged));
    }
    return lines;
}

Result<Passed> export_folder(Book& book, const fs::path& folder,
                             const catalogue::Catalogue& parts) {
    std::error_code error;
    fs::path place = folder;
    if (!place.has_filename()) place = place.parent_path(); // "out/"
    if (files::names_a_journal(place))
        return problem(files::path_text(folder), "this name belongs to the journal of a shop book",
                       "Choose another name for the folder", Cause::foreign);
    const auto there = fs::symlink_status(place, error);
    if (fs::exists(there) && (!fs::is_directory(there) || !fs::is_empty(place, error)))
        return problem(files::path_text(folder), "there is something here already",
                       "Name a folder that is not there yet, or an empty one", Cause::foreign);
    const auto entries = book.entries();
    if (!entries) return tl::unexpected(entries.error());
    if (auto ok = files::make_folder(place.parent_path()); !ok) return tl::unexpected(ok.error());
    const auto part = files::begin_part(place);
    if (!part) return tl::unexpected(part.error());
    fs::remove(*part, error);
    // All of it is made beside its place, and put there at once.
    auto made = [&]() -> Result<Passed> {
        Passed passed;
        Json names = Json::array(), hashes = Json::object();
        const auto write = [&](const fs::path& inner, std::string_view text) -> Result<void> {
            hashes[inner.string()] = files::content_id(text);
            return files::write_own(*part / inner, text);
        };
        for (const char* inner : {"", "jobs", "history", "kept", "pictures"})
            if (auto ok = files::make_folder(*part / inner); !ok) return tl::unexpected(ok.error());
        std::vector<Whole> one(1);
        for (std::size_t i = 0; i < entries->size(); ++i) {
            const Entry& entry = (*entries)[i];
            auto whole = book.whole(entry.id, parts);
            if (!whole) return tl::unexpected(whole.error());
            const std::string name = file_name(i + 1, entry.name);
            for (const auto& [id, a] : whole->attachments) {
                const fs::path inner = file_of(id, a);
                if (hashes.contains(inner.string())) continue;
                if (auto ok = files::make_folder(*part / inner.parent_path()); !ok)
                    return tl::unexpected(ok.error());
                if (auto ok = write(inner, a.bytes); !ok) return tl::unexpected(ok.error());
            }
            // Each job complete in itself, where one file can hold it and it can be judged.
            const std::string& document = whole->states[whole->current].document;
            const auto with = files::with_own_parts(parts, whole->attachments);
            auto job = files::parse_stored(document, with, entry.name);
            const auto text =
                job ? files::job_file_text({std::move(*job), whole->attachments}, with)
                    : Result<std::string>(tl::unexpected(job.error()));
            if (auto ok = write(fs::path("jobs") / (name + ".json"), text ? *text : document); !ok)
                return tl::unexpected(ok.error());
            if (auto ok =
                    write(fs::path("history") / (name + ".json"),
                          history_json(*whole).dump(1, ' ', false, Json::error_handler_t::replace) +
                              "\n");
                !ok)
                return tl::unexpected(ok.error());
            names.push_back(name);
            one[0] = std::move(*whole);
            for (std::string& line : as_they_are(one))
                passed.as_they_are.push_back(std::move(line));
        }
        // The shelf of own parts, as a catalogue file: jobs bring only those that they use.
        const auto own = book.own_parts();
        if (!own) return tl::unexpected(own.error());
        if (!own->empty()) {
            Json shelf{{"format", "conductus-catalogue"}, {"version", 1}, {"parts", Json::array()}};
            for (const OwnPart& kept : *own)
                if (auto json = files::parse_json(kept.definition, kept.id))
                    shelf["parts"].push_back(std::move(*json));
            if (auto ok = write(shelf_file, files::json_text(shelf) + "\n"); !ok)
                return tl::unexpected(ok.error());
        }
        const Json manifest{{"format", folder_format},
                            {"version", folder_version},
                            {"jobs", names},
                            {"hashes", hashes}};
        if (auto ok = files::write_own(*part / "book.json", files::json_text(manifest) + "\n"); !ok)
            return tl::unexpected(ok.error());
        passed.jobs = entries->size();
        fs::rename(*part, place, error);
        if (error)
            return problem(files::path_text(folder),
                           say("the folder can not be put in place: {}", error.message()),
                           "Choose another place");
        return passed;
    }();
    if (!made) fs::remove_all(*part, error);
    return made;
}

Result<std::vector<Whole>> read_import(const fs::path& path, const catalogue::Catalogue& parts,
                                       const files::GoOn& go_on) {
    std::error_code error;
    return fs::is_directory(path, error) ? read_folder(path, parts, go_on)
           : is_database(path)           ? read_book(path, parts, go_on)
                                         : read_file(path, parts);
}

Result<std::vector<std::string>> take_in_shelf(Book& book, const fs::path& path,
                                               const catalogue::Catalogue& parts) {
    std::error_code error;
    catalogue::Catalogue shelf = parts.shipped();
    if (fs::is_directory(path, error)) {
        if (!fs::exists(path / shelf_file, error)) return std::vector<std::string>{};
        std::vector<std::string> added;
        auto with = files::with_file(shelf, path / shelf_file, added);
        if (!with) return tl::unexpected(with.error());
        shelf = std::move(*with);
    } else if (is_database(path)) {
        auto other = Book::open(path, Access::read_only);
        if (!other) return tl::unexpected(other.error());
        const auto own = other->own_parts();
        if (!own) return tl::unexpected(own.error());
        // Classes of pixels first: others name them.
        for (const bool pixels : {true, false})
            for (const OwnPart& one : *own) {
                auto type = files::parse_part(one.definition, one.id);
                if (!type) continue; // verify() of that book tells
                if (std::holds_alternative<catalogue::Pixel>(type->figures) == pixels)
                    (void)shelf.set_own(std::move(*type), one.definition);
            }
    }
    return book.take_in_parts(shelf);
}

Result<Passed> import_into(Book& book, const fs::path& path, const catalogue::Catalogue& parts,
                           const files::GoOn& go_on) {
    std::error_code error;
    if (fs::equivalent(path, book.path(), error))
        return problem(files::path_text(path), "this is the book itself", "Name another one");
    auto all = read_import(path, parts, go_on);
    if (!all) return tl::unexpected(all.error());
    Passed passed;
    passed.jobs = all->size();
    passed.as_they_are = as_they_are(*all);
    auto names = book.add_whole(std::move(*all), go_on);
    if (!names) return tl::unexpected(names.error());
    passed.names = std::move(*names);
    if (auto shelf = take_in_shelf(book, path, parts); !shelf) return tl::unexpected(shelf.error());
    return passed;
}

Result<void> export_job(Book& book, const job::Job& job, bool whole, const fs::path& path,
                        const catalogue::Catalogue& parts) {
    files::JobFile file{whole ? job : files::bare(job), {}};
    if (whole) {
        auto attachments = book.attachments_of(job);
        if (!attachments) return tl::unexpected(attachments.error());
        file.attachments = std::move(*attachments);
    }
    const auto text = files::job_file_text(file, parts);
    if (!text) return tl::unexpected(text.error());
    return files::write_output(path, *text, files::Content::job);
}

std::string list_csv(const std::vector<Entry>& entries) {
    std::string csv =
        files::csv_record({"name", "kind", "purpose", "stage", "promised", "came back", "changed"});
    for (const Entry& e : entries)
        csv += files::csv_record({e.name, e.kind, e.purpose, e.stage, e.promised,
                                  e.came_back ? "yes" : "no", e.changed});
    return csv;
}

} // namespace conductus::shop
