// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/sets.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

#include "core/findings/answered.h"
#include "core/job/lookup.h"
#include "core/plan/analyse.h"
#include "core/plan/look_plan.h"

namespace conductus::plan {
namespace {

using findings::Finding;
using job::Mated;
using Set = std::vector<Mated>;

/// Whether something that is in no socket could be put into one that is empty.
bool could_take_more(const job::Job& job, const Set& set) {
    return std::any_of(set.begin(), set.end(), [&](const Mated& m) {
        if (!m.blade.empty()) return false;
        const auto mates = job::mates_of(job, m.socket);
        return std::any_of(mates.begin(), mates.end(), [&](const std::string& blade) {
            return std::none_of(set.begin(), set.end(),
                                [&](const Mated& other) { return other.blade == blade; });
        });
    });
}

std::vector<Set> sets_to_judge(const job::Job& job) {
    std::vector<Set> all = job::all_sets(job, most_sets + 1);
    if (all.size() <= most_sets) return all;
    // More asked anywhere never makes the cells give less: a fuller set is the worse one.
    all = job::all_sets(job, 100000);
    const Set today = all.front();
    std::erase_if(all, [&](const Set& s) { return s != today && could_take_more(job, s); });
    if (all.size() > most_sets) all.resize(most_sets);
    return all;
}

std::string key_of(const Finding& f) { return f.id + " " + findings::about(f); }

void gather(const std::vector<Finding>& findings,
            std::map<std::string, findings::Severity>& gravest) {
    for (const Finding& f : findings) {
        const auto [at, fresh] = gravest.emplace(key_of(f), f.severity);
        if (!fresh) at->second = std::min(at->second, f.severity);
        gather(f.follows, gravest);
    }
}

} // namespace

Result<Set> worst_set(const job::Job& whole, const catalogue::Catalogue& parts,
                      const ParallelFor& parallel_for, const std::function<bool()>& stop) {
    const std::vector<Set> sets = sets_to_judge(whole);
    std::vector<Result<double>> amps(sets.size());
    parallel_for(sets.size(), [&](std::size_t i) {
        if (stop && stop()) return;
        const auto asked = most_asked_of(job::as_mated(whole, sets[i]), parts, {});
        if (asked)
            amps[i] = (*asked)->cell_amps();
        else
            amps[i] = tl::unexpected(asked.error());
    });
    if (whole.looks.empty()) return tl::unexpected(amps.front().error());
    std::size_t worst = 0;
    for (std::size_t i = 0; i < sets.size(); ++i) {
        if (!amps[i]) return sets[i];
        // What differs by less than the solver settles to is alike.
        if (*amps[i] > *amps[worst] * (1 + 1e-9)) worst = i;
    }
    return sets[worst];
}

void suit_all_sets(Plan& plan) {
    if (!job::has_choice(*plan.whole)) return;
    std::map<std::string, int> longest;
    std::map<std::string, std::string> needs;
    for (const Set& set : sets_to_judge(*plan.whole)) {
        const auto chains = lights::chains_of(job::as_mated(*plan.whole, set), *plan.parts);
        for (const lights::Chain& chain : chains.chains)
            if (chain.longest > longest[chain.pad]) {
                longest[chain.pad] = chain.longest;
                needs[chain.pad] = job::set_text(set);
            }
    }
    auto& mismatches = plan.harness.data.mismatches;
    std::erase_if(mismatches, [&](const harness::Mismatch& m) {
        return m.id == "line.programmed-differs" || m.id == "config.line-bare";
    });
    for (harness::DataLine& line : plan.harness.data.lines) {
        line.suits = longest[line.pad];
        if (!line.configured || *line.configured == longest[line.pad]) continue;
        // Meant for another pad, which is told already.
        if (longest[line.pad] == 0 && line.wired == 0 &&
            std::any_of(mismatches.begin(), mismatches.end(), [&](const harness::Mismatch& m) {
                return m.id == "config.line-elsewhere";
            }))
            continue;
        const int suits = line.suits, set = *line.configured;
        harness::Mismatch m;
        m.where = {std::string(job::split_terminal(line.pad).first)};
        m.set = set, m.wired = suits;
        const auto program = [pad = line.pad, suits](job::Job& job) {
            for (job::Line& l : job.lines)
                if (l.pad == pad) l.pixels = suits;
            if (suits == 0) std::erase_if(job.lines, [&](auto& l) { return l.pad == pad; });
        };
        m.config = program;
        if (suits == 0) {
            m.id = "config.line-bare";
            m.text = say("{} is set to {} pixels, nothing is wired to it", line.pad, set);
            m.detail = "Either lights are missing there, or the setting is of another build.";
            m.config_text = "take its setting out";
        } else {
            m.id = "line.programmed-differs";
            m.text =
                say("{} is set to {} pixels, {} suit all that may be mated", line.pad, set, suits);
            m.detail = set < suits
                           ? say("With {} the last ones stay dark. A count that suits the longest "
                                 "is right for the others too.",
                                 needs[line.pad])
                           : Message("The board draws every blade longer than it is: effects near "
                                     "the tip are lost.");
            m.config_text = fmt::format("program {}", suits);
        }
        mismatches.push_back(std::move(m));
    }
}

bool judge_worst_set(Plan& plan, const ParallelFor& parallel_for,
                     const std::function<bool()>& stop) {
    if (!job::has_choice(*plan.whole)) return true;
    const auto set = worst_set(*plan.whole, *plan.parts, parallel_for, stop);
    if (stop && stop()) return false;
    if (!set) return true; // without a look nothing is asked for
    WorstSet worst;
    worst.set = *set;
    worst.text = job::set_text(*set, plan.mated);
    if (*set == plan.mated) {
        worst.is_mated = true;
        plan.worst_mated = std::move(worst);
        return true;
    }
    job::Job with = *plan.whole;
    with.mated = *set;
    worst.plan = std::make_shared<const Plan>(analyse_figures(
        std::make_shared<const job::Job>(std::move(with)), plan.parts, nullptr, parallel_for));
    // What the worst set alone has, and what it has graver, is told with its name.
    std::map<std::string, findings::Severity> known;
    gather(plan.findings, known);
    for (const Finding& f : worst.plan->findings) {
        if (f.severity == findings::Severity::note || f.id == "agreement.broken") continue;
        const auto at = known.find(key_of(f));
        if (at != known.end() && at->second <= f.severity) continue;
        if (at != known.end())
            std::erase_if(plan.findings, [&](const Finding& mine) {
                return key_of(mine) == at->first && mine.follows.empty();
            });
        Finding told = f;
        told.detail = say("With {}: {}", worst.text, f.detail);
        told.mated = worst.text;
        plan.findings.push_back(std::move(told));
    }
    findings::in_order(plan.findings);
    for (Explained& figure : plan.figures)
        if (const Explained* then = worst.plan->figure(figure.id); then && then->value)
            figure.worst = then->value, figure.worst_set = worst.text;
    plan.worst_mated = std::move(worst);
    return true;
}

} // namespace conductus::plan
