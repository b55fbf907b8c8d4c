// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/transfer.h"

#include <fmt/format.h>
#include <fstream>

#include "core/job/limits.h"
#include "files/csv.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;
using files::Json;

constexpr const char* folder_format = "conductus-book";
constexpr const char* history_format = "conductus-history";
constexpr int folder_version = 1;
constexpr std::size_t most_states = 100000;

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

std::string picture_name(const std::string& id, const files::Attachment& a) {
    return id + (a.type == "image/png" ? ".png" : ".jpg");
}

/// Every state as the change from the one before it: small, and exact.
Json history_json(const Whole& whole) {
    Json states = Json::array();
    Json before = Json::object();
    for (const HistoryState& state : whole.states) {
        Json now = Json::parse(state.document);
        states.push_back(
            {{"label", state.label}, {"at", state.at}, {"change", Json::diff(before, now)}});
        before = std::move(now);
    }
    return {{"format", history_format},
            {"version", folder_version},
            {"current", whole.current},
            {"states", std::move(states)}};
}

Result<Whole> history_of(const Json& json, const catalogue::Catalogue& parts,
                         const std::string& name) {
    auto bad = [&](std::string what) {
        return problem(name, std::move(what), "Export the book again");
    };
    if (!json.is_object() || json.value("format", Json()) != history_format)
        return bad("this is not the history of a job");
    if (json.value("version", Json()) != folder_version)
        return bad("this history is of a format that is not known here");
    const auto states = json.find("states");
    const auto current = json.find("current");
    if (states == json.end() || !states->is_array() || states->empty() ||
        states->size() > most_states)
        return bad("the history has no states");
    if (current == json.end() || !current->is_number_unsigned() ||
        current->get<std::size_t>() >= states->size())
        return bad("the history does not say which state is current");
    Whole whole;
    whole.current = current->get<std::size_t>();
    Json document = Json::object();
    for (const Json& state : *states) {
        if (!state.is_object() || !state.contains("change") || !state["change"].is_array() ||
            !state.contains("label") || !state["label"].is_string() || !state.contains("at") ||
            !state["at"].is_string())
            return bad("a state of the history is not readable");
        try {
            document = document.patch(state["change"]);
        } catch (const Json::exception&) {
            return bad("a state of the history does not follow from the one before it");
        }
        auto job = files::parse_job(document.dump(), parts, name);
        if (!job) return tl::unexpected(job.error());
        HistoryState one;
        one.label = state["label"].get<std::string>();
        one.at = state["at"].get<std::string>();
        one.document = files::job_text(*job);
        whole.states.push_back(std::move(one));
    }
    return whole;
}

/// What the documents of a job name, from the folder's files.
Result<void> collect(Whole& whole, const fs::path& folder, const catalogue::Catalogue& parts) {
    auto picture = [&](const std::string& id) -> Result<void> {
        if (whole.attachments.contains(id)) return {};
        for (const char* ending : {".png", ".jpg"}) {
            const fs::path path = folder / "pictures" / (id + ending);
            std::error_code error;
            if (id.find('/') != std::string::npos || !fs::exists(path, error)) continue;
            auto bytes = files::read_text(path);
            if (!bytes) return tl::unexpected(bytes.error());
            const auto type = files::picture_type(*bytes);
            if (!type || files::content_id(*bytes) != id ||
                bytes->size() > job::limits::picture_bytes)
                return problem(path.string(), "the picture is damaged", "Export the book again");
            whole.attachments[id] = {*type, std::move(*bytes)};
            return {};
        }
        return problem((folder / "pictures").string(),
                       fmt::format("the picture '{}' is missing", id), "Export the book again");
    };
    for (const HistoryState& state : whole.states) {
        const auto job = files::parse_job(state.document, parts, state.label);
        if (!job) return tl::unexpected(job.error());
        for (const std::string& id : files::pictures_of(*job))
            if (auto ok = picture(id); !ok) return ok;
        for (const std::string& id : files::kept_of(*job)) {
            if (whole.attachments.contains(id)) continue;
            const fs::path path = folder / "kept" / (id + ".json");
            auto text = id.find('/') == std::string::npos
                            ? files::read_text(path)
                            : Result<std::string>(problem(path.string(), "not a name", ""));
            if (!text) return tl::unexpected(text.error());
            const auto state_job = files::parse_job(*text, parts, path.string());
            if (!state_job) return tl::unexpected(state_job.error());
            if (files::content_id(*text) != id)
                return problem(path.string(), "the state is not what it was when it was kept",
                               "Export the book again");
            whole.attachments[id] = {"job", std::move(*text)};
            for (const std::string& shown : files::pictures_of(*state_job))
                if (auto ok = picture(shown); !ok) return ok;
        }
    }
    return {};
}

Result<std::vector<Whole>> read_folder(const fs::path& folder, const catalogue::Catalogue& parts) {
    const auto text = files::read_text(folder / "book.json");
    if (!text) {
        return problem(folder.string(), "this folder holds no exported book",
                       "Name a folder that 'shop BOOK export' wrote; it has a book.json");
    }
    const std::string name = (folder / "book.json").string();
    const auto json = files::parse_json(*text, name);
    if (!json) return tl::unexpected(json.error());
    if (!json->is_object() || json->value("format", Json()) != folder_format)
        return problem(name, "this is not an exported book", "Name another folder");
    if (json->value("version", Json()) != folder_version)
        return problem(name, "this book was exported by a newer Conductus", "Update Conductus");
    const auto jobs = json->find("jobs");
    if (jobs == json->end() || !jobs->is_array())
        return problem(name + " /jobs", "the list of jobs is missing", "Export the book again");
    std::vector<Whole> all;
    for (const Json& entry : *jobs) {
        if (!entry.is_string() ||
            entry.get_ref<const std::string&>().find('/') != std::string::npos)
            return problem(name + " /jobs", "an entry is not the name of a job",
                           "Export the book again");
        const fs::path path = folder / "history" / (entry.get<std::string>() + ".json");
        const auto history = files::read_text(path);
        if (!history) return tl::unexpected(history.error());
        const auto parsed = files::parse_json(*history, path.string());
        if (!parsed) return tl::unexpected(parsed.error());
        auto whole = history_of(*parsed, parts, path.string());
        if (!whole) return tl::unexpected(whole.error());
        if (auto ok = collect(*whole, folder, parts); !ok) return tl::unexpected(ok.error());
        all.push_back(std::move(*whole));
    }
    return all;
}

