// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/transfer.h"

#include <algorithm>
#include <fmt/format.h>
#include <mutex>
#include <set>
#include <thread>

#include "core/job/limits.h"
#include "files/csv.h"
#include "files/own_parts.h"
#include "shop/book_inside.h"
#include "threads/side_by_side.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;
using files::Json;

constexpr const char* folder_format = "conductus-book";
constexpr const char* history_format = "conductus-history";
constexpr int folder_version = 2; ///< from 2 on each file is held against its hash
constexpr std::size_t most_states = 100000;
constexpr std::size_t most_text = std::size_t{1} << 30; ///< bytes of all documents of an import

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

/// Applies the changes that a history is made of: additions, removals and replacements. Others of
/// RFC 6902 could make much out of little.
bool apply(Json& document, const Json& changes) {
    for (const Json& change : changes) {
        const std::string op = text_at(change, "op");
        if (op != "add" && op != "remove" && op != "replace") return false;
        const std::string path = text_at(change, "path");
        if (path.size() > 500) return false;
    }
    try {
        document.patch_inplace(changes);
        return true;
    } catch (const Json::exception&) {
        return false;
    }
}

bool version_is_known(const Json& json) {
    const auto version = json.find("version");
    return version != json.end() && version->is_number_integer() && *version >= 1 &&
           *version <= folder_version;
}

/// The files of an exported folder.
class Folder {
public:
    Folder(fs::path folder, const catalogue::Catalogue& parts, const files::GoOn& go_on)
        : folder_(std::move(folder)), parts_(parts), go_on_(go_on) {}

    Result<std::vector<Whole>> read() {
        const auto text = files::read_text(folder_ / "book.json");
        if (!text)
            return problem(files::path_text(folder_), "this folder holds no exported book",
                           "Name a folder that 'shop BOOK export' wrote; it has a book.json",
                           Cause::foreign);
        const std::string name = files::path_text(folder_ / "book.json");
        const auto json = files::parse_json(*text, name);
        if (!json) return tl::unexpected(json.error());
        if (!json->is_object() || json->value("format", Json()) != folder_format)
            return problem(name, "this is not an exported book", "Name another folder",
                           Cause::foreign);
        if (!version_is_known(*json))
            return problem(name, "this book was exported by a newer Conductus", "Update Conductus",
                           Cause::newer);
        const auto jobs = json->find("jobs");
        if (jobs == json->end() || !jobs->is_array())
            return problem(name + " /jobs", "the list of jobs is missing", "Export the book again");
        if (const auto hashes = json->find("hashes"); hashes != json->end()) {
            if (!hashes->is_object())
                return problem(name + " /hashes", "this is not a list of files",
                               "Export the book again");
            if (auto ok = check_hashes(*hashes); !ok) return tl::unexpected(ok.error());
        }
        if (auto ok = read_parts(); !ok) return tl::unexpected(ok.error());
        std::vector<Whole> all;
        for (const Json& entry : *jobs) {
            if (!entry.is_string() ||
                entry.get_ref<const std::string&>().find('/') != std::string::npos)
                return problem(name + " /jobs", "an entry is not the name of a job",
                               "Export the book again");
            share_ = static_cast<double>(all.size()) / static_cast<double>(jobs->size());
            each_ = 1.0 / static_cast<double>(jobs->size());
            const fs::path path = folder_ / "history" / (entry.get<std::string>() + ".json");
            const auto history = files::read_text(path);
            if (!history) return tl::unexpected(history.error());
            const auto parsed = files::parse_json(*history, files::path_text(path), go_on_);
            if (!parsed) return tl::unexpected(parsed.error());
            auto whole = history_of(*parsed, files::path_text(path));
            if (!whole) return tl::unexpected(whole.error());
            all.push_back(std::move(*whole));
        }
        return all;
    }

private:
    /// What was altered, or has gone, since it was exported is said before anything is taken in.
    Result<void> check_hashes(const Json& hashes) {
        for (const auto& [file, hash] : hashes.items()) {
            const fs::path path = folder_ / file;
            if (fs::path(file).is_absolute() || file.find("..") != std::string::npos)
                return problem(files::path_text(folder_ / "book.json") + " /hashes",
                               fmt::format("'{}' is no file of this folder", shown(file, 60)),
                               "Export the book again");
            const auto text = files::read_text(path);
            if (!text) return tl::unexpected(text.error());
            if (!hash.is_string() || files::content_id(*text) != hash)
                return problem(files::path_text(path),
                               "the file is not what it was when the book was exported",
                               "Export the book again, or import the job file alone",
                               Cause::damaged);
        }
        return {};
    }

