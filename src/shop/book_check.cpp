// SPDX-License-Identifier: GPL-3.0-or-later
// Looking at every byte of a book: what is whole, what is damaged, and of which job.
#include <SQLiteCpp/Backup.h>
#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <map>
#include <set>

#include "files/own_parts.h"
#include "shop/book_inside.h"
#include "shop/seal.h"

namespace conductus::shop {
namespace {

constexpr std::int64_t most_in_memory = 256 << 20; ///< bytes of a book whose index is checked whole

class Look {
public:
    Look(Book& book, Book::Inside& inside, const catalogue::Catalogue* parts)
        : book_(book), in_(inside), parts_(parts) {}

    Report run() {
        part("the structure of the file", [&] { structure(); });
        part("the book's own line", [&] { head(); });
        part("what is kept beside the jobs", [&] { attachments(); });
        if (parts_)
            part("own parts", [&] {
                if (auto with = book_.with_own_parts(*parts_)) with_ = *with;
            });
        std::vector<JobRow> rows;
        part("the list of jobs", [&] { rows = job_rows(); });
        for (const JobRow& row : rows)
            job(row);
        part("the index for the search", [&] { index(rows); });
        return std::move(report_);
    }

private:
    /// What throws is damaged; what comes after it is looked at all the same.
    template <class Work>
    void part(const char* what, Work&& work) {
        try {
            work();
        } catch (const SQLite::Exception&) {
            report_.damage.push_back(fmt::format("{} can not be read", what));
        }
    }

    void structure() {
        int places = 0;
        SQLite::Statement q(*in_.db, "PRAGMA integrity_check(100)");
        while (q.executeStep())
            places += q.getColumn(0).getString() != "ok";
        if (places > 0)
            report_.damage.push_back(
                fmt::format("the structure of the file is broken in {}{} place{}", places,
                            places >= 100 ? " or more" : "", places == 1 ? "" : "s"));
        int lost = 0;
        SQLite::Statement keys(*in_.db, "PRAGMA foreign_key_check");
        while (keys.executeStep())
            ++lost;
        if (lost > 0) report_.damage.push_back(fmt::format("{} states belong to no job", lost));
    }

    void head() {
        const BookRow row = in_.book_row();
        SQLite::Statement q(*in_.db, "SELECT seal, (SELECT stamp FROM change WHERE number = "
                                     "changes), (SELECT count(*) FROM book) FROM book");
        if (!q.executeStep() ||
            q.getColumn(0).getString() != row.seal(q.getColumn(1).getString()) ||
            q.getColumn(2).getInt() != 1)
            report_.damage.push_back("the book's own line is not what was written");
        const auto count = [&](const char* sql) { return in_.db->execAndGet(sql).getInt64(); };
        if (count("SELECT count(*) FROM job") != row.jobs)
            report_.damage.push_back(fmt::format("of {} jobs {} are there", row.jobs,
                                                 count("SELECT count(*) FROM job")));
        if (count("SELECT count(*) FROM state") != row.states)
            report_.damage.push_back(fmt::format("of {} states {} are there", row.states,
                                                 count("SELECT count(*) FROM state")));
        if (count("SELECT count(*) FROM attachment") != row.attachments)
            report_.damage.push_back(fmt::format("of {} pictures and kept states {} are there",
                                                 row.attachments,
                                                 count("SELECT count(*) FROM attachment")));
        if (count("SELECT count(*) <> coalesce(max(number) - min(number) + 1, 0) FROM change") != 0)
            report_.damage.push_back("the list of changes has a gap");
    }

    void attachments() {
        SQLite::Statement q(*in_.db, "SELECT id, type, bytes FROM attachment");
        while (q.executeStep()) {
            const std::string id = q.getColumn(0).getString(), type = q.getColumn(1).getString();
            const auto unpacked = unpack_attachment(q.getColumn(2).getString());
            if (!unpacked) {
                bad_.insert(id);
                continue;
            }
            const std::string& bytes = *unpacked;
            const auto picture = files::picture_type(bytes);
            const bool known =
                picture ? type == *picture : type == "job" || type == "part" || type == "own";
            if (files::content_id(bytes) != id || !known) {
                bad_.insert(id);
                continue;
            }
            there_.insert(id);
            if (type != "job") continue;
            if (const auto json = files::parse_json(bytes, id))
                for (const std::string& named : named_in(*json))
                    kept_[id].push_back(named);
        }
    }

    std::vector<JobRow> job_rows() {
        std::vector<JobId> ids;
        SQLite::Statement q(*in_.db, "SELECT id FROM job ORDER BY id");
        while (q.executeStep())
            ids.push_back(q.getColumn(0).getInt64());
        std::vector<JobRow> rows;
        for (const JobId id : ids)
            if (auto row = in_.job_row(id)) rows.push_back(std::move(*row));
        return rows;
    }

    void job(const JobRow& row) {
        JobReport report;
        report.name = row.name;
        report.states = static_cast<std::size_t>(std::max<std::int64_t>(0, row.states));
        report.current_lost = true;
        try {
            look_at(row, report);
        } catch (const SQLite::Exception&) {
            report.lost.push_back("what comes after its last whole state can not be read");
        }
        if (report.whole != report.states)
            report.lost.push_back(
                fmt::format("of {} states {} are whole", report.states, report.whole));
        if (report.current_lost) report.lost.push_back("its current state is lost");
        report_.jobs.push_back(std::move(report));
    }

