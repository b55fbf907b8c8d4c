// SPDX-License-Identifier: GPL-3.0-or-later
#include "shop/rescue.h"

#include <algorithm>
#include <fmt/format.h>
#include <fstream>
#include <iterator>
#include <map>

#include "files/disk.h"
#include "shop/book_inside.h"
#include "shop/pages.h"

namespace conductus::shop {
namespace {

namespace fs = std::filesystem;

const std::string* text(const Value& v) { return std::get_if<std::string>(&v); }
const std::int64_t* whole_number(const Value& v) { return std::get_if<std::int64_t>(&v); }
const std::string* blob(const Value& v) {
    const auto* bytes = std::get_if<Bytes>(&v);
    return bytes ? &bytes->bytes : nullptr;
}

struct Candidate {
    StateRow row;
    std::string document; ///< of an older format, or unpacked
    bool whole = false, sealed = false;
};

class Scavenger {
public:
    void take(std::int64_t number, const std::vector<Value>& row) {
        if (row.size() == 9) take_state(row);
        if (row.size() == 5) take_old_state(row);
        if (row.size() == 11) take_job(number, row);
        if (row.size() == 3 || row.size() == 8) take_old_job(number, row);
        if (row.size() == 3) take_attachment(row);
    }

    Rescue build() {
        Rescue all;
        for (auto& [id, states] : states_) {
            unpack(id, states);
            Whole whole;
            RescuedJob about;
            const auto job = jobs_.find(id);
            std::optional<std::int64_t> current;
            if (job != jobs_.end()) current = job->second.current;
            for (auto& [seq, candidate] : states) {
                if (!candidate.whole) {
                    ++about.lost;
                    continue;
                }
                // What can not be made out as the current one: the newest before it.
                if (!current || seq <= *current) whole.current = whole.states.size();
                if (!candidate.sealed && candidate.row.seal.size() > 0 && job != jobs_.end())
                    about.notes.push_back(
                        fmt::format("the label or time of state {} may be wrong", seq + 1));
                whole.states.push_back({static_cast<std::int64_t>(whole.states.size()),
                                        shown(candidate.row.label),
                                        candidate.row.at,
                                        std::move(candidate.document),
                                        {}});
                if (current && seq == *current) current_there_ = id;
            }
            if (job != jobs_.end() && job->second.states > 0) {
                const auto had = static_cast<std::size_t>(job->second.states);
                about.lost = had > whole.states.size() ? had - whole.states.size() : 0;
            }
            if (whole.states.empty()) {
                ++all.jobs_lost;
                continue;
            }
            if (current && current_there_ != id)
                about.notes.push_back("its current state is lost: the newest whole one is current");
            if (job == jobs_.end())
                about.notes.push_back("its own line is lost: the newest whole state is current");
            keep_what_is_named(whole, about);
            about.states = whole.states.size();
            if (const auto json = files::parse_json(whole.states[whole.current].document, ""))
                about.name = text_at(*json, "name");
            all.jobs.push_back(std::move(whole));
            all.about.push_back(std::move(about));
        }
        for (const auto& [id, job] : jobs_)
            all.jobs_lost += !states_.contains(id);
        return all;
    }

private:
    void take_state(const std::vector<Value>& v) {
        if (!whole_number(v[0]) || !whole_number(v[1]) || !text(v[2]) || !text(v[3]) ||
            !text(v[4]) || !text(v[5]) || !blob(v[7]) || !text(v[8]))
            return;
        Candidate c;
        c.row.seq = *whole_number(v[1]);
        c.row.stamp = *text(v[2]);
        c.row.label = *text(v[3]);
        c.row.at = *text(v[4]);
        c.row.hash = *text(v[5]);
        if (whole_number(v[6])) c.row.base = *whole_number(v[6]);
        c.row.body = *blob(v[7]);
        c.row.seal = *text(v[8]);
        states_[*whole_number(v[0])].emplace(c.row.seq, std::move(c));
    }
    void take_old_state(const std::vector<Value>& v) {
        if (!whole_number(v[0]) || !whole_number(v[1]) || !text(v[2]) || !text(v[3]) || !text(v[4]))
            return;
        // Nothing but its own form says of an older state whether it is whole.
        const auto json = files::parse_json(*text(v[4]), "");
        if (!json || !files::read_document(*json, "")) return;
        Candidate c;
        c.row.seq = *whole_number(v[1]);
        c.row.label = *text(v[2]);
        c.row.at = *text(v[3]);
        c.document = *text(v[4]);
        c.whole = true;
        states_[*whole_number(v[0])].emplace(c.row.seq, std::move(c));
    }
    void take_job(std::int64_t id, const std::vector<Value>& v) {
        for (const std::size_t i : {1u, 2u, 5u, 6u, 7u, 8u, 10u})
            if (!text(v[i])) return;
        if (!whole_number(v[3]) || !whole_number(v[4]) || !whole_number(v[9])) return;
        JobRow row;
        row.id = id;
        row.uid = *text(v[1]);
        row.name = *text(v[2]);
        row.current = *whole_number(v[3]);
        row.states = *whole_number(v[4]);
        row.kind = *text(v[5]);
        row.purpose = *text(v[6]);
        row.stage = *text(v[7]);
        row.promised = *text(v[8]);
        row.came_back = *whole_number(v[9]) != 0;
        if (row.seal() == *text(v[10])) jobs_[id] = std::move(row);
    }
    void take_old_job(std::int64_t id, const std::vector<Value>& v) {
        if (!std::holds_alternative<std::monostate>(v[0]) || !text(v[1]) || !whole_number(v[2]))
            return;
        JobRow row;
        row.id = id;
        row.name = *text(v[1]);
        row.current = *whole_number(v[2]);
        jobs_.emplace(id, std::move(row));
    }
    void take_attachment(const std::vector<Value>& v) {
        if (!text(v[0]) || !text(v[1]) || !blob(v[2])) return;
        auto bytes = unpack_attachment(*blob(v[2]));
        if (!bytes || files::content_id(*bytes) != *text(v[0])) return;
        const auto picture = files::picture_type(*bytes);
        attachments_[*text(v[0])] = {picture ? *picture : *text(v[1]), std::move(*bytes)};
    }