    Result<void> read_parts() {
        std::error_code error;
        for (const auto& entry : fs::directory_iterator(folder_ / "parts", error)) {
            auto text = files::read_text(entry.path());
            if (!text) return tl::unexpected(text.error());
            const std::string id = entry.path().stem().string();
            if (files::content_id(*text) != id)
                return problem(files::path_text(entry.path()),
                               "the part is not what it was when the book was exported",
                               "Export the book again", Cause::damaged);
            own_[id] = {"part", std::move(*text)};
        }
        with_ = files::with_own_parts(parts_, own_);
        return {};
    }

    Result<Whole> history_of(const Json& json, const std::string& name) {
        auto bad = [&](std::string what) {
            return problem(name, std::move(what), "Export the book again", Cause::damaged);
        };
        if (!json.is_object() || json.value("format", Json()) != history_format)
            return bad("this is not the history of a job");
        if (!version_is_known(json))
            return bad("this history is of a format that is not known here");
        const auto states = json.find("states");
        const auto current = json.find("current");
        if (states == json.end() || !states->is_array() || states->empty() ||
            states->size() > most_states)
            return bad("the history has no states, or more than any job has");
        if (current == json.end() || !current->is_number_unsigned() ||
            current->get<std::size_t>() >= states->size())
            return bad("the history does not say which state is current");
        Whole whole;
        whole.current = current->get<std::size_t>();
        whole.states.resize(states->size());
        // Each lane works out every state up to its end, which is quick, and judges those from its
        // beginning on, which is not.
        const std::size_t count =
            std::clamp<std::size_t>(states->size() / 64, 1, std::thread::hardware_concurrency());
        std::vector<Lane> lanes(count);
        for (std::size_t k = 0; k < count; ++k) {
            lanes[k].begin = states->size() * k / count;
            lanes[k].end = states->size() * (k + 1) / count;
        }
        std::mutex asking;
        std::size_t done = 0;
        bool stopped = false;
        const auto go_on = [&] {
            const std::scoped_lock one_at_a_time(asking);
            ++done;
            if (go_on_ && !stopped)
                stopped = !go_on_(share_ + each_ * static_cast<double>(done) /
                                               static_cast<double>(states->size()));
            return !stopped;
        };
        side_by_side(count, [&](std::size_t k) { judge(*states, name, lanes[k], whole, go_on); });
        std::set<std::string> named;
        for (Lane& lane : lanes) {
            if (lane.first) return tl::unexpected(*lane.first);
            text_ += lane.text;
            whole.attachments.merge(lane.own);
            named.merge(lane.named);
            if (lane.unjudged > 0 && whole.unjudged == 0) whole.why_unjudged = lane.why_unjudged;
            whole.unjudged += lane.unjudged;
        }
        if (text_ > most_text) return bad("the histories hold more than any shop has written");
        if (auto ok = collect({named.begin(), named.end()}, whole); !ok)
            return tl::unexpected(ok.error());
        if (whole.unjudged > 0) whole.attachments.insert(own_.begin(), own_.end());
        return whole;
    }

    /// Some states of a history, one behind the other.
    struct Lane {
        std::size_t begin = 0, end = 0;
        files::Attachments own;
        std::set<std::string> named;
        std::size_t unjudged = 0, text = 0;
        std::string why_unjudged;
        std::optional<Problem> first;
    };

