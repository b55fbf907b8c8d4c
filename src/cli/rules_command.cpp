// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <ctime>
#include <fmt/format.h>

#include "cli/commands.h"
#include "core/base/nearest.h"
#include "core/findings/answered.h"
#include "core/findings/rules.h"
#include "core/job/validate.h"
#include "core/job/words.h"
#include "files/disk.h"
#include "files/job_json.h"
#include "files/json_text.h"

namespace conductus::cli {
namespace {

using files::Json;

Json rule_json(const findings::Rule& rule) {
    Json by_use = Json::object();
    for (const auto& [occasion, word] : job::Words<job::Occasion>::table)
        by_use[word.empty() ? "unsaid" : std::string(word)] =
            findings::word(findings::severity_for(rule, rule.usual, occasion));
    return {{"id", rule.id},
            {"station", findings::word(rule.station)},
            {"reads", findings::word(rule.basis)},
            {"looks_at", rule.looks_at},
            {"severity", findings::word(rule.usual)},
            {"severity_by_occasion", by_use},
            {"severity_otherwise", rule.severity},
            {"source", rule.source},
            {"remedy", rule.remedy}};
}

/// docs/rules.md is this text.
void print_markdown() {
    fmt::print("# Rules\n\nEvery rule that judges a job. This text is made by `conductus-cli rules "
               "--markdown`; the table it is made of is `src/core/findings/rules.cpp`.\n\n"
               "The severity follows what the hilt is for where a rule says so. What is only so "
               "because of another finding is folded under it. A fix is offered after it was "
               "applied and the job that comes of it was judged.\n");
    const auto rules = findings::rules();
    for (int s = 0; s <= static_cast<int>(findings::Station::handover); ++s) {
        const auto station = static_cast<findings::Station>(s);
        bool first = true;
        for (const findings::Rule& rule : rules) {
            if (rule.station != station) continue;
            if (first) {
                std::string title = findings::word(station);
                title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(title[0])));
                fmt::print("\n## {}\n\n| Rule | Looks at | Severity | Source | Remedy |\n"
                           "|---|---|---|---|---|\n",
                           title);
                first = false;
            }
            fmt::print("| `{}` | {} | {} | {} | {} |\n", rule.id, rule.looks_at,
                       findings::severity_text(rule), rule.source, rule.remedy);
        }
    }
}

} // namespace

int rules(bool json, bool markdown) {
    if (markdown) {
        print_markdown();
        return fine;
    }
    if (json) {
        Json all = Json::array();
        for (const findings::Rule& rule : findings::rules())
            all.push_back(rule_json(rule));
        fmt::print("{}\n", Json{{"rules", all}}.dump(2));
        return fine;
    }
    for (const findings::Rule& rule : findings::rules())
        fmt::print("{}\n  looks at: {}\n  severity: {}\n  source: {}\n  remedy: {}\n", rule.id,
                   rule.looks_at, findings::severity_text(rule), rule.source, rule.remedy);
    return fine;
}

namespace {

/// Writes the job after the change, with what was beside it where it came from.
Result<void> write_changed(const std::string& name, job::Job job, const catalogue::Catalogue& all,
                           const std::string& out) {
    auto named = shop::job_named(name, all);
    if (!named) return tl::unexpected(named.error());
    if (auto ok = job::validate(job, *named->parts); !ok) return ok;
    named->job = std::move(job);
    const auto text = shop::text_of_named(name, *named);
    if (!text) return tl::unexpected(text.error());
    return files::write_output(out, *text, files::Content::job);
}

std::string today() {
    const std::time_t now = std::time(nullptr);
    std::tm local{};
    localtime_r(&now, &local);
    return fmt::format("{:04}-{:02}-{:02}", local.tm_year + 1900, local.tm_mon + 1, local.tm_mday);
}

/// Why no finding of that id can be answered.
Problem not_there(const plan::Plan& plan, const std::string& id, const std::string& about) {
    for (const findings::Finding& f : plan.findings)
        if (f.id != id && findings::finding_of(f.follows, id))
            return {id, say("only follows from {}", f.id), say("Answer {}: {}", f.id, f.text)};
    const bool other = std::any_of(plan.findings.begin(), plan.findings.end(),
                                   [&](const findings::Finding& f) { return f.id == id; });
    if (other && !about.empty())
        return {id, say("does not name '{}' first", about), "Leave --about out to answer them all"};
    return {id, "is not among the findings of this job",
            findings::rule(id) ? Message("It raises no such finding")
                               : Message("'conductus-cli rules' lists them")};
}

} // namespace

int mend(const catalogue::Catalogue& parts, const std::string& name, const std::string& id,
         const std::string& out) {
    const auto plan = with_fixes(parts, name);
    if (!plan) return refuse(plan.error());
    const auto found = std::find_if(plan->findings.begin(), plan->findings.end(),
                                    [&](const findings::Finding& f) { return f.id == id; });
    if (found == plan->findings.end()) return refuse(not_there(*plan, id, {}));
    if (!found->fix)
        return refuse(Problem{id, "has no fix that could be offered: each was tried and judged",
                              found->detail});
    job::Job job = *plan->whole;
    if (auto ok = found->fix->edit(job); !ok) return refuse(ok.error());
    if (auto ok = write_changed(name, std::move(job), parts, out); !ok) return refuse(ok.error());
    fmt::print("{}: {}\n", id, found->fix->text);
    return fine;
}

int accept(const catalogue::Catalogue& parts, const std::string& name, const std::string& id,
           const std::string& about, const std::string& why, const std::string& out) {
    const auto plan = analysed(parts, name);
    if (!plan) return refuse(plan.error());
    job::Job job = *plan->whole;
    const bool lithium = findings::about_lithium(id);
    std::vector<std::string> said;
    for (const auto* list : {&plan->findings, &plan->answered})
        for (const findings::Finding& f : *list) {
            if (f.id != id || (!about.empty() && findings::about(f) != about)) continue;
            const auto edit = findings::answer(
                f, lithium ? job::Answer::acknowledged : job::Answer::accepted, why, today());
            if (!edit) return refuse(edit.error());
            if (auto ok = (*edit)(job); !ok) return refuse(ok.error());
            said.push_back(f.text.english());
        }
    if (said.empty()) return refuse(not_there(*plan, id, about));
    if (auto ok = write_changed(name, std::move(job), parts, out); !ok) return refuse(ok.error());
    for (const std::string& text : said)
        fmt::print("{}: {}{}\n", id,
                   lithium ? "acknowledged, it goes on to count: " : "accepted: ", text);
    return fine;
}

} // namespace conductus::cli
