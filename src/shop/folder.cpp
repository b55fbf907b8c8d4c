// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/folder.h"

#include <algorithm>
#include <fmt/format.h>
#include <mutex>
#include <set>
#include <thread>

#include "core/job/limits.h"
#include "files/own_parts.h"
#include "shop/book_inside.h"
#include "threads/side_by_side.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;
using files::Json;

constexpr std::size_t most_states = 100000;
constexpr std::size_t most_text = std::size_t{1} << 30; ///< bytes of all documents of an import

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
                               say("'{}' is no file of this folder", shown(file, 60)),
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
            lane.first = Problem{name, say("state {} of the history {}", i + 1, what),
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
            const auto job = files::read_stored(document, with_, name);
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
                       say("the picture or kept state '{}' is missing", shown(id, 60)),
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

} // namespace

Result<std::vector<Whole>> read_folder(const fs::path& folder, const catalogue::Catalogue& parts,
                                       const files::GoOn& go_on) {
    return Folder(folder, parts, go_on).read();
}

} // namespace conductus::shop