    using States = std::map<std::int64_t, Candidate>;

    void unpack(std::int64_t id, States& states) {
        const auto job = jobs_.find(id);
        // Those that stand by themselves first: the others are told from them.
        for (const bool by_itself : {true, false})
            for (auto& [seq, c] : states) {
                if (c.whole || c.row.base.has_value() == by_itself) continue;
                std::string_view base;
                if (c.row.base) {
                    const auto it = states.find(*c.row.base);
                    if (it == states.end() || !it->second.whole) continue;
                    base = it->second.document;
                }
                auto document = packer_.unpack(c.row.body, base);
                if (!document) continue;
                const std::string hash = files::content_id(*document);
                if (job != jobs_.end()) {
                    // The hash itself may be what was hit.
                    StateRow as = c.row;
                    as.hash = hash;
                    c.sealed = as.seal_in(job->second.uid) == c.row.seal;
                }
                if (hash != c.row.hash && !c.sealed) continue;
                c.whole = true;
                c.document = std::move(*document);
            }
    }

    /// Pictures and kept states that are whole go along; what is lost is taken out of the
    /// documents, since a book may not name what it does not have.
    void keep_what_is_named(Whole& whole, RescuedJob& about) {
        std::size_t lost = 0;
        for (HistoryState& state : whole.states) {
            auto json = files::parse_json(state.document, "");
            if (!json) continue;
            if (take_along(*json, whole.attachments, lost))
                state.document = files::json_text(*json) + "\n";
        }
        for (const auto& [id, a] : attachments_)
            if (a.type == "part" || a.type == "own") whole.attachments.emplace(id, a);
        if (lost > 0)
            about.notes.push_back("pictures or kept states that are lost are taken out of it");
    }