    void judge(const Json& states, const std::string& name, Lane& lane, Whole& whole,
               const std::function<bool()>& go_on) const {
        const auto bad = [&](std::size_t i, const char* what) {
            lane.first = Problem{name, fmt::format("state {} of the history {}", i + 1, what),
                                 "Export the book again", Cause::damaged};
        };
        Json document = Json::object();
        for (std::size_t i = 0; i < lane.end; ++i) {
            const Json& state = states[i];
            if (!state.is_object() || !state.contains("change") || !state["change"].is_array() ||
                !state.contains("label") || !state["label"].is_string() || !state.contains("at") ||
                !state["at"].is_string())
                return bad(i, "is not readable");
            if (!apply(document, state["change"]))
                return bad(i, "does not follow from the one before it");
            if (i < lane.begin) continue;
            if (!go_on()) {
                lane.first =
                    Problem{name, "the import was stopped", "Nothing was taken in", Cause::stopped};
                return;
            }
            HistoryState& one = whole.states[i];
            one.label = state["label"].get<std::string>();
            one.at = state["at"].get<std::string>();
            const auto job = files::read_job(document, with_, name);
            if (!job && job.error().cause != Cause::unknown_part) {
                lane.first = job.error();
                return;
            }
            const auto hash = state.find("hash");
            one.document = files::json_text(document) + "\n";
            if (!job) {
                if (lane.unjudged++ == 0) lane.why_unjudged = job.error().text();
            } else {
                lane.own.merge(files::own_parts_of(*job, with_));
                // Changes put new keys last; as it was written, a document has them in their order.
                if (hash != state.end() && *hash != files::content_id(one.document))
                    one.document = files::job_text(*job);
                if (hash != state.end() && *hash != files::content_id(one.document))
                    return bad(i, "is not what it was");
            }
            lane.text += one.document.size();
            for (std::string& id : named_in(document))
                lane.named.insert(std::move(id));
        }
    }

    /// What a document names, from the folder's files.
    Result<void> collect(const std::vector<std::string>& ids, Whole& whole) {
        for (const std::string& id : ids) {
            if (whole.attachments.contains(id)) continue;
            auto found = attachment(id);
            if (!found) return tl::unexpected(found.error());
            const auto& added = whole.attachments.emplace(id, std::move(*found)).first->second;
            if (added.type != "job") continue;
            const auto state = files::parse_json(added.bytes, id);
            if (!state) return tl::unexpected(state.error());
            if (auto ok = files::read_document(*state, id); !ok) return tl::unexpected(ok.error());
            if (auto ok = collect(named_in(*state), whole); !ok) return ok;
        }
        return {};
    }

    Result<files::Attachment> attachment(const std::string& id) {
        std::error_code error;
        if (id.find('/') == std::string::npos)
            for (const char* place : {"kept/{}.json", "pictures/{}.png", "pictures/{}.jpg"}) {
                const fs::path path = folder_ / fmt::format(fmt::runtime(place), id);
                if (!fs::exists(path, error)) continue;
                auto bytes = files::read_text(path);
                if (!bytes) return tl::unexpected(bytes.error());
                const auto picture = files::picture_type(*bytes);
                const bool kept = place[0] == 'k';
                if (files::content_id(*bytes) != id || picture.has_value() == kept ||
                    (picture && bytes->size() > job::limits::picture_bytes))
                    return problem(files::path_text(path),
                                   "the file is not what it was when the book was exported",
                                   "Export the book again", Cause::damaged);
                return files::Attachment{kept ? "job" : *picture, std::move(*bytes)};
            }
        return problem(files::path_text(folder_),
                       fmt::format("the picture or kept state '{}' is missing", shown(id, 60)),
                       "Export the book again", Cause::damaged);
    }

    fs::path folder_;
    const catalogue::Catalogue& parts_;
    const files::GoOn& go_on_;
    double share_ = 0, each_ = 1;
    std::size_t text_ = 0;
    files::Attachments own_;
    catalogue::Catalogue with_;
};

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
    whole.attachments.merge(
        files::own_parts_of(file->job, files::with_own_parts(parts, whole.attachments)));
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
            auto job = files::parse_job(document, with, entry.name);
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
                           "the folder can not be put in place: " + error.message(),
                           "Choose another place");
        return passed;
    }();
    if (!made) fs::remove_all(*part, error);
    return made;
}

Result<std::vector<Whole>> read_import(const fs::path& path, const catalogue::Catalogue& parts,
                                       const files::GoOn& go_on) {
    std::error_code error;
    return fs::is_directory(path, error) ? Folder(path, parts, go_on).read()
           : is_database(path)           ? read_book(path, parts, go_on)
                                         : read_file(path, parts);
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
