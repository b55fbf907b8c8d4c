// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/base/format.h"
#include "core/circuit/solver.h"
#include "core/job/lookup.h"
#include "core/plan/figures.h"
#include "core/plan/options.h"
#include "core/plan/plan.h"
#include "core/plan/view.h"
#include "core/power/peaks.h"

namespace conductus::plan {
namespace {

using findings::Solved;
using power::Brightness;
using power::Loudness;
using power::State;

Result<Solved> solved(const job::Job& job, const catalogue::Catalogue& parts, const State& state) {
    auto network = power::network_of(job, parts, state);
    if (!network) return tl::unexpected(network.error());
    auto point = circuit::solve(*network);
    if (!point) return tl::unexpected(point.error());
    Solved s;
    s.name = state.effect ? state.effect->name : state.look.name;
    s.effect = state.effect.has_value();
    s.network = std::move(*network);
    s.point = std::move(*point);
    s.mean_share = state.effect ? 1 : lights::mean_factor(state.look.style);
    return s;
}

/// Everything a page shows of one look or effect; the fresh state is kept for the rules.
Result<LookPlan> look_plan(const job::Job& job, const catalogue::Catalogue& parts, State state,
                           std::vector<Solved>& fresh, std::vector<Solved>& sustained) {
    LookPlan plan;
    plan.name = state.effect ? state.effect->name : state.look.name;
    plan.effect = state.effect.has_value();
    plan.style = state.look.style;
    // An effect comes with its sound; a look with the hum.
    state.loudness = plan.effect ? Loudness::peak : Loudness::hum;
    double white_y = 0;
    for (std::size_t i = 0; i < charges.size(); ++i) {
        state.charge = charges[i];
        auto at = solved(job, parts, state);
        if (!at) return tl::unexpected(at.error());
        plan.views[i] = view_of(job, parts, *at, charges[i], white_y);
        if (i == full) {
            plan.peak = Ampere(at->cell_amps());
            fresh.push_back(std::move(*at));
        }
    }
    plan.mean = plan.peak;
    if (!plan.views[full].paint.empty()) plan.swatch = plan.views[full].paint.front();
    if (plan.effect) return plan;
    if (fresh.back().mean_share == 1) {
        sustained.push_back(fresh.back());
    } else {
        state.charge = 1;
        state.brightness = Brightness::mean;
        auto mean = solved(job, parts, state);
        if (!mean) return tl::unexpected(mean.error());
        plan.mean = Ampere(mean->cell_amps());
        sustained.push_back(std::move(*mean));
    }
    return plan;
}

/// Fills looks, effects, run and heat. On an error what came before it stays.
Result<void> solve_all(Plan& plan, std::vector<Solved>& fresh, std::vector<Solved>& sustained) {
    const job::Job& job = *plan.job;
    const catalogue::Catalogue& parts = *plan.parts;
    const auto used = power::look_named(job, job.use.look);
    if (!used) return tl::unexpected(used.error());
    for (const job::Look& look : job.looks) {
        auto one = look_plan(job, parts, {look, {}, Brightness::brightest, Loudness::hum, 1}, fresh,
                             sustained);
        if (!one) return tl::unexpected(one.error());
        plan.looks.push_back(std::move(*one));
    }
    for (const job::Effect& effect : job.effects) {
        auto one = look_plan(job, parts, {*used, effect, Brightness::brightest, Loudness::peak, 1},
                             fresh, sustained);
        if (!one) return tl::unexpected(one.error());
        plan.effects.push_back(std::move(*one));
    }
    const auto hottest =
        std::max_element(sustained.begin(), sustained.end(), [](const Solved& a, const Solved& b) {
            return a.cell_amps() < b.cell_amps();
        });
    plan.heat = power::heat_of(job, parts, hottest->network, hottest->point);
    plan.hottest_look = hottest->name;
    auto run = power::run_down(job, parts);
    if (!run) return tl::unexpected(run.error());
    plan.run = std::move(*run);
    return {};
}

Ampere count_arithmetic(const job::Job& job) {
    int pixels = 0;
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips)
            pixels += strip.pixels;
    return Ampere(0.060 * pixels);
}

findings::Finding trouble_finding(const Problem& p, std::size_t solved, std::size_t looks) {
    return {.id = "supply.not-solved",
            .severity = findings::Severity::stop,
            .station = findings::Station::power,
            .where = {p.where},
            .text = p.where + " " + p.what,
            .detail = p.mend,
            .evidence = {{"looks solved", static_cast<double>(solved), ""},
                         {"looks", static_cast<double>(looks), ""}},
            .fix = {}};
}

} // namespace

const Explained* Plan::figure(std::string_view id) const {
    const auto it =
        std::find_if(figures.begin(), figures.end(), [&](auto& f) { return f.id == id; });
    return it == figures.end() ? nullptr : &*it;
}

const LookPlan* Plan::look(std::string_view name) const { return job::find_name(looks, name); }

std::optional<findings::Severity> Plan::worst(findings::Station station) const {
    std::optional<findings::Severity> worst;
    for (const auto& f : findings)
        if (f.station == station && (!worst || f.severity < *worst)) worst = f.severity;
    return worst;
}

Plan analyse_figures(std::shared_ptr<const job::Job> job,
                     std::shared_ptr<const catalogue::Catalogue> parts) {
    Plan plan;
    plan.job = std::move(job);
    plan.parts = std::move(parts);
    plan.fit = hilt::fit(*plan.job, *plan.parts);
    plan.study = hilt::study(*plan.job, *plan.parts, plan.fit);
    plan.by_count = count_arithmetic(*plan.job);

    std::vector<Solved> fresh, sustained;
    if (auto ok = solve_all(plan, fresh, sustained); !ok) plan.trouble = ok.error();

    std::optional<findings::Tip> tip;
    for (const LookPlan& look : plan.looks)
        if (!look.views[half].paint.empty() && (!tip || look.views[half].tip < tip->ratio))
            tip = findings::Tip{look.name, look.views[half].tip};

    const auto trials = cell_trials(plan);
    const findings::Facts facts{*plan.job, *plan.parts, plan.fit, plan.study, fresh,
                                sustained, tip,         plan.run, trials};
    plan.figures = figures_of(plan, facts);
    plan.findings = findings::judge(facts);
    if (plan.trouble)
        plan.findings.insert(
            plan.findings.begin(),
            trouble_finding(*plan.trouble, plan.looks.size(), plan.job->looks.size()));
    plan.brief = brief_of(plan);
    for (auto& broken : broken_agreements(*plan.job, plan.brief, !plan.trouble))
        plan.findings.push_back(std::move(broken));
    findings::in_order(plan.findings);
    return plan;
}

void add_options(Plan& plan) { plan.options = cell_options(plan, cell_trials(plan)); }

Plan analyse(std::shared_ptr<const job::Job> job,
             std::shared_ptr<const catalogue::Catalogue> parts) {
    Plan plan = analyse_figures(std::move(job), std::move(parts));
    add_options(plan);
    return plan;
}

} // namespace conductus::plan