    bool take_along(files::Json& document, files::Attachments& into, std::size_t& lost) {
        bool changed = false;
        const auto sift = [&](files::Json& owner, const char* list, const char* key) {
            if (!owner.is_object() || !owner.contains(list) || !owner[list].is_array()) return;
            files::Json kept = files::Json::array();
            for (auto& entry : owner[list]) {
                const std::string id = text_at(entry, key);
                if (has(id, into)) {
                    kept.push_back(std::move(entry));
                } else {
                    ++lost;
                    changed = true;
                }
            }
            owner[list] = std::move(kept);
        };
        if (document.is_object() && document.contains("inspection") &&
            document["inspection"].is_array())
            for (auto& item : document["inspection"])
                sift(item, "pictures", "id");
        sift(document, "milestones", "kept");
        if (document.is_object() && document.contains("milestones") &&
            document["milestones"].empty())
            document.erase("milestones");
        return changed;
    }

    /// Whether it is whole, with all it names in turn; then it goes along.
    bool has(const std::string& id, files::Attachments& into) {
        const auto it = attachments_.find(id);
        if (it == attachments_.end()) return false;
        if (it->second.type == "job") {
            const auto json = files::parse_json(it->second.bytes, "");
            if (!json) return false;
            for (const std::string& named : named_in(*json))
                if (!has(named, into)) return false;
        }
        into.emplace(id, it->second);
        return true;
    }

    std::map<std::int64_t, States> states_; ///< by the id of their job
    std::map<std::int64_t, JobRow> jobs_;
    files::Attachments attachments_;
    std::optional<std::int64_t> current_there_;
    Packer packer_;
};

} // namespace

Result<Rescue> what_is_whole(const fs::path& book) {
    std::error_code error;
    if (!fs::is_regular_file(book, error))
        return problem(files::path_text(book), "there is no such file", "Check the name",
                       Cause::missing);
    // What a killed program left in a journal is played back into a copy; the file itself is only
    // read.
    auto folder = PrivateFolder::make();
    if (!folder) return tl::unexpected(folder.error());
    const auto copy = copy_with_journals(book, folder->path());
    if (!copy) return tl::unexpected(copy.error());
    try {
        SQLite::Database db(copy->string(), SQLite::OPEN_READWRITE);
        (void)db.execAndGet("PRAGMA journal_mode = DELETE").getString();
    } catch (const SQLite::Exception&) { // then there is nothing that could be played back
    }
    std::ifstream in(*copy, std::ios::binary);
    const std::string bytes((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
    Scavenger scavenger;
    each_row(bytes, [&](std::int64_t number, const std::vector<Value>& row) {
        scavenger.take(number, row);
    });
    Rescue all = scavenger.build();
    if (all.jobs.empty())
        return problem(files::path_text(book), "nothing in this file is a whole state of a job",
                       "Go back to a backup", Cause::damaged);
    return all;
}

Result<Rescue> rescue(const fs::path& book, const fs::path& to) {
    std::error_code error;
    if (const auto target = files::output_target(to, files::Content::book); !target)
        return tl::unexpected(target.error());
    if (fs::exists(fs::symlink_status(to, error)))
        return problem(files::path_text(to), "there is something here already",
                       "Name a file that is not there yet", Cause::foreign);
    auto found = what_is_whole(book);
    if (!found) return found;
    const auto part = files::begin_part(to);
    if (!part) return tl::unexpected(part.error());
    auto made = [&]() -> Result<void> {
        if (auto ok = make_book(*part); !ok) return ok;
        auto fresh = Book::open(*part, Access::read_write);
        if (!fresh) return tl::unexpected(fresh.error());
        std::vector<Whole> jobs = found->jobs;
        const auto names = fresh->add_whole(std::move(jobs));
        if (!names) return tl::unexpected(names.error());
        for (std::size_t i = 0; i < names->size(); ++i)
            found->about[i].name = (*names)[i];
        return fresh->verify();
    }();
    if (!made) {
        fs::remove(*part, error);
        return tl::unexpected(made.error());
    }
    if (auto ok = files::settle_part(*part, to, files::file_mode, false); !ok)
        return tl::unexpected(ok.error());
    return found;
}

} // namespace conductus::shop
