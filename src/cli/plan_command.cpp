// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/job/words.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "core/plan/plan.h"
#include "core/plan/sets.h"
#include "files/json_text.h"
#include "shop/book.h"
#include "threads/side_by_side.h"

namespace conductus::cli {
namespace {

using files::Json;

Json findings_json(const std::vector<findings::Finding>& findings) {
    Json list = Json::array();
    for (const findings::Finding& f : findings) {
        Json evidence = Json::array();
        for (const findings::Evidence& e : f.evidence)
            evidence.push_back({{"label", e.label}, {"value", e.value}, {"unit", e.unit}});
        Json entry{{"id", f.id},         {"severity", findings::word(f.severity)},
                   {"where", f.where},   {"text", f.text},
                   {"detail", f.detail}, {"evidence", evidence}};
        if (f.fix) entry["fix"] = f.fix->text;
        if (f.other) entry["other_fix"] = f.other->text;
        if (!f.mated.empty()) entry["mated"] = f.mated;
        if (!f.follows.empty()) entry["follows"] = findings_json(f.follows);
        if (f.answer)
            entry[f.answer->back                               ? "came_back"
                  : f.answer->how == job::Answer::acknowledged ? "acknowledged"
                                                               : "accepted"] = {
                {"why", f.answer->why}, {"on", f.answer->on}};
        list.push_back(std::move(entry));
    }
    return list;
}

/// Those that count first.
Json all_findings_json(const plan::Plan& plan) {
    Json list = findings_json(plan.findings);
    for (Json& answered : findings_json(plan.answered))
        list.push_back(std::move(answered));
    return list;
}

Json set_json(const std::vector<job::Mated>& set) {
    Json list = Json::array();
    for (const job::Mated& m : set)
        list.push_back({{"socket", m.socket}, {"blade", m.blade}});
    return list;
}

Json figures_json(const plan::Plan& plan) {
    Json list = Json::array();
    for (const Explained& e : plan.figures) {
        Json entry{{"id", e.id}, {"value", nullptr}, {"unit", e.unit}, {"label", e.label}};
        if (e.value) {
            entry["value"] = *e.value;
        } else {
            entry["reason"] = e.reason;
        }
        if (e.worst) entry["worst"] = *e.worst;
        list.push_back(std::move(entry));
    }
    return list;
}

Exit verdict(const plan::Plan& plan) {
    for (const findings::Finding& f : plan.findings)
        if (f.severity == findings::Severity::stop) return stop_finding;
    return fine;
}

void print_findings(const plan::Plan& plan) {
    for (const findings::Finding& f : plan.findings) {
        fmt::print("{:<5} {}", findings::word(f.severity), f.text);
        if (!f.where.empty()) fmt::print("  [{}]", fmt::join(f.where, ", "));
        fmt::print("\n      {}\n", f.detail);
        if (f.fix) fmt::print("      fix: {}\n", f.fix->text);
        if (f.other) fmt::print("      or: {}\n", f.other->text);
        for (const findings::Finding& then : f.follows)
            fmt::print("      follows from it: {} ({})\n", then.text, then.id);
        if (f.answer && !f.answer->back)
            fmt::print("      {} on {}: {}\n", job::word(f.answer->how), f.answer->on,
                       f.answer->why);
    }
    for (const findings::Finding& f : plan.answered)
        fmt::print("{:<5} {}\n      {} on {}: {}\n", job::word(f.answer->how), f.text,
                   findings::word(f.severity), f.answer->on, f.answer->why);
}

} // namespace

Result<shop::Named> job_with(const catalogue::Catalogue& parts, const std::string& name,
                             const MatedChoice& mated) {
    auto named = shop::job_named(name, parts);
    if (!named) return named;
    for (const std::string& one : mated) {
        if (one == "worst") {
            auto worst = plan::worst_set(named->job, *named->parts, side_by_side);
            if (!worst) return tl::unexpected(worst.error());
            named->job.mated = std::move(*worst);
            continue;
        }
        const auto equals = one.find('=');
        if (equals == std::string::npos)
            return problem("--mated", say("'{}' names no blade", one),
                           "Write SOCKET=BLADE, SOCKET= for nothing, or worst");
        const job::Edit put = job::mate(one.substr(0, equals), one.substr(equals + 1));
        if (auto ok = put(named->job); !ok) return tl::unexpected(ok.error());
    }
    return named;
}

Result<shop::Named> job_as_it_stands(const catalogue::Catalogue& parts, const std::string& name,
                                     const MatedChoice& mated) {
    auto named = job_with(parts, name, mated);
    if (named) named->job = job::as_it_stands(named->job);
    return named;
}

Result<plan::Plan> analysed(const catalogue::Catalogue& parts, const std::string& name,
                            const MatedChoice& mated) {
    auto named = job_with(parts, name, mated);
    if (!named) return tl::unexpected(named.error());
    plan::Plan plan = plan::analyse_figures(std::make_shared<const job::Job>(std::move(named->job)),
                                            named->parts, nullptr, side_by_side);
    plan::judge_worst_set(plan, side_by_side);
    return plan;
}

Result<plan::Plan> with_fixes(const catalogue::Catalogue& parts, const std::string& name) {
    auto plan = analysed(parts, name);
    if (plan) plan::offer_fixes(*plan, {}, side_by_side);
    return plan;
}

int plan(const catalogue::Catalogue& parts, const std::string& name, const MatedChoice& mated,
         bool json) {
    // Of a job of very many pixels the figures are wanted at once; `check` tries its fixes.
    constexpr int large = 1000;
    auto plan = analysed(parts, name, mated);
    if (plan && plan->pixels <= large) plan::offer_fixes(*plan, {}, side_by_side);
    if (!plan) return refuse(plan.error());
    if (json) {
        Json all{{"job", plan->job->name},
                 {"figures", figures_json(*plan)},
                 {"findings", all_findings_json(*plan)}};
        if (plan->worst_mated || !mated.empty()) all["mated"] = set_json(plan->mated);
        if (plan->worst_mated) all["worst_mated"] = set_json(plan->worst_mated->set);
        fmt::print("{}\n", all.dump(2));
        return verdict(*plan);
    }
    if (plan->worst_mated)
        fmt::print("mated: {}; the worst set: {}\n\n", job::set_text(plan->mated),
                   plan->worst_mated->is_mated ? "the same"
                                               : job::set_text(plan->worst_mated->set));
    for (const Explained& e : plan->figures) {
        const std::string value = !e.value          ? "– " + e.reason.english()
                                  : e.unit == "min" ? duration(Minute(*e.value))
                                                    : with_unit(*e.value, e.unit);
        std::string label = e.value ? e.label.english() : "";
        if (e.worst)
            label += fmt::format(", at worst {}", e.unit == "min" ? duration(Minute(*e.worst))
                                                                  : with_unit(*e.worst, e.unit));
        fmt::print("{:<15} {:<12} {}\n", e.id, value, label);
    }
    fmt::print("\n");
    print_findings(*plan);
    return verdict(*plan);
}

int check(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto plan = with_fixes(parts, name);
    if (!plan) return refuse(plan.error());
    if (json) {
        fmt::print("{}\n", Json{{"findings", all_findings_json(*plan)}}.dump(2));
    } else {
        print_findings(*plan);
    }
    return verdict(*plan);
}

int refuse(const Problem& problem) {
    fmt::print(stderr, "conductus-cli: {}\n", problem.text());
    return bad_input;
}

} // namespace conductus::cli