Result<std::vector<Whole>> read_book(const fs::path& path, const catalogue::Catalogue& parts) {
    auto book = Book::open(path, Access::read_only);
    if (!book) return tl::unexpected(book.error());
    if (auto ok = book->verify(); !ok) return tl::unexpected(ok.error());
    const auto entries = book->entries();
    if (!entries) return tl::unexpected(entries.error());
    std::vector<Whole> all;
    for (const Entry& entry : *entries) {
        auto whole = book->whole(entry.id, parts);
        if (!whole) return tl::unexpected(whole.error());
        all.push_back(std::move(*whole));
    }
    return all;
}

bool is_database(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    char head[16]{};
    in.read(head, sizeof head);
    return std::string_view(head, sizeof head) == std::string_view("SQLite format 3\0", 16);
}

Result<std::vector<Whole>> read_file(const fs::path& path, const catalogue::Catalogue& parts) {
    auto file = files::read_job_file(path, parts);
    if (!file) return tl::unexpected(file.error());
    Whole whole;
    whole.states.push_back(
        {0, "import from " + path.filename().string(), "", files::job_text(file->job)});
    whole.attachments = std::move(file->attachments);
    std::vector<Whole> all;
    all.push_back(std::move(whole));
    return all;
}

} // namespace

Result<std::size_t> export_folder(Book& book, const fs::path& folder,
                                  const catalogue::Catalogue& parts) {
    std::error_code error;
    if (fs::exists(folder, error) &&
        (!fs::is_directory(folder, error) || !fs::is_empty(folder, error)))
        return problem(folder.string(), "there is something here already",
                       "Name a folder that is not there yet, or an empty one");
    const auto entries = book.entries();
    if (!entries) return tl::unexpected(entries.error());
    for (const char* inner : {"jobs", "history", "kept", "pictures"}) {
        fs::create_directories(folder / inner, error);
        if (error)
            return problem(folder.string(), "the folder can not be made: " + error.message(),
                           "Choose another place");
    }
    Json names = Json::array();
    for (std::size_t i = 0; i < entries->size(); ++i) {
        const Entry& entry = (*entries)[i];
        auto whole = book.whole(entry.id, parts);
        if (!whole) return tl::unexpected(whole.error());
        const std::string name = file_name(i + 1, entry.name);
        for (const auto& [id, a] : whole->attachments) {
            const fs::path path = a.type == "job" ? folder / "kept" / (id + ".json")
                                                  : folder / "pictures" / picture_name(id, a);
            if (auto ok = files::write_text(path, a.bytes); !ok) return tl::unexpected(ok.error());
        }
        // Each job complete in itself, where one file can hold it.
        auto job = files::parse_job(whole->states[whole->current].document, parts, entry.name);
        if (!job) return tl::unexpected(job.error());
        const auto text = files::job_file_text({std::move(*job), whole->attachments}, parts);
        if (auto ok = files::write_text(folder / "jobs" / (name + ".json"),
                                        text ? *text : whole->states[whole->current].document);
            !ok)
            return tl::unexpected(ok.error());
        const std::string history =
            history_json(*whole).dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
        if (auto ok = files::write_text(folder / "history" / (name + ".json"), history); !ok)
            return tl::unexpected(ok.error());
        names.push_back(name);
    }
    // Last, so that half a folder is no book.
    const Json manifest{{"format", folder_format}, {"version", folder_version}, {"jobs", names}};
    if (auto ok = files::write_text(folder / "book.json", manifest.dump(2) + "\n"); !ok)
        return tl::unexpected(ok.error());
    return entries->size();
}

Result<std::vector<Whole>> read_import(const fs::path& path, const catalogue::Catalogue& parts) {
    std::error_code error;
    return fs::is_directory(path, error) ? read_folder(path, parts)
           : is_database(path)           ? read_book(path, parts)
                                         : read_file(path, parts);
}

Result<std::vector<std::string>> import_into(Book& book, const fs::path& path,
                                             const catalogue::Catalogue& parts) {
    std::error_code error;
    if (fs::equivalent(path, book.path(), error))
        return problem(path.string(), "this is the book itself", "Name another one");
    auto all = read_import(path, parts);
    if (!all) return tl::unexpected(all.error());
    return book.add_whole(std::move(*all), parts);
}

Result<void> export_job(Book& book, const job::Job& job, bool whole, const fs::path& path,
                        const catalogue::Catalogue& parts) {
    if (!whole) return files::write_text(path, files::job_text(files::bare(job)));
    auto attachments = book.attachments_of(job, parts);
    if (!attachments) return tl::unexpected(attachments.error());
    const auto text = files::job_file_text({job, std::move(*attachments)}, parts);
    if (!text) return tl::unexpected(text.error());
    return files::write_text(path, *text);
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
