// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "cli/commands.h"
#include "core/base/format.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "core/plan/plan.h"
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
        if (!f.follows.empty()) entry["follows"] = findings_json(f.follows);
        list.push_back(std::move(entry));
    }
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
    }
}

} // namespace

Result<plan::Plan> analysed(const catalogue::Catalogue& parts, const std::string& name) {
    auto named = shop::job_named(name, parts);
    if (!named) return tl::unexpected(named.error());
    return plan::analyse_figures(std::make_shared<const job::Job>(std::move(named->job)),
                                 named->parts, nullptr, side_by_side);
}

Result<plan::Plan> with_fixes(const catalogue::Catalogue& parts, const std::string& name) {
    auto plan = analysed(parts, name);
    if (plan) plan::offer_fixes(*plan, {}, side_by_side);
    return plan;
}

int plan(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    // Of a job of very many pixels the figures are wanted at once; `check` tries its fixes.
    constexpr int large = 1000;
    auto plan = analysed(parts, name);
    if (plan && plan->pixels <= large) plan::offer_fixes(*plan, {}, side_by_side);
    if (!plan) return refuse(plan.error());
    if (json) {
        const Json all{{"job", plan->job->name},
                       {"figures", figures_json(*plan)},
                       {"findings", findings_json(plan->findings)}};
        fmt::print("{}\n", all.dump(2));
        return verdict(*plan);
    }
    for (const Explained& e : plan->figures) {
        const std::string value = !e.value          ? "– " + e.reason.english()
                                  : e.unit == "min" ? duration(Minute(*e.value))
                                                    : with_unit(*e.value, e.unit);
        fmt::print("{:<15} {:<12} {}\n", e.id, value, e.value ? e.label.english() : "");
    }
    fmt::print("\n");
    print_findings(*plan);
    return verdict(*plan);
}

int check(const catalogue::Catalogue& parts, const std::string& name, bool json) {
    const auto plan = with_fixes(parts, name);
    if (!plan) return refuse(plan.error());
    if (json) {
        fmt::print("{}\n", Json{{"findings", findings_json(plan->findings)}}.dump(2));
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
