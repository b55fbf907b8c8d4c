// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/fixes.h"

#include <algorithm>
#include <atomic>
#include <map>

#include "core/findings/rules.h"
#include "core/job/mating.h"
#include "core/job/validate.h"
#include "core/plan/analyse.h"
#include "core/plan/sets.h"

namespace conductus::plan {
namespace {

using findings::Finding;
using findings::Severity;

/// Edits that are looked at for one finding: moving a wire has many places.
constexpr std::size_t most_tries = 24;
/// What a better contact or a thicker wire lets through more.
constexpr double a_little_more = 1.5;
constexpr double hair_amps = 0.05;

/// A finding is the same where it has the same id and is about the same thing.
std::string name_of(const Finding& f) {
    return f.id + " " + (f.where.empty() ? f.detail.english() : f.where[0]);
}

void collect(const std::vector<Finding>& all, std::map<std::string, Severity>& into) {
    for (const Finding& f : all) {
        const auto [at, fresh] = into.emplace(name_of(f), f.severity);
        if (!fresh) at->second = std::min(at->second, f.severity);
        collect(f.follows, into);
    }
}

double most_amps(const Plan& plan) {
    double most = 0;
    for (const auto& s : plan.fresh)
        most = std::max(most, s->cell_amps());
    return most;
}

bool is_of_wiring(std::string_view id) {
    const auto* rule = findings::rule(id);
    return rule && rule->basis == findings::Basis::wiring;
}

/// The finding is about wires that are not there: the first of them shows what else is wrong.
bool is_of_missing_wires(const Finding& finding) {
    return finding.id == "harness.missing" || finding.id == "supply.not-solved" ||
           finding.id == "line.no-data";
}

/// Nothing was solved, or what is missing keeps it dark: then what flows afterwards is no measure.
bool was_whole(const Plan& plan, const Finding& finding) {
    return !plan.trouble && !is_of_wiring(finding.id) && !finding.id.starts_with("line.") &&
           !finding.id.starts_with("config.");
}

/// The catalogue as it is for a job in which it was decided what to plan changed parts with.
std::shared_ptr<const catalogue::Catalogue>
decided(const job::Job& job, const std::shared_ptr<const catalogue::Catalogue>& parts) {
    std::shared_ptr<catalogue::Catalogue> other;
    for (const job::PlannedWith& p : job.planned_with) {
        const auto* newer = parts->newer(p.type);
        if (!newer) continue;
        const bool take = p.definition == newer->definition;
        if (!take && p.passed_over != newer->definition) continue;
        if (!other) other = std::make_shared<catalogue::Catalogue>(*parts);
        other->decide_newer(p.type, take);
    }
    if (other) return other;
    return parts;
}

bool passes(const Plan& before, const std::map<std::string, Severity>& had, const Finding& finding,
            const findings::Fix& fix) {
    job::Job job = *before.whole;
    if (!fix.edit(job)) return false;
    if (job == *before.whole || !job::validate(job, *before.parts)) return false;
    // Polarity and shorts come first: they cost next to nothing to look at.
    for (const Finding& f : findings::judge_copper(job::as_it_stands(job), *before.parts)) {
        if (name_of(f) == name_of(finding)) return false;
        if (f.severity == Severity::stop && !had.contains(name_of(f))) return false;
    }
    const auto parts = decided(job, before.parts);
    Plan after = analyse_figures(std::make_shared<const job::Job>(std::move(job)), parts,
                                 parts == before.parts ? &before : nullptr);
    if (before.worst_mated) judge_worst_set(after, one_by_one);
    std::map<std::string, Severity> has;
    collect(after.findings, has);
    if (has.contains(name_of(finding))) return false;
    if (after.trouble && !before.trouble) return false;
    const bool whole = was_whole(before, finding);
    for (const auto& [name, severity] : has) {
        const auto was = had.find(name);
        if (was != had.end() && was->second <= severity) continue;
        if (severity == Severity::stop) return false;
        // A wire that leaves one wrong place for another mends nothing.
        const std::string_view id = std::string_view(name).substr(0, name.find(' '));
        if (severity == Severity::warn && is_of_wiring(id) && !is_of_missing_wires(finding))
            return false;
        // Less of a stop may be said by a warning: the pins that stand it let a little more
        // through.
        if (severity == Severity::warn && whole && finding.severity != Severity::stop) return false;
    }
    // What stood folded under the finding must not come out graver than the worst that was told.
    if (!after.findings.empty() &&
        after.findings.front().severity < before.findings.front().severity)
        return false;
    if (whole && most_amps(after) > a_little_more * most_amps(before) + hair_amps) return false;
    return true;
}

} // namespace

bool offer_fixes(Plan& plan, const std::function<bool()>& stop, const ParallelFor& parallel_for) {
    std::map<std::string, Severity> had;
    collect(plan.findings, had);
    // A large job costs more to judge, and nobody waits for the twentieth place of a wire.
    constexpr int large = 1000; // pixels
    const std::size_t most = plan.pixels > large ? 3 : most_tries;
    std::atomic<bool> stopped = false;
    parallel_for(plan.findings.size(), [&](std::size_t i) {
        Finding& finding = plan.findings[i];
        finding.fix.reset(), finding.other.reset();
        std::size_t tries = 0;
        for (const findings::Fix& fix : finding.proposed) {
            if (stopped || (stop && stop())) {
                stopped = true;
                return;
            }
            if (++tries > most) break;
            if (!passes(plan, had, finding, fix)) continue;
            if (!finding.fix) {
                finding.fix = fix;
                // Of many places for a wire the first that serves is enough.
                if (finding.proposed.size() > 2) break;
            } else {
                finding.other = fix;
                break;
            }
        }
    });
    return !stopped;
}

} // namespace conductus::plan