    void look_at(const JobRow& row, JobReport& report) {
        {
            SQLite::Statement q(*in_.db, "SELECT seal FROM job WHERE id = ?");
            q.bind(1, row.id);
            if (!q.executeStep() || q.getColumn(0).getString() != row.seal())
                report.lost.push_back("its own line is not what was written");
        }
        std::vector<std::int64_t> seqs;
        {
            SQLite::Statement q(*in_.db, "SELECT seq FROM state WHERE job = ? ORDER BY seq");
            q.bind(1, row.id);
            while (q.executeStep())
                seqs.push_back(q.getColumn(0).getInt64());
        }
        std::set<std::string> missing;
        for (std::size_t i = 0; i < seqs.size(); ++i) {
            if (i > 0 && seqs[i] != seqs[i - 1] + 1)
                report.lost.push_back(fmt::format("between states {} and {} some are missing",
                                                  seqs[i - 1] + 1, seqs[i] + 1));
            state(row, seqs[i], report, missing);
        }
        if (!missing.empty())
            report.lost.push_back(fmt::format("{} picture{} or kept state{} that it names",
                                              missing.size(), missing.size() == 1 ? "" : "s",
                                              missing.size() == 1 ? "" : "s"));
    }

    void state(const JobRow& row, std::int64_t seq, JobReport& report,
               std::set<std::string>& missing) {
        const auto lost = [&](const char* what) {
            report.lost.push_back(fmt::format("state {}: {}", seq + 1, what));
        };
        std::optional<StateRow> packed;
        try {
            packed = in_.state_row(row.id, seq);
        } catch (const SQLite::Exception&) {
            return lost("it can not be read");
        }
        if (!packed) return lost("it can not be found");
        if (packed->seal != packed->seal_in(row.uid))
            return lost("its line is not what was written");
        const auto document = in_.document_of(row.id, *packed);
        if (!document) return lost("the document is not what was written");
        ++report.whole;
        // Its hash says that it is whole; it is read where it is judged, shown, or names something.
        const bool names = document->find("\"kept\":") != std::string::npos ||
                           document->find("\"id\":") != std::string::npos;
        if (!with_ && !names && seq != row.current) return;
        const auto json = files::parse_json(*document, row.name);
        if (json)
            for (const std::string& id : named_in(*json))
                need(id, missing);
        if (with_ && (!json || !files::read_stored(*json, *with_, row.name))) ++report.unjudged;
        if (seq != row.current) return;
        report.current_lost = false;
        if (!json) return;
        JobRow as = row;
        follow(as, *json);
        const auto name = json->is_object() ? json->find("name") : json->end();
        if (as.seal() != row.seal() ||
            (json->is_object() && name != json->end() && *name != row.name))
            report.lost.push_back("its line on the shelf says something else than its document");
        current_words_[row.id] = words_of(*json);
    }

    void need(const std::string& id, std::set<std::string>& missing) {
        if (!there_.contains(id)) {
            missing.insert(id);
            return;
        }
        if (const auto it = kept_.find(id); it != kept_.end())
            for (const std::string& inner : it->second)
                if (!there_.contains(inner)) missing.insert(inner);
    }

    void index(const std::vector<JobRow>& rows) {
        std::map<JobId, std::string> words;
        SQLite::Statement q(*in_.db, "SELECT rowid, text FROM words");
        while (q.executeStep())
            words[q.getColumn(0).getInt64()] = q.getColumn(1).getString();
        bool right = words.size() == rows.size();
        for (const auto& [id, text] : current_words_)
            right = right && words.contains(id) && words.at(id) == text;
        // The index looks at itself only where it may write; so a copy in memory does.
        const auto now = fingerprint_of(in_.file);
        if (right && now && now->size <= most_in_memory) {
            SQLite::Database copy(":memory:", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
            SQLite::Backup(copy, *in_.db).executeStep(-1);
            try {
                copy.exec("INSERT INTO words (words) VALUES ('integrity-check')");
            } catch (const SQLite::Exception&) {
                right = false;
            }
        }
        if (!right)
            report_.damage.push_back("the index for the search does not agree with the jobs");
        if (!bad_.empty())
            report_.damage.push_back(
                fmt::format("{} pictures, kept states or own parts are not what "
                            "was written",
                            bad_.size()));
    }

    Book& book_;
    Book::Inside& in_;
    const catalogue::Catalogue* parts_;
    std::shared_ptr<const catalogue::Catalogue> with_;
    std::set<std::string> there_, bad_;
    std::map<std::string, std::vector<std::string>> kept_; ///< what kept states name
    std::map<JobId, std::string> current_words_;
    Report report_;
};

} // namespace

bool Report::sound() const {
    return damage.empty() &&
           std::all_of(jobs.begin(), jobs.end(), [](const JobReport& j) { return j.lost.empty(); });
}

Problem Report::problem(const std::filesystem::path& book) const {
    std::vector<std::string> what;
    constexpr std::size_t most = 3;
    std::size_t hurt = 0, whole_jobs = 0;
    for (const JobReport& job : jobs) {
        if (job.lost.empty()) {
            ++whole_jobs;
            continue;
        }
        if (++hurt <= most)
            what.push_back(fmt::format("{}: {}", shown(job.name, 40), job.lost.front()));
    }
    if (hurt > most) what.push_back(fmt::format("and {} more jobs", hurt - most));
    for (std::size_t i = 0; i < damage.size() && i < most; ++i)
        what.push_back(damage[i]);
    return {
        files::path_text(book),
        fmt::format("the shop book is damaged ({}); {} of {} jobs are whole", fmt::join(what, "; "),
                    whole_jobs, jobs.size()),
        "Keep the file, and go back to a backup, or save what is whole: 'conductus-cli shop BOOK "
        "rescue -o NEW'",
        Cause::damaged};
}

Result<Report> Book::look_through(const catalogue::Catalogue* parts) {
    return inside_->reading<Report>(
        [&]() -> Result<Report> { return Look(*this, *inside_, parts).run(); });
}

} // namespace conductus::shop
